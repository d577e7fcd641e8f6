package remitto.server.delivery;

import static org.assertj.core.api.Assertions.assertThat;

import com.sun.net.httpserver.HttpExchange;
import com.sun.net.httpserver.HttpServer;
import java.io.IOException;
import java.net.InetSocketAddress;
import java.nio.charset.StandardCharsets;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.concurrent.atomic.AtomicInteger;
import org.junit.jupiter.api.AfterEach;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;
import remitto.core.fieldrule.FieldRule;
import remitto.core.fieldrule.Receives;
import remitto.server.harness.TestRoute;
import remitto.server.harness.TestServer;
import remitto.server.harness.TestUser;
import tools.jackson.databind.JsonNode;

/** A tool that is overloaded is obeyed where it says until when, and backed off from where it does not. */
class OverloadedToolTest {
    private static final String PROFILE = """
            profile: busy-tool
            title: Busy tool
            confirm: none
            connection:
              - {name: base_address, label: Address}
            authentication: {kind: none}
            limits: {calls: 100, period_seconds: 1, concurrency: 1, records_per_call: 1, bytes_per_call: 10000, longest_call_seconds: 5}
            objects: {fixed: [{name: thing, title: Thing}]}
            fields:
              fixed:
                - {name: ref, title: Ref, kind: TEXT, required: true, unique: true}
                - {name: town, title: Town, kind: TEXT}
            add: {method: POST, path: /things, body: "{record}", record: {ref: "{fields.ref}"}}
            results: {}
            """;

    private final AtomicInteger calls = new AtomicInteger();
    private volatile int refusals;
    private volatile Optional<String> retryAfter = Optional.empty();
    private volatile int status = 503;
    private HttpServer tool;
    private TestServer server;
    private TestUser editor;
    private TestRoute shop;

    @BeforeEach
    void start() throws IOException {
        tool = HttpServer.create(new InetSocketAddress("127.0.0.1", 0), 0);
        tool.createContext("/things", this::answer);
        tool.start();
        server = TestServer.start();
        server.warehouse().run("delete from shop.customers where id > 3");
        editor = server.user("EDITOR");
        shop = new TestRoute(server, editor);
        editor.post("/api/profiles", Map.of("basedOn", 0, "text", PROFILE, "note", ""))
                .ok();
        editor.post("/api/profiles/busy-tool/in-service", Map.of("version", 1)).ok();
    }

    @AfterEach
    void stop() {
        server.close();
        tool.stop(0);
    }

    private void answer(HttpExchange exchange) throws IOException {
        exchange.getRequestBody().readAllBytes();
        boolean refused = calls.incrementAndGet() <= refusals;
        if (refused) {
            retryAfter.ifPresent(text -> exchange.getResponseHeaders().add("Retry-After", text));
        }
        byte[] body = "{}".getBytes(StandardCharsets.UTF_8);
        exchange.sendResponseHeaders(refused ? status : 200, body.length);
        exchange.getResponseBody().write(body);
        exchange.close();
    }

    private JsonNode send() {
        long destination = server.admin()
                .post(
                        "/api/destinations",
                        Map.of(
                                "name",
                                "Busy",
                                "profile",
                                "busy-tool",
                                "limitsOff",
                                true,
                                "settings",
                                Map.of(
                                        "base_address",
                                        "http://127.0.0.1:" + tool.getAddress().getPort())))
                .ok()
                .get("id")
                .asLong();
        long route = editor.post(
                        "/api/routes",
                        Map.of(
                                "name",
                                "Things",
                                "ends",
                                Map.of("datasetId", shop.dataset(), "destinationId", destination, "object", "thing"),
                                "spec",
                                TestRoute.events(List.of(
                                        FieldRule.of("ref", new Receives.Computed("string(id)")),
                                        FieldRule.of("town", new Receives.FromColumn("town"))))))
                .ok()
                .get("id")
                .asLong();
        editor.post("/api/routes/" + route + "/in-service", Map.of("version", 1))
                .ok();
        return shop.run(route);
    }

    @Test
    void overloadWithoutATimeBacksOffAndHaltsTheRun() {
        refusals = 1_000;
        JsonNode run = send();
        assertThat(run.get("state").asString()).isEqualTo("SUSPENDED");
        assertThat(run.get("message").asString()).contains("overloaded");
        assertThat(calls.get()).as("calls before it gives up").isBetween(2, 30);
    }

    @Test
    void aToolThatSaysUntilWhenIsObeyed() {
        refusals = 3;
        status = 429;
        retryAfter = Optional.of("1");
        JsonNode run = send();
        assertThat(run.get("state").asString()).isEqualTo("SENT");
        assertThat(run.get("outcomes").get("ACKNOWLEDGED").asInt()).isEqualTo(3);
        assertThat(calls.get()).isEqualTo(6);
    }
}

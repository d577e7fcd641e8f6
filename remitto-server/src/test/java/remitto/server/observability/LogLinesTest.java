package remitto.server.observability;

import static org.assertj.core.api.Assertions.assertThat;

import java.io.ByteArrayOutputStream;
import java.io.PrintStream;
import java.math.BigDecimal;
import java.nio.charset.StandardCharsets;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import org.junit.jupiter.api.AfterEach;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;
import org.slf4j.MDC;
import remitto.server.harness.TestRoute;
import remitto.server.harness.TestServer;
import remitto.server.harness.TestUser;
import remitto.server.platform.LogContext;
import tools.jackson.databind.JsonNode;
import tools.jackson.databind.json.JsonMapper;

/** Lines of the log as JSON: each says which run it belongs to, and none holds a value of anybody. */
class LogLinesTest {
    private static final JsonMapper JSON = JsonMapper.builder().build();

    private final PrintStream before = System.out;
    private final ByteArrayOutputStream said = new ByteArrayOutputStream();

    @BeforeEach
    void listen() {
        System.setOut(new PrintStream(said, true, StandardCharsets.UTF_8));
    }

    @AfterEach
    void leave() {
        System.setOut(before);
    }

    @Test
    void aWholeRunIsTracedByItsIdsAndNamesNobody() {
        String mails;
        long run;
        long route;
        try (TestServer server = TestServer.start(Map.of("logging.structured.format.console", "ecs"))) {
            TestUser editor = server.user("EDITOR");
            TestRoute shop = new TestRoute(server, editor);
            route = shop.add(editor, "Logged", TestRoute.spec(Optional.of(BigDecimal.TEN)));
            run = shop.run(route).get("id").asLong();
            // One run that fails in the source, whose words name a value.
            server.warehouse().run("alter table shop.customers rename column email to mail");
            shop.prepare(route);
            mails = server.warehouse().text("select string_agg(mail, ' ') from shop.customers");
        } finally {
            System.setOut(before);
        }
        List<JsonNode> lines = said.toString(StandardCharsets.UTF_8)
                .lines()
                .filter(line -> line.startsWith("{"))
                .map(JSON::readTree)
                .toList();
        String id = Long.toString(run);
        String ofRoute = Long.toString(route);
        assertThat(lines.stream().filter(line -> line.path("run").asString("").equals(id)))
                .as(said.toString(StandardCharsets.UTF_8))
                .extracting(line -> line.get("message").asString())
                .contains("Run " + id + " is prepared: READY", "Run " + id + " ended as SENT");
        assertThat(lines)
                .filteredOn(line -> line.path("run").asString("").equals(id))
                .allSatisfy(line -> assertThat(line.get("route").asString()).isEqualTo(ofRoute));
        assertThat(lines)
                .anySatisfy(line -> assertThat(line.get("message").asString()).endsWith("ended as FAILED"));
        String all = said.toString(StandardCharsets.UTF_8);
        assertThat(mails.split(" ")).hasSizeGreaterThanOrEqualTo(40).noneMatch(all::contains);
        assertThat(all).doesNotContain(TestServer.PASSWORD);
    }

    @Test
    void idsAreGoneOnceTheWorkIs() {
        StringBuilder seen = new StringBuilder();
        Runnable failing = LogContext.ofRun(7, 3).around(() -> {
            seen.append(MDC.get("run")).append(' ').append(MDC.get("route"));
            throw new IllegalStateException("it failed");
        });
        assertThat(org.assertj.core.api.Assertions.catchThrowable(failing::run)).hasMessage("it failed");
        assertThat(seen).hasToString("7 3");
        assertThat(MDC.get("run")).isNull();
        assertThat(MDC.get("route")).isNull();
    }
}

package remitto.connect.profile;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import com.sun.net.httpserver.HttpExchange;
import com.sun.net.httpserver.HttpServer;
import java.io.IOException;
import java.io.OutputStream;
import java.net.InetSocketAddress;
import java.net.URI;
import java.net.http.HttpRequest;
import java.nio.charset.StandardCharsets;
import java.time.Clock;
import java.time.Duration;
import java.util.Map;
import java.util.concurrent.Executors;
import java.util.concurrent.atomic.AtomicBoolean;
import java.util.concurrent.atomic.AtomicInteger;
import org.junit.jupiter.api.AfterEach;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;
import remitto.connect.destination.RateLimit;
import remitto.connect.signin.Login;

/** A tool that never ends its answer, or sends more than fits, costs one call and nothing else. */
class SickToolTest {
    private static final String PROFILE = """
            profile: sick
            title: Sick tool
            confirm: none
            connection:
              - {name: base_address, label: Address}
            authentication: {kind: none}
            limits: {calls: 10, period_seconds: 1, concurrency: 1, records_per_call: 1, bytes_per_call: 1000, longest_call_seconds: 1}
            objects: {fixed: [{name: thing, title: Thing}]}
            fields: {fixed: [{name: ref, title: Ref, kind: TEXT, required: true, unique: true}]}
            add: {method: POST, path: /things, body: "{record}", record: {ref: "{fields.ref}"}}
            results: {}
            """;

    private final AtomicBoolean brokenOff = new AtomicBoolean();
    private final AtomicInteger counted = new AtomicInteger();
    private HttpServer server;
    private HttpTransport transport;

    @BeforeEach
    void start() throws IOException {
        server = HttpServer.create(new InetSocketAddress("127.0.0.1", 0), 0);
        server.setExecutor(Executors.newCachedThreadPool());
        server.createContext("/dribble", this::dribble);
        server.createContext("/flood", this::flood);
        server.createContext("/counted", exchange -> {
            counted.incrementAndGet();
            answer(exchange, "{}");
        });
        server.createContext("/fine", exchange -> answer(exchange, "{\"ok\": true}"));
        server.start();
        transport = new HttpTransport(
                new ProfileReader().read(PROFILE),
                Login.with(Map.of()),
                TestTools.with(Clock.systemUTC()),
                RateLimit.NONE,
                CallWatcher.NONE);
    }

    @AfterEach
    void stop() {
        server.stop(0);
    }

    private static void answer(HttpExchange exchange, String body) throws IOException {
        byte[] bytes = body.getBytes(StandardCharsets.UTF_8);
        exchange.sendResponseHeaders(200, bytes.length);
        exchange.getResponseBody().write(bytes);
        exchange.close();
    }

    /** A byte now and then, for ever: the first one comes in time. */
    private void dribble(HttpExchange exchange) throws IOException {
        exchange.sendResponseHeaders(200, 0);
        try (OutputStream out = exchange.getResponseBody()) {
            while (true) {
                out.write(' ');
                out.flush();
                Thread.sleep(50);
            }
        } catch (IOException | InterruptedException e) {
            brokenOff.set(true);
        }
    }

    private void flood(HttpExchange exchange) throws IOException {
        exchange.sendResponseHeaders(200, 0);
        byte[] part = new byte[1024 * 1024];
        try (OutputStream out = exchange.getResponseBody()) {
            for (int i = 0; i < 200; i++) {
                out.write(part);
            }
        } catch (IOException e) {
            brokenOff.set(true);
        }
    }

    private Reply call(String path) {
        URI address = URI.create("http://127.0.0.1:" + server.getAddress().getPort() + path);
        return transport.send(HttpRequest.newBuilder(address).GET(), new byte[0], false);
    }

    @Test
    void anAnswerThatNeverEndsIsGivenUpAfterTheLongestCall() {
        assertThatThrownBy(() -> call("/dribble"))
                .isInstanceOf(CallFailure.Unknown.class)
                .hasMessageContaining("no answer within 1 s");
        assertThat(call("/fine").body().get("ok").asBoolean()).isTrue();
    }

    @Test
    void anAnswerThatDoesNotFitIsBrokenOff() {
        assertThatThrownBy(() -> call("/flood")).isInstanceOf(CallFailure.Unknown.class);
        assertThat(call("/fine").status()).isEqualTo(200);
    }

    /** Leave is asked after the wait for the rate limit: what was lost meanwhile counts. */
    @Test
    void aCallWhoseLeaveEndedWhileItWaitedIsNotMade() {
        AtomicBoolean leave = new AtomicBoolean(true);
        RateLimit paused = new RateLimit() {
            @Override
            public void await() {
                leave.set(false);
            }

            @Override
            public void pause(Duration length) {
                // nobody asks for it here
            }
        };
        HttpTransport waits = new HttpTransport(
                new ProfileReader().read(PROFILE),
                Login.with(Map.of()),
                TestTools.with(Clock.systemUTC()),
                paused,
                CallWatcher.NONE);
        URI address = URI.create("http://127.0.0.1:" + server.getAddress().getPort() + "/counted");
        assertThatThrownBy(() -> waits.send(HttpRequest.newBuilder(address).GET(), new byte[0], false, leave::get))
                .isInstanceOf(CallFailure.NotSent.class);
        assertThat(counted).hasValue(0);
        leave.set(true);
        transport.send(HttpRequest.newBuilder(address).GET(), new byte[0], false, leave::get);
        assertThat(counted).hasValue(1);
    }
}

package remitto.connect.profile;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import com.sun.net.httpserver.HttpServer;
import java.net.InetSocketAddress;
import java.nio.charset.StandardCharsets;
import java.time.Duration;
import java.util.ArrayDeque;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.OptionalInt;
import org.junit.jupiter.api.AfterEach;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;
import remitto.connect.destination.Contents;
import remitto.connect.destination.Destination;
import remitto.connect.destination.Destination.CallOutcome;
import remitto.connect.destination.DestinationProblem;
import remitto.connect.destination.RateLimit;
import remitto.connect.signin.Login;
import remitto.core.delivery.Backoff;
import remitto.core.destination.Field;
import remitto.core.destination.FieldKind;
import remitto.core.destination.ObjectDescription;
import remitto.core.value.Value;

/** The generic HTTP engine against a server that answers whatever the test says. */
class ProfileDestinationTest {
    private static final ObjectDescription CONTACT = ObjectDescription.of(
            "contact",
            "Contact",
            true,
            List.of(new Field(
                    "ref", "Ref", FieldKind.TEXT, false, true, false, true, false, OptionalInt.empty(), List.of())));

    private record Canned(int status, String body, Optional<String> retryAfter) {}

    private final ArrayDeque<Canned> answers = new ArrayDeque<>();
    private final List<String> asked = new ArrayList<>();
    private final List<Duration> pauses = new ArrayList<>();
    private HttpServer server;
    private ProfileDestination destination;

    @BeforeEach
    void start() throws Exception {
        server = HttpServer.create(new InetSocketAddress("127.0.0.1", 0), 0);
        server.createContext("/", exchange -> {
            String body = new String(exchange.getRequestBody().readAllBytes(), StandardCharsets.UTF_8);
            asked.add(exchange.getRequestURI().getPath() + " " + body);
            Canned answer = exchange.getRequestURI().getPath().equals("/oauth/token")
                    ? new Canned(
                            200,
                            "{\"access_token\":\"t" + asked.size() + "\",\"token_type\":\"Bearer\"}",
                            Optional.empty())
                    : answers.remove();
            answer.retryAfter().ifPresent(text -> exchange.getResponseHeaders().add("Retry-After", text));
            byte[] bytes = answer.body().getBytes(StandardCharsets.UTF_8);
            exchange.sendResponseHeaders(answer.status(), bytes.length);
            exchange.getResponseBody().write(bytes);
            exchange.close();
        });
        server.start();
        RateLimit rateLimit = new RateLimit() {
            @Override
            public void await() {
                // every call is granted at once
            }

            @Override
            public void pause(Duration length) {
                pauses.add(length);
            }
        };
        destination = new ProfileDestination(
                new ProfileReader().read(ProfileReader.resource("purser-crm.yaml")),
                Login.with(Map.of(
                        "base_address",
                                "http://127.0.0.1:" + server.getAddress().getPort() + "/",
                        "client_id", "me",
                        "client_secret", "secret")),
                TestTools.with(java.time.Clock.systemUTC()),
                rateLimit,
                new Backoff(Duration.ofMillis(2), Duration.ofMillis(4), 3));
    }

    @AfterEach
    void stop() {
        server.stop(0);
    }

    private void answer(int status, String body) {
        answers.add(new Canned(status, body, Optional.empty()));
    }

    private CallOutcome add() {
        return destination.add(new Destination.Batch(
                CONTACT,
                "ref",
                List.of(new Destination.Outgoing("", Value.text("P-1"), Map.of("ref", Value.text("P-1")))),
                "7-1"));
    }

    @Test
    void aWriteIsSentAsTheProfileSaysAndItsResultsRead() {
        answer(200, "{\"results\":[{\"position\":0,\"outcome\":\"added\",\"id\":\"40001\",\"problems\":[]}]}");
        CallOutcome.Answered answered = (CallOutcome.Answered) add();
        assertThat(answered.results().get(0).accepted()).isTrue();
        assertThat(answered.results().get(0).id()).isEqualTo("40001");
        assertThat(asked.get(1))
                .isEqualTo("/api/v1/contact/batch {\"by\":\"ref\",\"absent\":\"add\",\"present\":\"refuse\","
                        + "\"records\":[{\"key\":\"P-1\",\"fields\":{\"ref\":\"P-1\"}}]}");
        assertThat(answered.exchange().toString()).doesNotContain("secret").doesNotContain("Bearer");
    }

    @Test
    void whatIsKeptAsJsonIsTakenOverAsItStands() {
        answer(200, "{\"results\":[{\"position\":0,\"outcome\":\"added\",\"id\":\"40001\",\"problems\":[]}]}");
        Contents kept = new Contents() {
            @Override
            public Map<String, Value> values() {
                throw new AssertionError("nobody needs the single values");
            }

            @Override
            public Optional<Value> value(String field) {
                throw new AssertionError("nobody needs the single values");
            }

            @Override
            public Optional<String> json() {
                return Optional.of("{\"ref\" : \"P-1\", \"name\":\"Åse \\\"Øy\\\"\",\"score\":1.50,\"gone\":null}");
            }
        };
        destination.add(new Destination.Batch(
                CONTACT, "ref", List.of(new Destination.Outgoing("", Value.text("P-1"), kept)), "7-1"));
        assertThat(asked.get(1))
                .endsWith("\"records\":[{\"key\":\"P-1\",\"fields\":"
                        + "{\"ref\" : \"P-1\", \"name\":\"Åse \\\"Øy\\\"\",\"score\":1.50,\"gone\":null}}]}");
    }

    @Test
    void aTokenThatEndedIsRenewedAgainWhenAnotherSignInEndedItAndNotForEver() {
        answer(401, "{}");
        answer(200, "{\"results\":[{\"position\":0,\"outcome\":\"added\",\"id\":\"1\",\"problems\":[]}]}");
        assertThat(add()).isInstanceOf(CallOutcome.Answered.class);
        answer(401, "{}");
        answer(401, "{}");
        answer(200, "{\"results\":[{\"position\":0,\"outcome\":\"added\",\"id\":\"1\",\"problems\":[]}]}");
        assertThat(add()).isInstanceOf(CallOutcome.Answered.class);
        answer(401, "{}");
        answer(401, "{}");
        answer(401, "{}");
        answer(401, "{\"problem\":\"go away\"}");
        assertThat(add()).isInstanceOfSatisfying(CallOutcome.Failed.class, failed -> {
            assertThat(failed.status()).isEqualTo(401);
            assertThat(failed.reason()).isEqualTo("go away");
            assertThat(failed.retriable()).isFalse();
        });
    }

    @Test
    void aThrottledWriteTookNothingAndTellsEverybodyToWait() {
        answers.add(new Canned(429, "{}", Optional.of("7")));
        assertThat(add()).isEqualTo(new CallOutcome.Throttled(Optional.of(Duration.ofSeconds(7))));
        assertThat(pauses).contains(Duration.ofSeconds(7));
    }

    @Test
    void anAnswerThatCannotBeReadLeavesTheOutcomeUnknown() {
        answer(200, "<html>gone fishing</html>");
        assertThat(add()).isInstanceOf(CallOutcome.Unknown.class);
        answer(200, "{\"results\":[]}");
        assertThat(add()).as("no result for the record").isInstanceOf(CallOutcome.Unknown.class);
    }

    @Test
    void readingTriesAgainAndGivesUpInWords() {
        answer(500, "{}");
        answer(503, "{}");
        answer(200, "{\"found\":[{\"id\":\"7\",\"fields\":{\"ref\":\"P-1\"}}]}");
        assertThat(destination.find(CONTACT, "ref", List.of(Value.text("P-1"))))
                .containsExactly(new Destination.RemoteRecord("7", Map.of("ref", Value.text("P-1"))));
        answer(500, "{\"problem\":\"engine room\"}");
        answer(500, "{\"problem\":\"engine room\"}");
        answer(500, "{\"problem\":\"engine room\"}");
        assertThatThrownBy(() -> destination.find(CONTACT, "ref", List.of(Value.text("P-1"))))
                .isInstanceOf(DestinationProblem.class)
                .hasMessageContaining("after 3 tries")
                .hasMessageContaining("engine room");
        answer(400, "{\"problem\":\"no field ref\"}");
        assertThatThrownBy(() -> destination.find(CONTACT, "ref", List.of(Value.text("P-1"))))
                .hasMessageContaining("no field ref");
    }

    @Test
    void nobodyThereIsNotAnUnknownOutcome() {
        server.stop(0);
        assertThat(add()).isInstanceOf(CallOutcome.NotSent.class);
    }
}

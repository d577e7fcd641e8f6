package remitto.connect.profile;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import com.sun.net.httpserver.HttpServer;
import java.net.InetSocketAddress;
import java.nio.charset.StandardCharsets;
import java.time.Duration;
import java.time.Instant;
import java.util.ArrayDeque;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import org.junit.jupiter.api.AfterEach;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;
import remitto.connect.destination.Destination;
import remitto.connect.destination.Destination.CallOutcome;
import remitto.connect.destination.Destination.Outgoing;
import remitto.connect.destination.DestinationProblem;
import remitto.connect.destination.RateLimit;
import remitto.connect.signin.Login;
import remitto.core.delivery.Backoff;
import remitto.core.destination.ObjectDescription;
import remitto.core.value.Value;

/** Profiles with jobs, keys and without look-up, against a server that answers whatever the test says. */
class JobsAndKeysTest {
    private record Canned(int status, String body) {}

    private final ArrayDeque<Canned> answers = new ArrayDeque<>();
    private final List<String> asked = new ArrayList<>();
    private HttpServer server;

    @BeforeEach
    void start() throws Exception {
        server = HttpServer.create(new InetSocketAddress("127.0.0.1", 0), 0);
        server.createContext("/", exchange -> {
            String body = new String(exchange.getRequestBody().readAllBytes(), StandardCharsets.UTF_8);
            asked.add(exchange.getRequestMethod() + " " + exchange.getRequestURI() + " "
                    + Optional.ofNullable(exchange.getRequestHeaders().getFirst("X-Lamp-Key"))
                            .orElse("-") + " "
                    + Optional.ofNullable(exchange.getRequestHeaders().getFirst("Once-Key"))
                            .orElse("-") + " " + body);
            Canned answer = answers.remove();
            byte[] bytes = answer.body().getBytes(StandardCharsets.UTF_8);
            exchange.sendResponseHeaders(answer.status(), bytes.length);
            exchange.getResponseBody().write(bytes);
            exchange.close();
        });
        server.start();
    }

    @AfterEach
    void stop() {
        server.stop(0);
    }

    private ProfileDestination destination(String profile) {
        return new ProfileDestination(
                new ProfileReader().read(ProfileReader.resource(profile)),
                Login.with(Map.of(
                        "base_address",
                        "http://127.0.0.1:" + server.getAddress().getPort(),
                        "lamp_key",
                        "secret-lamp",
                        "client_id",
                        "me",
                        "client_secret",
                        "s")),
                TestTools.with(java.time.Clock.systemUTC()),
                RateLimit.NONE,
                new Backoff(Duration.ofMillis(2), Duration.ofMillis(4), 3));
    }

    private void answer(int status, String body) {
        answers.add(new Canned(status, body));
    }

    private static final ObjectDescription LIST = ObjectDescription.of("commuters", "Commuters", true, List.of());

    private static Destination.Batch members(String... hashes) {
        List<Outgoing> records = new ArrayList<>();
        for (String hash : hashes) {
            records.add(new Outgoing("", Value.text(hash), Map.of("email_sha256", Value.text(hash))));
        }
        return new Destination.Batch(LIST, "email_sha256", records, "12-1000001");
    }

    @Test
    void aJobIsSubmittedUnderItsKeyAndPolledToItsEnd() {
        answer(202, "{\"job\":\"lamp-1\",\"state\":\"queued\"}");
        answer(200, "{\"job\":\"lamp-1\",\"state\":\"working\"}");
        answer(500, "{\"why\":\"engine room\"}");
        answer(
                200,
                "{\"state\":\"done\",\"results\":[{\"position\":1,\"outcome\":\"refused\",\"problems\":[{\"message\":"
                        + "\"not a hash\"}]},{\"position\":0,\"outcome\":\"on\",\"problems\":[]}]}");
        CallOutcome.Answered answered =
                (CallOutcome.Answered) destination("lamplight-ads.yaml").add(members("aa", "bb"));
        assertThat(answered.results().get(0).accepted()).isTrue();
        assertThat(answered.results().get(0).id()).as("known by its key").isEqualTo("aa");
        assertThat(answered.results().get(1).reason()).isEqualTo("not a hash");
        assertThat(asked.get(0))
                .isEqualTo("POST /ads/lists/commuters/jobs secret-lamp 12-1000001"
                        + " {\"do\":\"add\",\"members\":[{\"hash\":\"aa\"},{\"hash\":\"bb\"}]}");
        assertThat(asked.get(1)).startsWith("GET /ads/jobs/lamp-1 secret-lamp -");
        assertThat(answered.exchange().toString()).doesNotContain("secret-lamp");
    }

    @Test
    void aJobWhoseEndIsNotSeenHasAnUnknownOutcome() {
        answer(202, "{\"job\":\"lamp-1\",\"state\":\"queued\"}");
        for (int i = 0; i < 3; i++) {
            answer(500, "{}");
        }
        assertThat(destination("lamplight-ads.yaml").add(members("aa")))
                .isInstanceOfSatisfying(CallOutcome.Unknown.class, unknown -> assertThat(unknown.reason())
                        .contains("lamp-1"));
        answer(202, "{}");
        assertThat(destination("lamplight-ads.yaml").add(members("aa"))).isInstanceOf(CallOutcome.Unknown.class);
    }

    @Test
    void aJobThatFailedIsRefusedAsAWhole() {
        answer(202, "{\"job\":\"lamp-1\"}");
        answer(200, "{\"state\":\"failed\",\"why\":\"the list is frozen\"}");
        assertThat(destination("lamplight-ads.yaml").add(members("aa")))
                .isInstanceOfSatisfying(CallOutcome.Failed.class, failed -> {
                    assertThat(failed.reason()).isEqualTo("the list is frozen");
                    assertThat(failed.retriable()).isFalse();
                });
    }

    @Test
    void aResultNamedTwiceIsNotBelieved() {
        answer(202, "{\"job\":\"lamp-1\"}");
        answer(
                200,
                "{\"state\":\"done\",\"results\":[{\"position\":0,\"outcome\":\"on\"},{\"position\":0,\"outcome\":\"on\"}]}");
        assertThat(destination("lamplight-ads.yaml").add(members("aa", "bb"))).isInstanceOf(CallOutcome.Unknown.class);
    }

    @Test
    void listsAndFixedFieldsAreDescribed() {
        answer(200, "{\"lists\":[{\"id\":\"commuters\",\"name\":\"Commuters\",\"people\":true,\"match_list\":true}]}");
        ObjectDescription described = destination("lamplight-ads.yaml").describe("commuters");
        assertThat(described.abilities().list()).isTrue();
        assertThat(described.abilities().reads()).isFalse();
        assertThat(described.people()).isTrue();
        assertThat(described.fields()).extracting(field -> field.name()).containsExactly("email_sha256");
        assertThatThrownBy(() -> destination("lamplight-ads.yaml").find(described, "email_sha256", List.of()))
                .isInstanceOf(DestinationProblem.class)
                .hasMessageContaining("offers no way to look up single records");
    }

    @Test
    void aHookTakesEverythingItDoesNotRefuse() {
        ProfileDestination hook = destination("foghorn-chat.yaml");
        ObjectDescription message = hook.describe("message");
        assertThat(message.abilities().updates()).isFalse();
        answer(200, "{}");
        CallOutcome.Answered answered = (CallOutcome.Answered) hook.add(new Destination.Batch(
                message,
                "ref",
                List.of(new Outgoing(
                        "",
                        Value.text("invoice-7"),
                        Map.of("ref", Value.text("invoice-7"), "text", Value.text("Large \"invoice\"")))),
                "1-1"));
        assertThat(answered.results().get(0).accepted()).isTrue();
        assertThat(answered.results().get(0).id()).isEqualTo("invoice-7");
        assertThat(asked.get(0)).isEqualTo("POST /say - - {\"text\":\"Large \\\"invoice\\\"\"}");
    }

    @Test
    void aListIsReadPageByPageWithDeletions() {
        ProfileDestination purser = destination("purser-crm.yaml");
        answer(200, "{\"access_token\":\"t\",\"token_type\":\"Bearer\"}");
        answer(200, "{\"changes\":[{\"id\":\"1\",\"fields\":{}},{\"id\":\"2\",\"deleted\":true}],\"next\":\"c1\"}");
        answer(200, "{\"changes\":[],\"next\":\"\"}");
        var first = purser.list(LIST, Optional.of(Instant.parse("2026-11-24T09:00:00Z")), Optional.empty());
        assertThat(first.records()).extracting(one -> one.id()).containsExactly("1");
        assertThat(first.deleted()).containsExactly("2");
        assertThat(first.next()).contains("c1");
        assertThat(purser.list(LIST, Optional.empty(), first.next()).next()).isEmpty();
        assertThat(asked.get(1)).contains("since=2026-11-24T09%3A00%3A00Z&cursor=");
        assertThat(asked.get(2)).contains("cursor=c1");
    }

    @Test
    void aProfileMustSayHowAnUnknownOutcomeIsFoundOut() {
        String text = ProfileReader.resource("lamplight-ads.yaml");
        assertThatThrownBy(() -> new ProfileReader().read(text.replace("  once_header: Once-Key\n", "")))
                .isInstanceOf(ProfileReader.ProfileFault.class)
                .hasMessageContaining("once_header");
        assertThatThrownBy(() -> new ProfileReader().read(text.replace("confirm: key", "confirm: readback")))
                .isInstanceOf(ProfileReader.ProfileFault.class)
                .hasMessageContaining("find");
    }
}

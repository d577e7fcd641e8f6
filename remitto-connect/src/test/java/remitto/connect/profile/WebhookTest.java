package remitto.connect.profile;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import com.sun.net.httpserver.Headers;
import com.sun.net.httpserver.HttpServer;
import java.math.BigDecimal;
import java.net.InetSocketAddress;
import java.nio.charset.StandardCharsets;
import java.time.Clock;
import java.time.Duration;
import java.time.Instant;
import java.time.ZoneOffset;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import org.junit.jupiter.api.AfterEach;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;
import remitto.connect.destination.Destination;
import remitto.connect.destination.Destination.CallOutcome;
import remitto.connect.destination.Destination.Outgoing;
import remitto.connect.destination.DestinationProblem;
import remitto.connect.destination.RateLimit;
import remitto.connect.signin.Login;
import remitto.connect.signin.WebhookSignature;
import remitto.core.delivery.Backoff;
import remitto.core.destination.Field;
import remitto.core.destination.FieldKind;
import remitto.core.value.Value;
import tools.jackson.databind.JsonNode;
import tools.jackson.databind.json.JsonMapper;

/** The webhook that takes CloudEvents 1.0, signed as Standard Webhooks says. */
class WebhookTest {
    private static final Instant NOW = Instant.ofEpochSecond(1_614_265_330);
    private static final String SECRET = "whsec_MfKQ9r8GKYqrTwjUPD8ILPZIo2LaLaSw";

    private record Received(Headers headers, String body) {}

    private final List<Received> received = new ArrayList<>();
    private HttpServer server;
    private int status = 204;

    @BeforeEach
    void start() throws Exception {
        server = HttpServer.create(new InetSocketAddress("127.0.0.1", 0), 0);
        server.createContext("/", exchange -> {
            received.add(new Received(
                    exchange.getRequestHeaders(),
                    new String(exchange.getRequestBody().readAllBytes(), StandardCharsets.UTF_8)));
            byte[] bytes = status == 204 ? new byte[0] : "thanks, no JSON".getBytes(StandardCharsets.UTF_8);
            exchange.sendResponseHeaders(status, status == 204 ? -1 : bytes.length);
            exchange.getResponseBody().write(bytes);
            exchange.close();
        });
        server.start();
    }

    @AfterEach
    void stop() {
        server.stop(0);
    }

    private ProfileDestination webhook(String secret, String fields) {
        return new ProfileDestination(
                new ProfileReader().read(ProfileReader.resource("webhook.yaml")),
                Login.with(Map.of(
                        "base_address",
                        "http://127.0.0.1:" + server.getAddress().getPort() + "/hook",
                        "secret",
                        secret,
                        "source",
                        "/halvorn",
                        "type",
                        "example.halvorn.customer.changed",
                        "fields",
                        fields)),
                TestTools.with(Clock.fixed(NOW, ZoneOffset.UTC)),
                RateLimit.NONE,
                new Backoff(Duration.ofMillis(1), Duration.ofMillis(2), 2));
    }

    private CallOutcome send(ProfileDestination webhook) {
        return webhook.add(new Destination.Batch(
                webhook.describe("event"),
                "ref",
                List.of(new Outgoing(
                        "",
                        Value.text("T-1"),
                        Map.of("ref", Value.text("T-1"), "amount", Value.number(new BigDecimal("12.50"))))),
                "7-1000001"));
    }

    /** The example of the specification's reference libraries, from memory; it agrees with the rule as written there. */
    @Test
    void theSignatureIsTheOneOfTheSpecificationsExample() {
        assertThat(new WebhookSignature(SECRET)
                        .sign(
                                "msg_p5jXN8AQM9LWM0D4loKWxJek",
                                NOW,
                                "{\"test\": 2432232314}".getBytes(StandardCharsets.UTF_8)))
                .isEqualTo("v1,g0hM9SsE+OTPJTGt/tmIKtSyZlE3uFJELVlNIOLJ1OE=");
    }

    /** CloudEvents 1.0: required attributes are id, source, specversion and type; structured mode has a type of its own. */
    @Test
    void anEventIsACloudEventWithItsSignature() {
        assertThat(send(webhook(SECRET, "name, amount:decimal")))
                .isInstanceOfSatisfying(CallOutcome.Answered.class, answered -> assertThat(
                                answered.results().get(0).accepted())
                        .isTrue());
        Received call = received.get(0);
        assertThat(call.headers().getFirst("Content-Type")).isEqualTo("application/cloudevents+json");
        assertThat(call.headers().getFirst("webhook-id")).isEqualTo("7-1000001");
        assertThat(call.headers().getFirst("webhook-timestamp")).isEqualTo("1614265330");
        assertThat(call.headers().getFirst("webhook-signature"))
                .isEqualTo(new WebhookSignature(SECRET)
                        .sign("7-1000001", NOW, call.body().getBytes(StandardCharsets.UTF_8)));
        JsonNode event = JsonMapper.builder().build().readTree(call.body());
        assertThat(event.get("specversion").asString()).isEqualTo("1.0");
        assertThat(event.get("id").asString()).isEqualTo("7-1000001");
        assertThat(event.get("source").asString()).isEqualTo("/halvorn");
        assertThat(event.get("type").asString()).isEqualTo("example.halvorn.customer.changed");
        assertThat(event.get("data").get("amount").decimalValue()).isEqualByComparingTo("12.5");
    }

    @Test
    void fieldsAreThosePeopleTyped() {
        assertThat(webhook(SECRET, "name, amount:decimal since:date")
                        .describe("event")
                        .fields())
                .extracting(Field::name, Field::kind)
                .contains(
                        org.assertj.core.groups.Tuple.tuple("ref", FieldKind.TEXT),
                        org.assertj.core.groups.Tuple.tuple("name", FieldKind.TEXT),
                        org.assertj.core.groups.Tuple.tuple("amount", FieldKind.DECIMAL),
                        org.assertj.core.groups.Tuple.tuple("since", FieldKind.DATE));
        assertThatThrownBy(() -> webhook(SECRET, "amount:money").describe("event"))
                .isInstanceOf(DestinationProblem.class)
                .hasMessageContaining("\"money\" is no kind of field");
    }

    @Test
    void whateverASuccessSaysIsEnough() {
        status = 200;
        assertThat(send(webhook(SECRET, "amount:decimal"))).isInstanceOf(CallOutcome.Answered.class);
    }

    @Test
    void aReceiverThatFailsMayBeTriedAgainUnderTheSameId() {
        status = 503;
        assertThat(send(webhook(SECRET, "amount:decimal"))).isInstanceOf(CallOutcome.Throttled.class);
        status = 410;
        assertThat(send(webhook(SECRET, "amount:decimal")))
                .isInstanceOfSatisfying(CallOutcome.Failed.class, failed -> assertThat(failed.retriable())
                        .isFalse());
        assertThat(received).allSatisfy(call -> assertThat(call.headers().getFirst("webhook-id"))
                .isEqualTo("7-1000001"));
    }

    @Test
    void aSecretThatIsNoneIsSaidSo() {
        assertThatThrownBy(() -> send(webhook("not base64 at all!", "amount:decimal")))
                .hasMessageContaining("not Base64");
    }
}

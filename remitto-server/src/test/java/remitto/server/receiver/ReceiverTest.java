package remitto.server.receiver;

import static org.assertj.core.api.Assertions.assertThat;

import java.net.URI;
import java.net.http.HttpRequest;
import java.net.http.HttpResponse;
import java.nio.charset.StandardCharsets;
import java.time.Duration;
import java.time.Instant;
import java.util.HashMap;
import java.util.HexFormat;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import org.junit.jupiter.api.AfterAll;
import org.junit.jupiter.api.BeforeAll;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.TestInstance;
import remitto.server.departure.Departures;
import remitto.server.harness.Awaited;
import remitto.server.harness.TestReceiver;
import remitto.server.harness.TestServer;
import remitto.server.harness.TestUser;
import tools.jackson.databind.JsonNode;

/** Calls that are taken, laid out, told apart, refused, kept for later and laid out again. */
@TestInstance(TestInstance.Lifecycle.PER_CLASS)
class ReceiverTest {
    private TestServer server;
    private TestUser editor;

    @BeforeAll
    void start() {
        // Some tests move the clock by days.
        server =
                TestServer.start(Map.of("remitto.session.longest", "9999d", "server.servlet.session.timeout", "9999d"));
        editor = server.user("EDITOR");
    }

    @AfterAll
    void stop() {
        server.close();
    }

    private TestReceiver receiver(String table, Map<String, Object> definition) {
        return new TestReceiver(server, editor, table, definition);
    }

    private TestReceiver open(String table, String eventKey, String... columns) {
        return receiver(table, TestReceiver.definition(TestReceiver.OPEN, eventKey, columns));
    }

    private static String detail(HttpResponse<String> answer) {
        return answer.statusCode() + " " + answer.body().replaceAll(".*\"detail\":\"([^\"]*)\".*", "$1");
    }

    @Test
    void callsBecomeRowsAndTheSameEventIsOne() {
        TestReceiver shop = open("sign_ups", "id", "id TEXT", "mail TEXT person.mail", "at TIMESTAMP");
        assertThat(shop.call(
                                "{\"id\":\"e1\",\"person\":{\"mail\":\"liv@vik.example\"},\"at\":\"2026-12-01T08:00:00Z\"}")
                        .statusCode())
                .isEqualTo(200);
        shop.call("{\"id\":\"e2\",\"person\":{\"mail\":\"ola@vik.example\"}}");
        shop.call("{\"id\":\"e1\",\"person\":{\"mail\":\"liv@vik.example\"},\"at\":\"2026-12-01T08:00:00Z\"}");
        assertThat(shop.rows("id, mail, at at time zone 'UTC', _number"))
                .isEqualTo("e1 liv@vik.example 2026-12-01 08:00:00 1, e2 ola@vik.example 1");
        assertThat(shop.calls()).containsExactly("DOUBLE 0", "KEPT 1", "KEPT 1");
        String event = "{\"id\":\"e9\",\"person\":{\"mail\":\"a@vik.example\"}}";
        shop.call("[" + event + "," + event + "]");
        assertThat(shop.rows("id")).as("twice in one body").isEqualTo("e1, e2, e9");
    }

    @Test
    void fiftyRecordsInOneBodyAreFiftyRows() {
        Map<String, Object> definition = TestReceiver.definition(TestReceiver.OPEN, "no", "no INTEGER");
        definition.put("records", "batch.items");
        TestReceiver many = receiver("many", definition);
        StringBuilder items = new StringBuilder();
        for (int i = 1; i <= 50; i++) {
            items.append(i == 1 ? "" : ",").append("{\"no\":").append(i).append("}");
        }
        many.call("{\"batch\":{\"items\":[" + items + "]}}");
        assertThat(many.rows("no")).startsWith("1, 2, 3").endsWith("49, 50");
        assertThat(many.calls()).containsExactly("KEPT 50");
        many.call("{\"batch\":{}}");
        many.settled();
        assertThat(many.calls().get(0)).isEqualTo("HELD 0 The body has nothing at batch.items.");
    }

    @Test
    void whatDoesNotFitIsKeptAndTriedAgainWhenTheReceiverChanges() {
        TestReceiver port = open("ports", "", "no INTEGER", "port TEXT");
        port.call("{\"no\":1,\"port\":\"Vik\"}");
        port.call("{\"no\":\"two\",\"port\":\"Aas\"}");
        port.call("not json");
        port.call("{\"no\":3");
        port.call(new byte[] {'"', (byte) 0xc3, '"'});
        port.call("");
        port.call("{\"a\":".repeat(70) + "1" + "}".repeat(70));
        port.call("[{\"no\":4},\"five\",{\"no\":6}]");
        assertThat(port.rows("no, port")).isEqualTo("1 Vik, 4, 6");
        List<String> calls = port.calls();
        assertThat(calls.get(0)).isEqualTo("HELD 2 record 2: is no object.");
        assertThat(calls.get(1)).contains("HELD 0 The body is not JSON:", "64");
        assertThat(calls.get(2)).isEqualTo("HELD 0 The body is empty.");
        assertThat(calls.get(3)).isEqualTo("HELD 0 The body is not in UTF-8.");
        assertThat(calls.get(4)).startsWith("HELD 0 The body is not JSON: Unexpected end");
        assertThat(calls.get(5)).startsWith("HELD 0 The body is not JSON: Unrecognized token");
        assertThat(calls.get(6)).isEqualTo("HELD 0 no: \"two\" is not a number.");
        assertThat(port.view().get("counts").get("held").asInt()).isEqualTo(7);
        port.change(TestReceiver.definition(TestReceiver.OPEN, "", "number TEXT no", "port TEXT"));
        assertThat(port.rows("number, port")).isEqualTo("1 Vik, 4, 6, two Aas");
        assertThat(port.view().get("counts").get("held").asInt()).isEqualTo(6);
    }

    @Test
    void callsAreSamplesUntilThereAreColumns() {
        TestReceiver catching = open("caught", "");
        assertThat(catching.view().get("catching").asBoolean()).isTrue();
        catching.call("{\"id\":\"e1\",\"order\":{\"sum\":\"12.50\",\"paid\":true},\"tags\":[1,2]}", "X-Shop", "Vik");
        catching.call("{\"id\":\"e2\",\"order\":{\"sum\":\"8\"}}");
        Awaited.until("two calls", () -> catching.calls().size() == 2);
        assertThat(catching.calls()).containsOnly("WAITING 0");
        JsonNode sample = editor.post(
                        "/api/receivers/" + catching.id() + "/sample", TestReceiver.definition(TestReceiver.OPEN, ""))
                .ok();
        assertThat(sample.get("calls").asInt()).isEqualTo(2);
        assertThat(sample.get("values")
                        .valueStream()
                        .map(one -> one.get("from").asString() + " "
                                + one.get("proposed").get("column").get("name").asString() + " "
                                + one.get("proposed").get("column").get("type").asString() + " "
                                + one.get("example").asString())
                        .filter(one -> !one.contains("user-agent"))
                        .toList())
                .containsExactly(
                        "id id TEXT e2",
                        "order.sum order_sum DECIMAL 8",
                        "order.paid order_paid TEXT true",
                        "tags tags TEXT [1,2]",
                        "@header.content-type content_type TEXT application/json",
                        "@header.x-shop x_shop TEXT Vik");
        Map<String, Object> definition = TestReceiver.definition(
                TestReceiver.OPEN, "id", "id TEXT", "sum DECIMAL order.sum", "shop TEXT @header.x-shop");
        JsonNode rows = editor.post("/api/receivers/" + catching.id() + "/sample", definition)
                .ok()
                .get("rows");
        assertThat(rows.toString()).contains("\"cells\":[\"e1\",\"12.50\",\"Vik\"]", "\"event\":\"e1\"");
        catching.change(definition);
        assertThat(catching.rows("id, sum, shop"))
                .as("what was caught is not lost")
                .isEqualTo("e1 12.50 Vik, e2 8");
        assertThat(editor.put(
                                "/api/receivers/" + catching.id(),
                                catching.draft(
                                        TestReceiver.definition(TestReceiver.OPEN, ""),
                                        catching.view().get("revision").asInt()))
                        .detail())
                .contains("Choose at least one column");
    }

    @Test
    void theLatestOfEveryKeyCountsInWhateverOrderCallsCome() {
        Map<String, Object> definition =
                TestReceiver.definition(TestReceiver.OPEN, "", "no TEXT", "name TEXT", "at TIMESTAMP", "what TEXT");
        definition.put("several", TestReceiver.latestPerKey("no", "at", "what", "Deleted"));
        TestReceiver accounts = receiver("accounts", definition);
        String call = "{\"no\":\"%s\",\"name\":\"%s\",\"at\":\"2026-12-01T%s:00:00Z\",\"what\":\"%s\"}";
        accounts.call(call.formatted("A", "Anna", "09", "made"));
        accounts.call(call.formatted("B", "Bo", "09", "made"));
        accounts.settled();
        accounts.call(call.formatted("A", "Anne", "11", "changed"));
        accounts.settled();
        accounts.call(call.formatted("A", "Ann", "10", "changed"));
        accounts.call(call.formatted("B", "Bo", "12", "deleted"));
        accounts.call(call.formatted("B", "Bob", "11", "changed"));
        accounts.call("{\"no\":\"C\",\"name\":\"Cy\"}");
        accounts.call("{\"name\":\"Di\",\"at\":\"2026-12-01T08:00:00Z\"}");
        assertThat(accounts.rows("no, name")).isEqualTo("A Anne");
        assertThat(accounts.calls().subList(0, 2))
                .containsExactly(
                        "HELD 0 no: is empty, so the record cannot be told apart.",
                        "HELD 0 at: is empty, so the record cannot be told apart.");
        accounts.call(call.formatted("B", "Bea", "13", "made"));
        assertThat(accounts.rows("no, name")).isEqualTo("A Anne, B Bea");
        String before = accounts.rows("no, name, _call");
        editor.post("/api/receivers/" + accounts.id() + "/replay", Map.of("from", "2000-01-01T00:00:00Z"))
                .ok();
        assertThat(accounts.rows("no, name, _call")).as("laid out again").isEqualTo(before);
    }

    @Test
    void aReplayMakesTheRowsOfAMomentAnewAndNoDoubles() {
        TestReceiver log = open("log", "id", "id TEXT");
        log.call("{\"id\":\"a\"}");
        log.settled();
        server.clock().forward(Duration.ofMinutes(10));
        Instant from = server.clock().instant();
        log.call("{\"id\":\"b\"}");
        log.call("{\"id\":\"a\"}");
        log.call("{\"id\":\"c\"}");
        assertThat(log.rows("id")).isEqualTo("a, b, c");
        String lost = "landing.receiver_" + log.id() + "_1";
        server.cluster().run(server.database(), "delete from " + lost + " where id = 'c'");
        assertThat(log.rows("id")).as("what is lost").isEqualTo("a, b");
        JsonNode replayed = editor.post("/api/receivers/" + log.id() + "/replay", Map.of("from", from.toString()))
                .ok();
        assertThat(replayed.get("calls").asInt()).isEqualTo(3);
        assertThat(log.rows("id")).isEqualTo("a, b, c");
        assertThat(log.calls()).containsExactly("KEPT 1", "DOUBLE 0", "KEPT 1", "KEPT 1");
    }

    @Test
    void aPausedReceiverTakesCallsAndLaysThemOutLater() {
        TestReceiver port = open("paused", "", "no INTEGER");
        editor.post("/api/receivers/" + port.id() + "/pause", Map.of()).ok();
        assertThat(port.call("{\"no\":1}").statusCode()).isEqualTo(200);
        server.bean(Departures.class).departDue();
        assertThat(port.calls()).containsExactly("WAITING 0");
        editor.post("/api/receivers/" + port.id() + "/resume", Map.of()).ok();
        assertThat(port.rows("no")).isEqualTo("1");
    }

    @Test
    void onlyTheToolThatKnowsTheSecretIsTaken() {
        TestReceiver shop =
                receiver("signed", TestReceiver.definition(TestReceiver.STANDARD, "@header.webhook-id", "no INTEGER"));
        assertThat(shop.secret()).startsWith("whsec_");
        Instant now = server.clock().instant();
        assertThat(shop.signed("m1", "{\"no\":1}", now).statusCode()).isEqualTo(200);
        assertThat(shop.signed("m1", "{\"no\":1}", now).statusCode()).isEqualTo(200);
        assertThat(detail(shop.call("{\"no\":2}"))).startsWith("401 The call is not signed");
        assertThat(detail(shop.signed("m2", "{\"no\":2}", now.minusSeconds(301))))
                .isEqualTo("401 The call was signed 301 seconds ago, more than the 300 that are allowed.");
        assertThat(detail(shop.signed("m2", "{\"no\":2}", now.plusSeconds(400))))
                .contains("from now");
        HttpResponse<String> wrong = shop.call(
                "{\"no\":2}",
                "webhook-id",
                "m3",
                "webhook-timestamp",
                Long.toString(now.getEpochSecond()),
                "webhook-signature",
                "v1,AAAA v1a,xyz nonsense");
        assertThat(detail(wrong)).startsWith("401 The signature is not of this receiver's secret");
        assertThat(shop.rows("no")).isEqualTo("1");
        Awaited.until(
                "the refused calls", () -> shop.calls(Optional.of("REFUSED")).size() == 4);
        assertThat(shop.calls(Optional.of("DOUBLE"))).hasSize(1);
        JsonNode refused = editor.get("/api/receivers/" + shop.id() + "/calls/"
                        + shop.callIds().get(0))
                .ok();
        assertThat(refused.get("headers").get("webhook-signature").asString()).isEqualTo("••••••");
        assertThat(refused.get("body").asString()).isEqualTo("{\"no\":2}");
    }

    @Test
    void aReplacedSecretIsTakenForADayAndAnAddressIsGoneAtOnce() {
        TestReceiver shop = receiver(
                "replaced", TestReceiver.definition(TestReceiver.STANDARD, "@header.webhook-id", "no INTEGER"));
        String former = shop.secret();
        JsonNode replaced =
                editor.post("/api/receivers/" + shop.id() + "/secret", Map.of()).ok();
        assertThat(replaced.get("secret").asString()).isNotEqualTo(former);
        assertThat(shop.signed("m1", "{\"no\":1}", server.clock().instant()).statusCode())
                .isEqualTo(200);
        server.clock().forward(Duration.ofHours(25));
        assertThat(shop.signed("m2", "{\"no\":2}", server.clock().instant()).statusCode())
                .isEqualTo(401);
        shop.address(replaced);
        assertThat(shop.signed("m3", "{\"no\":3}", server.clock().instant()).statusCode())
                .isEqualTo(200);
        JsonNode moved = editor.post("/api/receivers/" + shop.id() + "/address", Map.of())
                .ok();
        assertThat(detail(shop.signed("m4", "{\"no\":4}", server.clock().instant())))
                .isEqualTo("404 No receiver has this address.");
        shop.address(moved);
        assertThat(shop.signed("m4", "{\"no\":4}", server.clock().instant()).statusCode())
                .isEqualTo(200);
        assertThat(editor.post("/api/receivers/" + shop.id() + "/secret", Map.of("secret", "short"))
                        .detail())
                .contains("Standard Webhooks");
        assertThat(shop.rows("no")).isEqualTo("1, 3, 4");
    }

    @Test
    void otherSignaturesSecretsAndLoginsAreTold() {
        TestReceiver hex = receiver(
                "hex",
                TestReceiver.definition(
                        Map.of(
                                "kind", "hmac",
                                "header", "X-Sum",
                                "digest", "SHA512",
                                "spelling", "HEX",
                                "prefix", "sha512=",
                                "timeHeader", ""),
                        "",
                        "no INTEGER"));
        String body = "{\"no\":1}";
        String sum = HexFormat.of()
                .formatHex(TestReceiver.hmac("HmacSHA512", hex.secret().getBytes(StandardCharsets.UTF_8), body));
        assertThat(hex.call(body, "X-Sum", "sha512=" + sum).statusCode()).isEqualTo(200);
        assertThat(detail(hex.call(body, "X-Sum", sum))).contains("does not begin with sha512=");
        assertThat(hex.call("{\"no\":2}", "X-Sum", "sha512=" + sum).statusCode())
                .isEqualTo(401);
        TestReceiver header = receiver(
                "shared",
                TestReceiver.definition(Map.of("kind", "shared-secret", "header", "X-Key"), "", "no INTEGER"));
        assertThat(header.call(body, "X-Key", header.secret()).statusCode()).isEqualTo(200);
        assertThat(detail(header.call(body, "X-Key", "other"))).contains("does not hold");
        assertThat(detail(header.call(body))).contains("needs the header X-Key");
        JsonNode kept = editor.get("/api/receivers/" + header.id() + "/calls?verdict=KEPT")
                .ok();
        assertThat(editor.get("/api/receivers/" + header.id() + "/calls/"
                                + kept.get(0).get("id").asLong())
                        .text())
                .doesNotContain(header.secret());
        TestReceiver basic =
                receiver("basic", TestReceiver.definition(Map.of("kind", "basic", "user", "shop"), "", "no INTEGER"));
        String login = java.util.Base64.getEncoder()
                .encodeToString(("shop:" + basic.secret()).getBytes(StandardCharsets.UTF_8));
        assertThat(basic.call(body, "Authorization", "Basic " + login).statusCode())
                .isEqualTo(200);
        HttpResponse<String> nobody = basic.call(body);
        assertThat(nobody.statusCode()).isEqualTo(401);
        assertThat(nobody.headers().firstValue("WWW-Authenticate").orElse("")).startsWith("Basic");
        assertThat(hex.rows("no") + header.rows("no") + basic.rows("no")).isEqualTo("111");
    }

    @Test
    void tooLargeTooManyAndTheWrongWayAreTold() {
        Map<String, Object> definition = TestReceiver.definition(TestReceiver.OPEN, "", "no INTEGER");
        definition.put("mostKilobytes", 1);
        definition.put("callsPerMinute", 3);
        TestReceiver small = receiver("small", definition);
        assertThat(detail(small.call("{\"no\":1,\"x\":\"" + "y".repeat(1_100) + "\"}")))
                .isEqualTo("413 The body is larger than the 1 KB that this receiver takes.");
        assertThat(small.call("{\"no\":1}").statusCode()).isEqualTo(200);
        assertThat(small.call("{\"no\":2}").statusCode()).isEqualTo(200);
        HttpResponse<String> fourth = small.call("{\"no\":3}");
        assertThat(detail(fourth)).isEqualTo("429 This receiver takes no more calls for now.");
        assertThat(Integer.parseInt(fourth.headers().firstValue("Retry-After").orElse("0")))
                .isBetween(1, 60);
        assertThat(small.rows("no")).isEqualTo("1, 2");
        URI somewhere = server.address().resolve("/in/nobody");
        assertThat(detail(small.send(HttpRequest.newBuilder(somewhere)
                        .POST(HttpRequest.BodyPublishers.ofString("{}"))
                        .build())))
                .isEqualTo("404 No receiver has this address.");
        TestReceiver asked = open("asked", "", "no INTEGER");
        String url = editor.post("/api/receivers/" + asked.id() + "/address/show", Map.of())
                .ok()
                .get("url")
                .asString();
        assertThat(detail(asked.send(HttpRequest.newBuilder(
                                server.address().resolve(URI.create(url).getPath()))
                        .build())))
                .isEqualTo("405 Calls are made by POST.");
    }

    @Test
    void callsAreRemovedWithTheirRowsAfterAsManyDaysAsTheyAreKept() {
        Map<String, Object> definition = TestReceiver.definition(TestReceiver.OPEN, "no", "no INTEGER");
        definition.put("keepDays", 7);
        TestReceiver week = receiver("week", definition);
        week.call("{\"no\":1}");
        week.settled();
        server.clock().forward(Duration.ofDays(8));
        week.call("{\"no\":2}");
        week.settled();
        server.bean(Departures.class).departDue();
        Awaited.until("the first to be gone", () -> week.calls().size() == 1);
        assertThat(week.rows("no")).isEqualTo("2");
        week.call("{\"no\":1}");
        assertThat(week.rows("no")).as("forgotten events are new").isEqualTo("1, 2");
    }

    @Test
    void whatAServerLeftBehindIsLaidOutByTheNext() {
        TestReceiver left = open("left", "", "no INTEGER");
        left.call("{\"no\":1}");
        left.settled();
        server.cluster()
                .run(
                        server.database(),
                        "insert into received_call (receiver_id, received_at, headers, body, verdict) values ("
                                + left.id() + ", now(), '{}', '{\"no\":2}', 'WAITING')");
        server.clock().forward(Duration.ofMinutes(2));
        server.bean(Departures.class).departDue();
        assertThat(left.rows("no")).isEqualTo("1, 2");
    }

    @Test
    void cloudEventsAreToldApartBySourceAndId() {
        TestReceiver events = open("cloud", "", "id TEXT", "kind TEXT type", "seat TEXT data.seat");
        String event = "{\"specversion\":\"1.0\",\"id\":\"1\",\"source\":\"/quay/%s\",\"type\":\"seat.booked\","
                + "\"data\":{\"seat\":\"%s\"}}";
        String one = "application/cloudevents+json";
        events.call(event.formatted("a", "4A"), "Content-Type", one);
        events.call(event.formatted("b", "4B"), "Content-Type", one);
        events.call(event.formatted("a", "4A"), "Content-Type", one + "; charset=utf-8");
        events.call(
                "{\"seat\":\"4A\"}",
                "ce-specversion",
                "1.0",
                "ce-id",
                "1",
                "ce-source",
                "/quay/a",
                "ce-type",
                "seat.booked");
        assertThat(events.rows("id, kind, seat, _event"))
                .isEqualTo("1 seat.booked 4A /quay/a 1, 1 seat.booked 4B /quay/b 1");
        assertThat(events.calls(Optional.of("DOUBLE"))).hasSize(2);
    }

    @Test
    void aDraftThatCannotBeIsToldWhatIsWrong() {
        TestReceiver port = open("drafts", "", "no INTEGER");
        Map<String, Object> broken = new HashMap<>(TestReceiver.definition(
                Map.of("kind", "shared-secret", "header", "no header"), "", "no INTEGER", "no TEXT"));
        broken.put("callsPerMinute", 0);
        broken.put("mostKilobytes", 99_999);
        broken.put("zone", "Norge");
        broken.put("several", TestReceiver.latestPerKey("gone", "", ""));
        TestUser.Answer answer = editor.put("/api/receivers/" + port.id(), port.draft(broken, 1));
        assertThat(answer.status()).isEqualTo(422);
        assertThat(answer.text())
                .contains(
                        "is no name of a header",
                        "Two columns are called no.",
                        "is no time zone",
                        "1 to 600,000 calls a minute",
                        "1 to 10,240 kilobytes",
                        "No column is called gone.");
        assertThat(editor.post("/api/receivers", port.draft(TestReceiver.definition(TestReceiver.OPEN, ""), 0))
                        .detail())
                .contains("has this name already");
        Map<String, Object> other = new HashMap<>(port.draft(TestReceiver.definition(TestReceiver.OPEN, ""), 0));
        other.put("name", "another");
        assertThat(editor.post("/api/receivers", other).detail()).isEqualTo("Receiver drafts has this table already.");
        assertThat(editor.put(
                                "/api/receivers/" + port.id(),
                                port.draft(TestReceiver.definition(TestReceiver.OPEN, "", "no TEXT"), 7))
                        .detail())
                .contains("Someone saved this receiver meanwhile");
    }
}

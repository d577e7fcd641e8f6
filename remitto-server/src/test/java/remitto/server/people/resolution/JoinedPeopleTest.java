package remitto.server.people.resolution;

import static org.assertj.core.api.Assertions.assertThat;

import java.util.List;
import java.util.Map;
import java.util.TreeMap;
import org.junit.jupiter.api.AfterAll;
import org.junit.jupiter.api.BeforeAll;
import org.junit.jupiter.api.MethodOrderer;
import org.junit.jupiter.api.Order;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.TestInstance;
import org.junit.jupiter.api.TestMethodOrder;
import remitto.server.harness.Awaited;
import remitto.server.harness.TestRoute;
import remitto.server.harness.TestServer;
import remitto.server.harness.TestUser;
import tools.jackson.databind.JsonNode;
import tools.jackson.databind.node.ObjectNode;

/** People of two files that write their dates in two orders, joined by the rules in service, by a precision that is asked for in the end. */
@TestInstance(TestInstance.Lifecycle.PER_CLASS)
@TestMethodOrder(MethodOrderer.OrderAnnotation.class)
class JoinedPeopleTest {
    private static final int PEOPLE = 400;

    private TestServer server;
    private TestUser editor;
    private long oslo;
    private long boston;

    @BeforeAll
    void start() {
        server = TestServer.start();
        editor = server.user("EDITOR");
        TestRoute shop = new TestRoute(server, editor);
        Map<String, String> roles = new TreeMap<>(Map.of("id", "KEY"));
        List.of("given_name", "family_name", "birth_date", "town").forEach(column -> roles.put(column, "ATTRIBUTE"));
        oslo = shop.dataset(editor, "Oslo", people("DD.MM.YYYY"), roles);
        boston = shop.dataset(editor, "Boston", people("MM/DD/YYYY"), roles);
    }

    @AfterAll
    void stop() {
        server.close();
    }

    private static String people(String date) {
        return """
                select i::bigint as id,
                  (array['Runa','Leif','Sigrid','Odd','Kaia','Jonas','Mette','Arne','Tuva','Harald','Solveig'])[1 + i %% 11] as given_name,
                  (array['Berg','Dahl','Lund','Moen','Haugen','Strand','Solberg','Vik','Bakke','Eide','Nygaard','Ruud','Tangen'])[1 + i %% 13]
                    as family_name,
                  to_char(date '1950-01-01' + (i * 7919 %% 20000), '%s') as birth_date,
                  (array['Tarnvik','Lyseby','Sandoy','Kvalnes','Breivik'])[1 + i %% 5] as town
                from generate_series(1, %d) i""".formatted(date, PEOPLE);
    }

    private List<JsonNode> suggested(long dataset) {
        return editor.get("/api/people/sources/" + dataset + "/suggestion")
                .ok()
                .get("columns")
                .valueStream()
                .toList();
    }

    private void tie(long dataset, String order) {
        List<JsonNode> columns = suggested(dataset);
        columns.stream()
                .filter(column -> column.get("column").asString().equals("birth_date") && !order.isEmpty())
                .forEach(column -> ((ObjectNode) column).put("order", order));
        editor.put(
                        "/api/people/sources/" + dataset,
                        Map.of("entityType", "PERSON", "columns", columns, "country", "NO", "countryColumn", ""))
                .ok();
    }

    private JsonNode join(String how) {
        JsonNode ended = ended(editor.post("/api/people/runs" + how, Map.of()));
        // More persons may become others than a joining does without a word.
        if (ended.has("stopped")) {
            ended = ended(server.user("APPROVER")
                    .post("/api/people/runs/" + ended.get("id").asLong() + "/approve", Map.of()));
        }
        assertThat(ended.get("problem").asString()).isEmpty();
        return ended.get("summary");
    }

    private JsonNode ended(TestUser.Answer started) {
        long run = started.ok().get("runId").asLong();
        return Awaited.value(
                "joining " + run + " ends",
                () -> editor.get("/api/people/overview").ok().get("latest"),
                latest -> latest.get("id").asLong() == run && latest.has("finishedAt"));
    }

    private JsonNode dates(long dataset) {
        return editor.post("/api/people/sources/" + dataset + "/date-orders", Map.of("columns", List.of("birth_date")))
                .ok()
                .get(0);
    }

    private String differing() {
        return server.cluster()
                .text(
                        server.database(),
                        "select count(*) from identity_record a join identity_record b on a.key = b.key and a.dataset_id < b.dataset_id"
                                + " where a.normalised <> b.normalised");
    }

    @Test
    @Order(1)
    void theOrderOfDatesIsSeenInTheirValues() {
        JsonNode european = dates(oslo);
        JsonNode american = dates(boston);
        assertThat(european.get("shown").asString()).isEqualTo("DAY_FIRST");
        assertThat(american.get("shown").asString()).isEqualTo("MONTH_FIRST");
        assertThat(european.get("dayFirst")).isEqualTo(american.get("monthFirst"));
        assertThat(european.get("monthFirst").asLong()).isZero();
        assertThat(european.get("inDoubt").asBoolean()).isFalse();
        JsonNode names = editor.post(
                        "/api/people/sources/" + oslo + "/date-orders", Map.of("columns", List.of("given_name")))
                .ok()
                .get(0);
        assertThat(names.has("shown")).isFalse();
        assertThat(names.get("inDoubt").asBoolean()).isFalse();
    }

    @Test
    @Order(2)
    void aColumnThatIsNotThereIsSaidSo() {
        assertThat(editor.post("/api/people/sources/" + oslo + "/date-orders", Map.of("columns", List.of("nowhere")))
                        .detail())
                .isEqualTo("Dataset Oslo has no column nowhere.");
        assertThat(server.user("VIEWER")
                        .post("/api/people/sources/" + oslo + "/date-orders", Map.of("columns", List.of("birth_date")))
                        .status())
                .as("it reads a source, which viewers do not make it do")
                .isEqualTo(403);
    }

    @Test
    @Order(3)
    void whoSaysNothingHasTheDayFirst() {
        tie(oslo, "");
        tie(boston, "");
        join("");
        assertThat(Integer.parseInt(differing())).isBetween(PEOPLE / 4, PEOPLE / 2);
    }

    @Test
    @Order(4)
    void datesInTwoOrdersAreTheSameDates() {
        tie(boston, "MONTH_FIRST");
        JsonNode joined = join("?estimate=true");
        assertThat(differing()).isEqualTo("0");
        assertThat(joined.get("persons").asLong()).isEqualTo(PEOPLE);
        assertThat(suggested(boston).get(0).has("order")).isFalse();
    }

    /** What it came to is told, and stays until weights are estimated again. */
    @Test
    @Order(5)
    void thresholdsFollowFromAPrecision() {
        JsonNode before = editor.get("/api/people/rules").ok();
        ObjectNode rules = (ObjectNode) before.get("rules").deepCopy();
        ObjectNode thresholds = (ObjectNode) rules.get("thresholds");
        thresholds.putObject("aim").put("precision", 0.99).put("asked", 25);
        JsonNode saved = editor.post(
                        "/api/people/rules/versions",
                        Map.of("basedOn", before.get("number").asInt(), "note", "by precision", "rules", rules))
                .ok();
        editor.post(
                        "/api/people/rules/in-service",
                        Map.of("version", saved.get("number").asInt()))
                .ok();
        JsonNode cost = join("").get("cost");
        assertThat(cost.get("precision").asDouble()).isGreaterThanOrEqualTo(0.99);
        assertThat(cost.get("joined").asLong()).isEqualTo(PEOPLE);
        assertThat(cost.get("ask").asDouble())
                .isLessThanOrEqualTo(cost.get("join").asDouble());
        assertThat(cost.get("between").asLong()).isLessThanOrEqualTo(25);
        JsonNode again = join("?whole=true");
        assertThat(again.get("cost")).isEqualTo(cost);
        assertThat(again.get("fresh").asLong() + again.get("retired").asLong()).isZero();
        assertThat(join("").get("judged").asLong())
                .as("judged again when nothing changed")
                .isZero();
    }

    @Test
    @Order(6)
    void anAimThatIsNoneIsRefused() {
        JsonNode before = editor.get("/api/people/rules").ok();
        for (Map.Entry<String, String> wrong : Map.of(
                        "{\"precision\": 1.5, \"asked\": 10}", "The precision asked for is from 50 to 99.99 per cent.",
                        "{\"precision\": 0.99, \"asked\": -1}",
                                "The number of pairs to ask about is from 0 to 1000000.")
                .entrySet()) {
            String body = "{\"basedOn\": " + before.get("number") + ", \"note\": \"\", \"rules\": "
                    + before.get("rules").toString().replaceFirst("\"aim\":\\{[^}]*}", "\"aim\":" + wrong.getKey())
                    + "}";
            TestUser.Answer answer = editor.send("POST", "/api/people/rules/versions", body);
            assertThat(answer.status()).isEqualTo(422);
            assertThat(answer.detail()).isEqualTo(wrong.getValue());
        }
    }

    /** Versions from before there were aims have none, and stay readable. */
    @Test
    @Order(7)
    void olderVersionsStateTheirThresholds() {
        server.cluster()
                .run(
                        server.database(),
                        "insert into identity_rules select about, 99, definition #- '{thresholds,aim}', author, saved_at, note"
                                + " from identity_rules where definition -> 'thresholds' ? 'aim' order by number desc limit 1");
        JsonNode old =
                editor.get("/api/people/rules/versions/99?entityType=PERSON").ok();
        assertThat(old.get("thresholds").has("aim")).isFalse();
        assertThat(old.get("thresholds").get("join").asDouble()).isEqualTo(1);
    }
}

package remitto.server.expectation;

import static org.assertj.core.api.Assertions.assertThat;

import java.time.Duration;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import org.junit.jupiter.api.AfterAll;
import org.junit.jupiter.api.BeforeAll;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.TestInstance;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.ValueSource;
import remitto.core.cause.CauseKind;
import remitto.core.fieldrule.FieldRule;
import remitto.core.fieldrule.Receives;
import remitto.core.guard.Guards;
import remitto.core.route.Basis;
import remitto.core.route.FirstRun;
import remitto.core.route.Leavers;
import remitto.core.route.Mode;
import remitto.core.route.RouteSpec;
import remitto.core.timetable.Schedule;
import remitto.server.departure.Departures;
import remitto.server.harness.Awaited;
import remitto.server.harness.TestRoute;
import remitto.server.harness.TestServer;
import remitto.server.harness.TestUser;
import tools.jackson.databind.JsonNode;

/** What is expected of a dataset is checked at every read, tells, holds rows, or stops routes and matching. */
@TestInstance(TestInstance.Lifecycle.PER_CLASS)
class ExpectationsTest {
    private static final Map<String, Object> NOT_EMPTY = Map.of("kind", "not-empty");

    private TestServer server;
    private TestUser editor;
    private TestRoute shop;
    private String table = "";
    private int tables;

    @BeforeAll
    void start() {
        server = TestServer.start(Map.of(
                "remitto.departures",
                false,
                "remitto.session.longest",
                "9999d",
                "server.servlet.session.timeout",
                "9999d"));
        editor = server.user("EDITOR");
        shop = new TestRoute(server, editor);
    }

    @AfterAll
    void stop() {
        server.close();
    }

    /** Forty guests of a table of their own, which a route keeps equal to another table. */
    @BeforeEach
    void guests() {
        table = "guests_" + ++tables;
        server.warehouse()
                .run("create table shop." + table + " (id int primary key, town text, email text, points int,"
                        + " changed timestamptz);"
                        + " insert into shop." + table + " select i, case i % 2 when 0 then 'Brevik' else 'Holm' end,"
                        + " 'guest' || i || '@mail.example', i, timestamptz '2026-01-01' + make_interval(hours => i)"
                        + " from generate_series(1, 40) i; grant select on shop." + table + " to shop_reader;"
                        + " create table mail." + table + " (like mail.recipients including all); grant select, insert,"
                        + " update, delete on mail." + table + " to shop_writer");
    }

    private static Map<String, Object> expected(String column, Map<String, Object> demand, String response) {
        Map<String, Object> expectation = new HashMap<>(Map.of("demand", demand, "response", response));
        if (!column.isEmpty()) {
            expectation.put("column", column);
        }
        return expectation;
    }

    private Map<String, Object> definition(List<Map<String, Object>> expectations) {
        return Map.of(
                "query",
                Map.of("kind", "sql", "text", "select id, town, email, points, changed from shop." + table),
                "columns",
                List.of(
                        Map.of("name", "id", "type", "INTEGER", "role", "KEY"),
                        Map.of("name", "town", "type", "TEXT", "role", "ATTRIBUTE"),
                        Map.of("name", "email", "type", "TEXT", "role", "IDENTIFIER"),
                        Map.of("name", "points", "type", "INTEGER", "role", "ATTRIBUTE"),
                        Map.of("name", "changed", "type", "TIMESTAMP", "role", "UPDATED_AT")),
                "expectations",
                expectations);
    }

    private Map<String, Object> draft(int basedOn, List<Map<String, Object>> expectations) {
        return Map.of(
                "name",
                "Dataset " + table,
                "description",
                "",
                "sourceId",
                shop.source(),
                "basedOn",
                basedOn,
                "definition",
                definition(expectations));
    }

    private long dataset() {
        return dataset(List.of());
    }

    private long dataset(Map<String, Object> expectation) {
        return dataset(List.of(expectation));
    }

    private long dataset(List<Map<String, Object>> expectations) {
        return TestRoute.dataset(editor, shop.source(), "Dataset " + table, definition(expectations));
    }

    private void expectNow(long dataset, List<Map<String, Object>> expectations) {
        int version =
                editor.get("/api/datasets/" + dataset).ok().get("latestVersion").asInt();
        editor.post("/api/datasets/" + dataset + "/versions", draft(version, expectations))
                .ok();
        editor.post("/api/datasets/" + dataset + "/in-service", Map.of("version", version + 1))
                .ok();
    }

    private long route(long dataset) {
        RouteSpec spec = RouteSpec.of(
                        Mode.KEEP_EQUAL,
                        List.of("id"),
                        List.of(
                                FieldRule.of("id", new Receives.FromColumn("id")),
                                FieldRule.of("town", new Receives.FromColumn("town")),
                                FieldRule.of("email", new Receives.FromColumn("email"))),
                        new Basis.NotStated(),
                        Guards.none(),
                        new Schedule.ByHand("Europe/Oslo"))
                .leavers(new Leavers.Delete())
                .firstRun(FirstRun.AlreadyThere.ADOPT, FirstRun.OlderRows.SEND);
        long id = editor.post(
                        "/api/routes",
                        Map.of(
                                "name",
                                "Route " + table,
                                "ends",
                                Map.of("datasetId", dataset, "destinationId", shop.destination(), "object", table),
                                "spec",
                                spec))
                .ok()
                .get("id")
                .asLong();
        editor.post("/api/routes/" + id + "/in-service", Map.of("version", 1)).ok();
        return id;
    }

    private void change(String assignments, String where) {
        server.warehouse().run("update shop." + table + " set " + assignments + " where " + where);
    }

    private String there(String what) {
        return server.warehouse().text("select " + what + " from mail." + table);
    }

    private JsonNode state(long dataset) {
        return editor.get("/api/datasets/" + dataset + "/expectations").ok();
    }

    private JsonNode first(long dataset) {
        return state(dataset).get("expectations").get(0);
    }

    /** The server's work falls due when the test says so. */
    private void minute() {
        server.clock().forward(Duration.ofMinutes(1));
        server.bean(Departures.class).departDue();
    }

    private void awaitCheck(long dataset) {
        Awaited.until("the check of " + dataset + " to end", () -> {
            minute();
            return !state(dataset).get("checking").asBoolean();
        });
    }

    private List<JsonNode> onBoard(long dataset) {
        return editor.get("/api/departures")
                .ok()
                .get("unexpected")
                .valueStream()
                .filter(one -> one.get("datasetId").asLong() == dataset)
                .toList();
    }

    @Test
    void rowsThatDoNotMeetAnExpectationAreHeldAndTheOthersGo() {
        long dataset = dataset(expected("email", NOT_EMPTY, "HOLD_ROWS"));
        long route = route(dataset);
        change("email = ' '", "id = 7");

        JsonNode run = shop.run(route);

        assertThat(run.get("counts").get("held").asLong()).isEqualTo(1);
        assertThat(there("count(*)")).isEqualTo("39");
        JsonNode held = editor.get("/api/held/records?routeId=" + route + "&code=unexpected:email")
                .ok()
                .get("records");
        assertThat(held).singleElement().satisfies(record -> {
            assertThat(record.get("key").asString()).isEqualTo("7");
            assertThat(record.get("reason").asString()).isEqualTo("email is empty");
        });
        assertThat(new remitto.core.cause.Cause(Optional.of(CauseKind.UNEXPECTED), "email").spelled())
                .isEqualTo("unexpected:email");
        assertThat(first(dataset).get("met").asBoolean()).isFalse();
        assertThat(first(dataset).get("rows").asLong()).isEqualTo(1);
    }

    @Test
    void aRecordThatWasSentIsLeftAsItIsWhileItsRowIsHeldAndGoesOnOnceItMeetsTheExpectation() {
        long dataset = dataset(expected("points", Map.of("kind", "within", "most", "100"), "HOLD_ROWS"));
        long route = route(dataset);
        shop.run(route);
        change("points = 500, town = 'Sund'", "id = 3");

        JsonNode run = shop.run(route);

        assertThat(run.get("counts").get("held").asLong()).isEqualTo(1);
        assertThat(run.get("counts").get("removed").asLong()).isZero();
        assertThat(there("string_agg(town, ',') filter (where id = 3)")).isEqualTo("Holm");

        assertThat(shop.run(route).get("counts").get("held").asLong())
                .as("held again while nothing changed")
                .isEqualTo(1);
        change("points = 50", "id = 3");
        assertThat(shop.run(route).get("counts").get("changed").asLong()).isEqualTo(1);
        assertThat(there("string_agg(town, ',') filter (where id = 3)")).isEqualTo("Sund");
    }

    @Test
    void aHeldRowIsNotTakenForOneThatLeft() {
        long dataset =
                dataset(expected("town", Map.of("kind", "one-of", "values", List.of("Brevik", "Holm")), "HOLD_ROWS"));
        long route = route(dataset);
        shop.run(route);
        change("town = 'Atlantis'", "true");

        JsonNode run = shop.run(route);

        assertThat(run.get("counts").get("held").asLong()).isEqualTo(40);
        assertThat(run.get("counts").get("removed").asLong()).isZero();
        assertThat(there("count(*)")).isEqualTo("40");
    }

    @Test
    void everyRowOfAValueThatMustBeUniqueIsHeld() {
        long dataset = dataset(expected("email", Map.of("kind", "unique"), "HOLD_ROWS"));
        long route = route(dataset);
        change("email = 'shared@mail.example'", "id in (5, 9)");
        change("email = null", "id in (11, 12)");

        assertThat(shop.run(route).get("counts").get("held").asLong()).isEqualTo(2);
        assertThat(there("count(*)")).isEqualTo("38");
        assertThat(first(dataset).get("detail").asString()).isEqualTo("1 value is in more than one row.");
        assertThat(first(dataset).get("rows").asLong()).isEqualTo(2);
    }

    @Test
    void aManifestWaitsForApprovalWhereAnExpectationStopsRoutes() {
        long dataset =
                dataset(expected("email", Map.of("kind", "matches", "pattern", ".+@mail\\.example"), "STOP_ROUTES"));
        long route = route(dataset);
        change("email = 'nowhere'", "id in (1, 2)");

        JsonNode run = shop.prepare(route);

        assertThat(run.get("state").asString()).isEqualTo("AWAITING_APPROVAL");
        assertThat(run.toString())
                .contains("Expected that email matches .+@mail\\\\.example. 2 rows do not meet this.");
        assertThat(there("count(*)")).isEqualTo("0");
        assertThat(onBoard(dataset)).singleElement().satisfies(one -> {
            assertThat(one.get("response").asString()).isEqualTo("STOP_ROUTES");
            assertThat(one.get("rows").asLong()).isEqualTo(2);
        });

        change("email = 'found@mail.example'", "id in (1, 2)");
        editor.post("/api/runs/" + run.get("id").asLong() + "/discard", Map.of())
                .ok();
        assertThat(shop.prepare(route).get("state").asString()).isEqualTo("READY");
        assertThat(onBoard(dataset)).isEmpty();
    }

    @Test
    void whatIsOnlyToldLetsEverythingGo() {
        long dataset = dataset(expected("email", NOT_EMPTY, "TELL"));
        long route = route(dataset);
        change("email = ''", "id < 4");

        assertThat(shop.run(route).get("counts").get("held").asLong()).isZero();
        assertThat(there("count(*)")).isEqualTo("40");
        assertThat(first(dataset).get("rows").asLong()).isEqualTo(3);
        String since = first(dataset).get("brokenSince").asString();

        server.clock().forward(Duration.ofMinutes(10));
        change("email = ''", "id < 5");
        shop.run(route);
        assertThat(first(dataset).get("rows").asLong()).isEqualTo(4);
        assertThat(first(dataset).get("brokenSince").asString())
                .as("broken since it was first seen")
                .isEqualTo(since);
    }

    @Test
    void aSmallerReadThanUsualStopsRoutes() {
        long dataset = dataset(expected("", Map.of("kind", "row-count", "changePercent", 25), "STOP_ROUTES"));
        long route = route(dataset);
        for (int i = 0; i < 3; i++) {
            shop.run(route);
        }
        server.warehouse().run("delete from shop." + table + " where id > 20");

        JsonNode run = shop.prepare(route);

        assertThat(run.get("state").asString()).isEqualTo("AWAITING_APPROVAL");
        assertThat(run.toString()).contains("It has 20 rows; the median of the last");
    }

    @Test
    void aVersionIsCheckedAsSoonAsItIsInServiceAndWhatItNoLongerExpectsIsNotBroken() {
        long dataset = dataset();
        change("town = null", "id = 40");
        assertThat(state(dataset).get("checking").asBoolean()).isFalse();

        expectNow(dataset, List.of(expected("town", NOT_EMPTY, "TELL")));
        assertThat(state(dataset).get("checking").asBoolean()).isTrue();
        awaitCheck(dataset);

        assertThat(first(dataset).get("met").asBoolean()).isFalse();
        assertThat(onBoard(dataset)).hasSize(1);

        expectNow(dataset, List.of());
        assertThat(onBoard(dataset)).isEmpty();
    }

    @Test
    void whatStopsRoutesIsLoosenedByTwo() {
        long dataset = dataset(expected("town", NOT_EMPTY, "STOP_ROUTES"));
        editor.post("/api/datasets/" + dataset + "/versions", draft(1, List.of(expected("town", NOT_EMPTY, "TELL"))))
                .ok();

        TestUser.Answer alone = editor.post("/api/datasets/" + dataset + "/in-service", Map.of("version", 2));

        assertThat(alone.status()).isEqualTo(403);
        assertThat(alone.detail())
                .isEqualTo("This version no longer expects that town is never empty. An approver puts it in service.");
        assertThat(editor.get("/api/datasets/" + dataset)
                        .ok()
                        .get("liveVersion")
                        .asInt())
                .isEqualTo(1);
        server.user("APPROVER")
                .post("/api/datasets/" + dataset + "/in-service", Map.of("version", 2))
                .ok();
        assertThat(server.journal("loosened expectations"))
                .anyMatch(entry -> entry.toString().contains("town is never empty"));

        TestUser approver = server.user("APPROVER");
        approver.post(
                        "/api/datasets/" + dataset + "/versions",
                        draft(2, List.of(expected("town", NOT_EMPTY, "HOLD_ROWS"))))
                .ok();
        approver.post("/api/datasets/" + dataset + "/in-service", Map.of("version", 3))
                .ok();
        approver.post("/api/datasets/" + dataset + "/versions", draft(3, List.of()))
                .ok();
        assertThat(approver.post("/api/datasets/" + dataset + "/in-service", Map.of("version", 4))
                        .detail())
                .contains("another approver puts it in service");
    }

    @Test
    void aDatasetThatNothingReadsIsCheckedOnceADayAndItsAgeEveryHour() {
        long dataset = dataset(expected("", Map.of("kind", "fresh", "hours", 48), "TELL"));
        change("changed = timestamptz '" + server.clock().instant() + "'", "id = 1");
        awaitCheck(dataset);
        assertThat(first(dataset).get("met").asBoolean()).isTrue();
        int reads = profiles(dataset).get("reads").size();

        server.clock().forward(Duration.ofHours(49));
        Awaited.until("its age to be told", () -> {
            minute();
            return !first(dataset).get("met").asBoolean();
        });
        Awaited.until("it to be read", () -> {
            minute();
            return profiles(dataset).get("reads").size() > reads;
        });

        assertThat(first(dataset).get("detail").asString()).startsWith("Its newest row is 49 hours old.");
    }

    @Test
    void aCheckThatFailsSaysWhyAndKeepsWhatWasFound() {
        long dataset = dataset(expected("town", NOT_EMPTY, "TELL"));
        awaitCheck(dataset);
        server.warehouse().run("revoke select on shop." + table + " from shop_reader");

        editor.post("/api/datasets/" + dataset + "/check", Map.of()).ok();
        awaitCheck(dataset);

        assertThat(state(dataset).get("problem").asString()).contains("may not read");
        assertThat(first(dataset).get("met").asBoolean()).isTrue();
        server.warehouse().run("grant select on shop." + table + " to shop_reader");
        editor.post("/api/datasets/" + dataset + "/check", Map.of()).ok();
        awaitCheck(dataset);
        assertThat(state(dataset).get("problem").asString()).isEmpty();
    }

    private JsonNode profiles(long dataset) {
        return editor.get("/api/datasets/" + dataset + "/column-profiles").ok();
    }

    private static JsonNode column(JsonNode profiles, String name) {
        return profiles.get("columns")
                .valueStream()
                .filter(one -> one.get("name").asString().equals(name))
                .findFirst()
                .orElseThrow();
    }

    @Test
    void columnsAreProfiledAsPostgresCountsThem() {
        long dataset = dataset();
        change("town = null", "id <= 10");
        editor.post("/api/datasets/" + dataset + "/check", Map.of()).ok();
        awaitCheck(dataset);

        JsonNode profiles = profiles(dataset);

        JsonNode town = column(profiles, "town");
        assertThat(town.get("empty").asString())
                .isEqualTo(server.warehouse().text("select count(*) from shop." + table + " where town is null"));
        assertThat(town.get("distinct").asString())
                .isEqualTo(server.warehouse().text("select count(distinct town) from shop." + table));
        assertThat(town.get("commonest").get(0).get("text").asString()
                        + town.get("commonest").get(0).get("rows").asString())
                .isEqualTo(server.warehouse()
                        .text("select town || count(*) from shop." + table
                                + " where town is not null group by town order by count(*) desc, town limit 1"));
        assertThat(town.get("emptyShares").get(0).asDouble()).isEqualTo(0.25);
        JsonNode points = column(profiles, "points");
        assertThat(points.get("least").asString()).isEqualTo("1");
        assertThat(points.get("greatest").asString()).isEqualTo("40");
        assertThat(points.get("histogram")
                        .valueStream()
                        .mapToLong(bin -> bin.get("rows").asLong())
                        .sum())
                .isEqualTo(40);
        assertThat(column(profiles, "email").get("commonest")).isEmpty();
    }

    @Test
    void whoeverMayNotSeePersonalValuesSeesHowManyAndNotWhich() {
        long dataset = dataset(expected("town", Map.of("kind", "one-of", "values", List.of("Brevik")), "TELL"));
        awaitCheck(dataset);

        String seen = server.user("VIEWER")
                .get("/api/datasets/" + dataset + "/column-profiles")
                .ok()
                .get("columns")
                .toString();

        assertThat(seen).contains("\"rows\":20").doesNotContain("Holm");
        assertThat(server.user("VIEWER")
                        .post("/api/datasets/" + dataset + "/expectations/rows", expected("town", NOT_EMPTY, "TELL"))
                        .status())
                .isEqualTo(403);
    }

    @Test
    void whatBecameSensitiveIsNotShownFromEarlierReads() {
        long dataset = dataset();
        editor.post("/api/datasets/" + dataset + "/check", Map.of()).ok();
        awaitCheck(dataset);
        assertThat(column(profiles(dataset), "town").toString()).contains("Holm");

        Map<String, Object> definition = new HashMap<>(definition(List.of()));
        definition.put(
                "columns",
                List.of(
                        Map.of("name", "id", "type", "INTEGER", "role", "KEY"),
                        Map.of("name", "town", "type", "TEXT", "role", "SENSITIVE")));
        Map<String, Object> draft = new HashMap<>(draft(1, List.of()));
        draft.put("definition", definition);
        editor.post("/api/datasets/" + dataset + "/versions", draft).ok();

        assertThat(profiles(dataset).toString()).doesNotContain("Holm");
    }

    @Test
    void rowsThatDoNotMeetAnExpectationAreShownBeforeItIsSaved() {
        long dataset = dataset();
        change("email = null", "id in (4, 8)");

        JsonNode found = editor.post(
                        "/api/datasets/" + dataset + "/expectations/rows", expected("email", NOT_EMPTY, "TELL"))
                .ok();

        assertThat(found.get("columns").valueStream().map(JsonNode::asString)).containsExactly("id", "email");
        assertThat(found.get("rows").valueStream().map(row -> row.get(0).asString()))
                .containsExactlyInAnyOrder("4", "8");
        assertThat(found.get("whole").asBoolean()).isTrue();
        assertThat(found.get("read").asLong()).isEqualTo(40);
        assertThat(editor.post(
                                "/api/datasets/" + dataset + "/expectations/rows",
                                expected("", Map.of("kind", "fresh", "hours", 1), "TELL"))
                        .detail())
                .contains("about the dataset as a whole");
    }

    @Test
    void proposalsComeFromWhatWasReadAndCanBeSavedAsTheyAre() {
        long dataset = dataset();
        editor.post("/api/datasets/" + dataset + "/check", Map.of()).ok();
        awaitCheck(dataset);

        JsonNode proposals = editor.get("/api/datasets/" + dataset + "/expectations/proposals")
                .ok();

        assertThat(proposals.valueStream().map(one -> one.get("evidence").asString()))
                .contains("Never empty in the last read.", "Only these 2 values in the last read.");
        List<Map<String, Object>> saved = new ArrayList<>();
        proposals.forEach(one -> {
            JsonNode demand = one.get("expectation").get("demand");
            Map<String, Object> members = new HashMap<>();
            demand.properties()
                    .forEach(member -> members.put(
                            member.getKey(),
                            member.getValue().isArray()
                                    ? member.getValue()
                                            .valueStream()
                                            .map(JsonNode::asString)
                                            .toList()
                                    : member.getValue().asString()));
            saved.add(expected(one.get("expectation").path("column").asString(""), members, "TELL"));
        });
        expectNow(dataset, saved);
        awaitCheck(dataset);
        assertThat(state(dataset).get("expectations"))
                .hasSize(saved.size())
                .allSatisfy(one -> assertThat(one.get("met").asBoolean()).isTrue());
    }

    @ParameterizedTest
    @ValueSource(strings = {"(", "", "(a+)+\\1"})
    void aPatternThatCannotBeReadIsNotSaved(String pattern) {
        assertThat(editor.post(
                                "/api/datasets",
                                draft(
                                        0,
                                        List.of(expected(
                                                "email", Map.of("kind", "matches", "pattern", pattern), "TELL"))))
                        .detail())
                .contains("pattern for email");
    }

    private JsonNode matched(TestUser who, String path) {
        long run = who.post(path, Map.of()).ok().get("runId").asLong();
        return Awaited.value(
                "matching run " + run + " to end",
                () -> editor.get("/api/people/overview").ok().get("latest"),
                latest -> latest.get("id").asLong() == run && latest.has("finishedAt"));
    }

    @Test
    void matchingKeepsPeopleAsTheyAreWhereAnExpectationStopsRoutes() {
        long dataset =
                dataset(expected("town", Map.of("kind", "one-of", "values", List.of("Brevik", "Holm")), "STOP_ROUTES"));
        List<JsonNode> columns = editor.get("/api/people/sources/" + dataset + "/suggestion")
                .ok()
                .get("columns")
                .valueStream()
                .toList();
        editor.put(
                        "/api/people/sources/" + dataset,
                        Map.of("entityType", "PERSON", "columns", columns, "country", "NO", "countryColumn", ""))
                .ok();
        change("town = 'Atlantis'", "id = 6");

        JsonNode stopped = matched(editor, "/api/people/runs");

        assertThat(stopped.has("summary")).isFalse();
        assertThat(stopped.get("stopped").get("reasons").get(0).asString())
                .isEqualTo(
                        "Dataset " + table + ": expected that town is one of Brevik, Holm. 1 row does not meet this.");
        assertThat(server.cluster().text(server.database(), "select count(*) from identity_record"))
                .isEqualTo("0");

        JsonNode approved = matched(
                server.user("APPROVER"), "/api/people/runs/" + stopped.get("id").asLong() + "/approve");
        assertThat(approved.has("summary")).isTrue();
        assertThat(server.cluster().text(server.database(), "select count(*) from identity_record"))
                .isEqualTo("40");
        editor.delete("/api/people/sources/" + dataset).ok();
    }

    /** A version from before there were expectations says nothing of them. */
    @Test
    void olderDefinitionsExpectNothing() {
        long old = shop.dataset(editor, "Old " + table, "select id, town, email from shop." + table);

        assertThat(state(old).get("expectations")).isEmpty();
        assertThat(editor.get("/api/datasets/" + old).ok().get("definition").get("expectations"))
                .isEmpty();
    }

    @Test
    void readsBeyondTheLastTwoHundredAreNotKept() {
        long dataset = dataset(expected("town", NOT_EMPTY, "TELL"));
        awaitCheck(dataset);
        server.bean(org.springframework.jdbc.core.simple.JdbcClient.class)
                .sql("""
                        insert into dataset_read (dataset_id, version, read_at, reader, rows, findings)
                        select ?, 1, now(), 'CHECK', i, '[]' from generate_series(1, 300) i
                        """)
                .param(dataset)
                .update();

        editor.post("/api/datasets/" + dataset + "/check", Map.of()).ok();
        awaitCheck(dataset);

        assertThat(server.bean(org.springframework.jdbc.core.simple.JdbcClient.class)
                        .sql("select count(*) from dataset_read where dataset_id = ?")
                        .param(dataset)
                        .query(Integer.class)
                        .single())
                .isEqualTo(DatasetReads.KEPT);
    }
}

package remitto.e2e;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import java.util.HashMap;
import java.util.List;
import java.util.Map;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;
import remitto.core.fieldrule.FieldRule;
import remitto.core.fieldrule.IfEmpty;
import remitto.core.fieldrule.Receives;
import remitto.core.guard.Guards;
import remitto.core.route.Basis;
import remitto.core.route.FirstRun;
import remitto.core.route.Leavers;
import remitto.core.route.Mode;
import remitto.core.route.RouteSpec;
import remitto.core.timetable.Schedule;
import remitto.demo.Databases;
import remitto.demo.history.PeopleSetUp;
import tools.jackson.databind.JsonNode;

/** Who is whose is written back to tables of the warehouse, row by row, as to any other destination. */
class TableRouteTest extends RouteRunsFixture {
    private PeopleSetUp people;
    private long tables;

    TableRouteTest() {
        super(200);
    }

    @BeforeEach
    void aWarehouseThatCanBeWritten() {
        people = new PeopleSetUp(editor, scenario);
        people.setUp(ids.source());
        people.join();
        tables = editor.post("/api/destinations", destination(address(), Databases.WRITER_PASSWORD))
                .get("id")
                .asLong();
    }

    private String address() {
        return "postgresql://127.0.0.1:" + stack.databases.port() + "/" + stack.warehouseDatabase + "?sslmode=disable";
    }

    private Map<String, Object> destination(String address, String password) {
        return Map.of(
                "name",
                "Warehouse tables",
                "profile",
                "database-table",
                "limitsOff",
                false,
                "settings",
                Map.of("base_address", address, "user", Databases.WRITER, "password", password, "schema", "marketing"));
    }

    private static FieldRule from(String field, String column) {
        return FieldRule.of(field, new Receives.FromColumn(column));
    }

    private long route(long dataset, String table, RouteSpec spec) {
        long id = editor.post(
                        "/api/routes",
                        Map.of(
                                "name",
                                "Back to " + table,
                                "ends",
                                Map.of("datasetId", dataset, "destinationId", tables, "object", table),
                                "spec",
                                spec))
                .get("id")
                .asLong();
        editor.post("/api/routes/" + id + "/in-service", Map.of("version", 1));
        return id;
    }

    private static RouteSpec spec(String key, FieldRule... rules) {
        return RouteSpec.of(
                        Mode.KEEP_EQUAL,
                        List.of(key),
                        List.of(rules),
                        new Basis.NotStated(),
                        Guards.none(),
                        new Schedule.ByHand("Europe/Oslo"))
                .leavers(new Leavers.Delete())
                .firstRun(FirstRun.AlreadyThere.ADOPT, FirstRun.OlderRows.SEND);
    }

    private long count(String sql) {
        return Long.parseLong(stack.text(sql));
    }

    @Test
    void theLinkTableFollowsWhatIsJoined() {
        long source = editor.get("/api/people/overview").get("source").asLong();
        long dataset =
                dataset(source, "Which record belongs to whom", "select * from people.record", Map.of("record", "KEY"));
        long route = route(
                dataset,
                "person_links",
                spec(
                        "record",
                        from("record", "record").ifEmpty(IfEmpty.HOLD_RECORD),
                        from("person_id", "person_id"),
                        from("dataset", "dataset"),
                        from("key", "key")));
        JsonNode first = run(route);
        long records = editor.get("/api/people/overview")
                .get("good")
                .get("summary")
                .get("records")
                .asLong();
        assertThat(sum(first, "added")).isEqualTo(records);
        assertThat(outcome(first, "ACKNOWLEDGED")).isEqualTo(records);
        assertThat(count("select count(*) from marketing.person_links")).isEqualTo(records);
        assertThat(prepare(route).get("message").asString()).isEqualTo("Nothing to send");

        String pair = stack.text("select string_agg(record, ' ') from (select record from marketing.person_links"
                + " where person_id = (select person_id from marketing.person_links group by person_id"
                + " having count(*) = 2 order by person_id limit 1)) as two");
        String[] two = pair.split(" ");
        editor.post(
                "/api/people/corrections",
                Map.of("one", ref(two[0]), "other", ref(two[1]), "together", false, "reason", "not the same"));
        stack.change(
                "delete from ferry.wifi_signups where signup_no = (select min(signup_no) from ferry.wifi_signups)");
        people.join();
        JsonNode second = run(route);
        assertThat(sum(second, "changed")).isEqualTo(1);
        assertThat(sum(second, "removed")).isEqualTo(1);
        assertThat(count("select count(*) from marketing.person_links")).isEqualTo(records - 1);
        assertThat(count("select count(distinct person_id) from marketing.person_links where record in ('" + two[0]
                        + "', '" + two[1] + "')"))
                .isEqualTo(2);

        editor.await(editor.post("/api/runs/" + first.get("id").asLong() + "/undo", Map.of())
                .get("runId")
                .asLong());
    }

    private static Map<String, Object> ref(String record) {
        int colon = record.indexOf(':');
        return Map.of("datasetId", Long.parseLong(record.substring(0, colon)), "key", record.substring(colon + 1));
    }

    private long dataset(long source, String name, String sql, Map<String, String> roles) {
        JsonNode preview = editor.post(
                "/api/datasets/preview", Map.of("sourceId", source, "query", Map.of("kind", "sql", "text", sql)));
        List<Map<String, String>> columns = preview.get("preview")
                .get("columns")
                .valueStream()
                .map(column -> {
                    String column1 = column.get("name").asString();
                    Map<String, String> one = new HashMap<>();
                    one.put("name", column1);
                    one.put("type", column.get("type").asString());
                    one.put("role", roles.getOrDefault(column1, "ATTRIBUTE"));
                    return one;
                })
                .toList();
        long id = editor.post(
                        "/api/datasets",
                        Map.of(
                                "name",
                                name,
                                "description",
                                "",
                                "sourceId",
                                source,
                                "basedOn",
                                0,
                                "definition",
                                Map.of("query", Map.of("kind", "sql", "text", sql), "columns", columns)))
                .get("id")
                .asLong();
        editor.post("/api/datasets/" + id + "/in-service", Map.of("version", 1));
        return id;
    }

    @Test
    void aRowThatTheTableRefusesHoldsOnlyItselfAndTypesAreTheTables() {
        long source = editor.get("/api/people/overview").get("source").asLong();
        long dataset = dataset(
                source,
                "Persons for the warehouse",
                "select person_id, given_name, family_name, since::date as since, newsletter_consent,"
                        + " case when person_id = (select max(person_id) from people.person) then 0 else records end as records"
                        + " from people.person",
                Map.of("person_id", "KEY", "newsletter_consent", "CONSENT"));
        long route = route(
                dataset,
                "people",
                spec(
                        "person_id",
                        from("person_id", "person_id"),
                        from("given_name", "given_name"),
                        from("family_name", "family_name"),
                        from("records", "records"),
                        from("since", "since"),
                        from("agreed", "newsletter_consent")));
        JsonNode run = run(route);
        long persons = sum(run, "read");
        assertThat(outcome(run, "ACKNOWLEDGED")).isEqualTo(persons - 1);
        assertThat(outcome(run, "REFUSED")).isEqualTo(1);
        assertThat(count("select count(*) from marketing.people")).isEqualTo(persons - 1);
        assertThat(count("select count(*) from marketing.people where agreed is null and since = current_date"))
                .isPositive();
        assertThat(editor.get("/api/held?routeId=" + route).toString()).contains("people_records_check");

        stack.change("update marketing.people set family_name = 'Edited there' where person_id ="
                + " (select min(person_id) from marketing.people)");
        stack.change("delete from marketing.people where person_id = (select max(person_id) from marketing.people)");
        JsonNode stocktake = stocktake("people");
        assertThat(stocktake.toString())
                .contains("\"kind\":\"EDITED\",\"found\":1")
                .contains("\"kind\":\"DELETED\",\"found\":1");
    }

    private JsonNode stocktake(String object) {
        long id = editor.post("/api/destinations/" + tables + "/objects/" + object + "/stocktakes", Map.of())
                .get("id")
                .asLong();
        return editor.until(
                "/api/stocktakes/" + id, seen -> !seen.get("state").asString().equals("COUNTING"));
    }

    @Test
    void tablesWithoutAKeyAreNotOfferedAndWhatIsWrongWithAConnectionIsSaid() {
        JsonNode objects = editor.get("/api/destinations/" + tables + "/objects");
        assertThat(objects.valueStream().map(one -> one.get("name").asString()))
                .containsExactlyInAnyOrder("people", "person_links");
        assertThat(editor.post("/api/destinations/" + tables + "/test", Map.of())
                        .toString())
                .contains("who may write 2 tables of marketing");
        assertThat(tested(destination(address(), "wrong"))).contains("password authentication failed");
        assertThat(tested(destination("postgresql://127.0.0.1:1/nowhere?sslmode=disable", "x")))
                .contains("refused");
        assertThat(tested(destination(address() + "&socketFactory=x", "x")))
                .contains("only ?sslmode=disable, require or verify-full may stand");
        assertThatThrownBy(() -> editor.put(
                        "/api/destinations/" + tables,
                        destination("postgresql://other.example:5432/halvorn?sslmode=disable", "")))
                .hasMessageContaining("Give Password again");
    }

    /** What a test of a connection says. */
    private String tested(Map<String, Object> wanted) {
        Map<String, Object> other = new HashMap<>(wanted);
        other.put("name", "Try " + other.hashCode());
        return editor.post("/api/destinations", other).toString();
    }
}

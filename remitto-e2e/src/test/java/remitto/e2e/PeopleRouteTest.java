package remitto.e2e;

import static org.assertj.core.api.Assertions.assertThat;

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
import remitto.demo.history.PeopleSetUp;
import tools.jackson.databind.JsonNode;

/** A route sends people, each once, and follows them through joins and splits. */
class PeopleRouteTest extends RouteRunsFixture {
    private PeopleSetUp people;
    private Map<String, Long> datasets;
    private long route;

    PeopleRouteTest() {
        super(250);
    }

    @BeforeEach
    void aRouteOnPeople() {
        people = new PeopleSetUp(editor, scenario);
        datasets = people.setUp(ids.source());
        people.join("COMPANY");
        people.join();
        stack.admin()
                .put(
                        "/api/people/plan",
                        Map.of(
                                "guards",
                                Map.of("joined", 1, "split", 1, "gone", 1),
                                "schedule",
                                Map.of("kind", "by-hand", "zone", "Europe/Oslo")));
        route = editor.post(
                        "/api/routes",
                        Map.of(
                                "name", "People, each once",
                                "ends",
                                        Map.of(
                                                "datasetId", people.peopleDataset(),
                                                "destinationId", ids.purser(),
                                                "object", "contact"),
                                "spec", spec()))
                .get("id")
                .asLong();
        editor.post("/api/routes/" + route + "/in-service", Map.of("version", 1));
    }

    private static FieldRule from(String field, String column) {
        return FieldRule.of(field, new Receives.FromColumn(column));
    }

    private static RouteSpec spec() {
        return RouteSpec.of(
                        Mode.KEEP_EQUAL,
                        List.of("external_ref"),
                        List.of(
                                from("external_ref", "person_id").ifEmpty(IfEmpty.HOLD_RECORD),
                                from("family_name", "family_name").ifEmpty(IfEmpty.HOLD_RECORD),
                                from("given_name", "given_name")),
                        new Basis.Stated("Our contract with the passenger"),
                        Guards.none(),
                        new Schedule.ByHand("Europe/Oslo"))
                .leavers(new Leavers.Delete())
                .firstRun(FirstRun.AlreadyThere.ADOPT, FirstRun.OlderRows.SEND);
    }

    private JsonNode person(long id) {
        return editor.get("/api/people/" + id);
    }

    private static Map<String, Object> ref(JsonNode record) {
        return Map.of(
                "datasetId",
                record.get("datasetId").asLong(),
                "key",
                record.get("key").asString());
    }

    private void decide(JsonNode one, JsonNode other, boolean together) {
        editor.post(
                "/api/people/corrections",
                Map.of(
                        "one",
                        ref(one.get("records").get(0)),
                        "other",
                        ref(other.get("records").get(0)),
                        "together",
                        together,
                        "reason",
                        "asked"));
        people.join();
    }

    @Test
    void whoTurnsOutToBeOneIsFedUnderTheOlderIdAndTheOtherIsPutUpForReview() {
        JsonNode first = run(route);
        long persons = editor.get("/api/people/overview")
                .get("good")
                .get("summary")
                .get("persons")
                .asLong();
        assertThat(sum(first, "read")).isEqualTo(persons);
        assertThat(sum(first, "added") + sum(first, "held")).isEqualTo(persons);
        JsonNode found = editor.get("/api/people");
        JsonNode older = person(found.get(3).get("id").asLong());
        JsonNode younger = person(found.get(9).get("id").asLong());
        assertThat(older.get("id").asLong()).isLessThan(younger.get("id").asLong());
        assertThat(older.get("sent").get(0).get("route").asString()).isEqualTo("People, each once");
        assertThat(contacts()).contains(younger.get("id").asString());

        decide(older, younger, true);
        JsonNode prepared = run(route);
        assertThat(sum(prepared, "removed")).isZero();
        JsonNode held = lines(prepared, "&verdict=HELD").stream()
                .filter(line ->
                        line.get("key").asString().equals(younger.get("id").asString()))
                .findFirst()
                .orElseThrow();
        assertThat(held.get("code").asString()).isEqualTo("joined");
        assertThat(held.get("reason").asString())
                .contains("became part of " + older.get("id").asString());
        assertThat(contacts())
                .as("nothing is deleted unasked")
                .contains(younger.get("id").asString());
        assertThat(person(younger.get("id").asLong()).get("id")).isEqualTo(older.get("id"));

        putInService(route, spec().joined(RouteSpec.Joined.LEAVES));
        JsonNode left = run(route);
        assertThat(sum(left, "removed")).isEqualTo(1);
        assertThat(contacts())
                .doesNotContain(younger.get("id").asString())
                .contains(older.get("id").asString());

        decide(older, younger, false);
        JsonNode back = run(route);
        assertThat(sum(back, "added"))
                .as("the part that was split off is somebody new")
                .isEqualTo(1);
        assertThat(person(older.get("id").asLong()).get("history").toString()).contains("went to");
    }

    @Test
    void aRouteOfSingleRecordsIsWarnedAboutDoubles() {
        run(route);
        long pass = datasets.get("pass");
        assertThat(warnings(pass))
                .contains("also sent to this object by the route People, each once, as records of People")
                .doesNotContain("have more than one row");
        stack.change("insert into ferry.pass_holders select 'P-again', given_name, family_name, email, phone, country,"
                + " birth_date, home_port, status, mail_consent, valid_until, updated_at from ferry.pass_holders"
                + " where pass_number = (select min(pass_number) from ferry.pass_holders)");
        people.join();
        assertThat(warnings(pass)).contains("1 person has more than one row in this dataset, 2 rows in all");
    }

    /** What checking a route of a dataset to contacts says. */
    private String warnings(long dataset) {
        return editor.post(
                        "/api/routes/check",
                        Map.of(
                                "routeId",
                                0,
                                "ends",
                                Map.of("datasetId", dataset, "destinationId", ids.purser(), "object", "contact"),
                                "spec",
                                spec()))
                .get("faults")
                .toString();
    }
}

package remitto.server.probe;

import static org.assertj.core.api.Assertions.assertThat;

import java.time.Duration;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import org.junit.jupiter.api.AfterEach;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;
import remitto.core.fieldrule.FieldRule;
import remitto.core.fieldrule.Receives;
import remitto.core.route.RouteSpec;
import remitto.core.timetable.Schedule;
import remitto.server.audience.AudienceTimetable;
import remitto.server.departure.Departures;
import remitto.server.harness.Awaited;
import remitto.server.harness.TestRoute;
import remitto.server.harness.TestServer;
import remitto.server.harness.TestUser;
import remitto.server.people.EntityType;
import remitto.server.people.rule.PeopleSettings;
import remitto.server.route.Routes;
import tools.jackson.databind.JsonNode;

/** Data that changes in the warehouse is at the destination without a hand, and data that does not costs no run. */
class DataChangesTest {
    private static final Map<String, Object> ON_CHANGE = Map.of("kind", "on-change", "zone", "Europe/Oslo");

    private TestServer server;
    private TestUser editor;
    private TestRoute shop;

    @BeforeEach
    void start() {
        // Departures are made when the test says so, and only then.
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

    @AfterEach
    void stop() {
        server.close();
    }

    private static RouteSpec onChange(RouteSpec spec) {
        return new RouteSpec(
                spec.mode(),
                spec.match(),
                spec.rules(),
                spec.basis(),
                spec.guards(),
                new Schedule.OnChange("Europe/Oslo"),
                spec.leavers(),
                spec.firstRun(),
                spec.waves(),
                spec.after(),
                spec.joined());
    }

    private void minute() {
        server.clock().forward(Duration.ofMinutes(1));
        server.bean(Departures.class).departDue();
    }

    /** Minutes pass until something is so, which takes as many as looks, readings and counts need one after another. */
    private void minutesUntil(String what, java.util.function.BooleanSupplier isSo) {
        Awaited.until(what, () -> {
            minute();
            pause(100);
            return isSo.getAsBoolean();
        });
    }

    private static void pause(long millis) {
        try {
            Thread.sleep(millis);
        } catch (InterruptedException e) {
            throw new IllegalStateException(e);
        }
    }

    private List<String> runs(long route) {
        return editor.get("/api/runs?routeId=" + route)
                .ok()
                .get("runs")
                .valueStream()
                .map(run -> run.get("state").asString())
                .toList();
    }

    private JsonNode changes(long dataset) {
        return editor.get("/api/datasets/" + dataset + "/changes").ok();
    }

    private String there(String where) {
        return server.warehouse()
                .text("select coalesce(string_agg(town, ', ' order by id), 'none') from mail.recipients " + where);
    }

    /** Minutes pass in which nothing is left to be done. */
    private void calm(long route) {
        minutesUntil(
                "the first looks to be over",
                () -> !changes(shop.dataset()).path("lookedAt").isMissingNode());
        for (int i = 0; i < 3; i++) {
            pause(1_200);
            minute();
            Awaited.until("no run is under way", () -> runs(route).stream()
                    .noneMatch(state -> List.of("PREPARING", "SENDING").contains(state)));
        }
    }

    @Test
    void aRouteDepartsWhenItsRowsHaveChangedAndNotOtherwise() {
        long route = shop.add(editor, "Recipients", onChange(TestRoute.spec(Optional.empty())));
        assertThat(changes(shop.dataset()).get("waiting").get(0).asString()).isEqualTo("Route Recipients");
        minutesUntil("what is there to be sent", () -> there("").split(", ").length == 40);
        calm(route);
        int before = runs(route).size();
        for (int i = 0; i < 5; i++) {
            minute();
            pause(200);
        }
        assertThat(runs(route)).as("nothing changed").hasSize(before);
        assertThat(changes(shop.dataset()).get("means").asString()).isEqualTo("COUNTERS");
        server.warehouse().run("update shop.customers set town = 'Ness' where id = 7");
        minutesUntil("the change to be there", () -> there("where id = 7").equals("Ness"));
        server.warehouse().run("delete from shop.customers where id = 8");
        minutesUntil("the row to be gone there", () -> there("where id = 8").equals("none"));
        assertThat(runs(route)).doesNotContain("SKIPPED", "FAILED");
    }

    @Test
    void aChangeWaitsForAManifestThatWaits() {
        RouteSpec spec = onChange(TestRoute.spec(Optional.of(new java.math.BigDecimal("10"))));
        long route = shop.add(editor, "Recipients", spec);
        minutesUntil("what is there to be sent", () -> there("").split(", ").length == 40);
        calm(route);
        server.warehouse().run("delete from shop.customers where id <= 20");
        minutesUntil("a guard to stop it", () -> runs(route).get(0).equals("AWAITING_APPROVAL"));
        int stopped = runs(route).size();
        server.warehouse().run("update shop.customers set town = 'Ness' where id = 30");
        for (int i = 0; i < 4; i++) {
            pause(1_200);
            minute();
        }
        assertThat(runs(route)).as("neither skipped nor prepared").hasSize(stopped);
        long run = editor.get("/api/runs?routeId=" + route)
                .ok()
                .get("runs")
                .get(0)
                .get("id")
                .asLong();
        editor.post("/api/runs/" + run + "/discard", Map.of()).ok();
        server.warehouse().run("insert into shop.customers (id, town) select i, 'Back' from generate_series(1, 20) i");
        minutesUntil("the change to be there", () -> there("where id = 30").equals("Ness"));
    }

    @Test
    void aSourceThatDoesNotAnswerIsToldAndNothingIsLost() {
        long route = shop.add(editor, "Recipients", onChange(TestRoute.spec(Optional.empty())));
        minutesUntil("what is there to be sent", () -> there("").split(", ").length == 40);
        calm(route);
        server.warehouse().run("revoke select on shop.customers from shop_reader");
        minutesUntil(
                "the fault to be told",
                () -> changes(shop.dataset()).get("problem").asString().contains("may not read this"));
        server.warehouse().run("update shop.customers set town = 'Ness' where id = 9");
        server.warehouse().run("grant select on shop.customers to shop_reader");
        minutesUntil("the change to be there", () -> there("where id = 9").equals("Ness"));
        assertThat(changes(shop.dataset()).get("problem").asString()).isEmpty();
    }

    @Test
    void whatFailedIsBegunAgainThoughNothingElseChanges() {
        long route = shop.add(editor, "Recipients", onChange(TestRoute.spec(Optional.empty())));
        minutesUntil("what is there to be sent", () -> there("").split(", ").length == 40);
        calm(route);
        server.warehouse().run("revoke select on shop.customers from shop_reader");
        server.bean(Routes.class).dataChanged(route, server.clock().instant());
        minutesUntil("it to fail", () -> runs(route).get(0).equals("FAILED"));
        server.warehouse().run("grant select on shop.customers to shop_reader");
        int failed = runs(route).size();
        for (int i = 0; i < 5; i++) {
            minute();
            pause(200);
        }
        assertThat(runs(route)).as("it is left alone for a while").hasSize(failed);
        minutesUntil("it to be begun again", () -> runs(route).get(0).equals("SENT"));
    }

    @Test
    void whatHasAnotherTimetableIsNotMadeDue() {
        long route = shop.add(editor, "By hand", TestRoute.spec(Optional.empty()));
        server.bean(Routes.class).dataChanged(route, server.clock().instant());
        server.bean(PeopleSettings.class).schedule(EntityType.PERSON, new Schedule.ByHand("UTC"));
        server.bean(PeopleSettings.class)
                .dataChanged(EntityType.PERSON, server.clock().instant());
        server.bean(AudienceTimetable.class).dataChanged(server.clock().instant());
        minute();
        assertThat(runs(route)).isEmpty();
        assertThat(server.cluster().text(server.database(), "select count(*) from identity_run"))
                .isEqualTo("0");
        assertThat(server.cluster().text(server.database(), "select count(next_run) from audience_setting"))
                .isEqualTo("0");
    }

    @Test
    void aNewScoreIsInTheAudienceAndItsRouteWithoutAHand() {
        server.warehouse().run("""
                create table shop.scores (customer int primary key, score numeric);
                insert into shop.scores values (1, 75), (2, 76), (3, 20);
                grant select on shop.scores to shop_reader;
                """);
        long scores = shop.dataset(
                editor,
                "Scores",
                "select c.id, c.email, s.score::text as score from shop.customers c join shop.scores s on s.customer = c.id",
                Map.of("id", "KEY", "email", "IDENTIFIER", "score", "ATTRIBUTE"));
        editor.put(
                        "/api/people/sources/" + scores,
                        Map.of(
                                "entityType",
                                "PERSON",
                                "columns",
                                List.of(column("email", "EMAIL"), column("score", "NUMBER")),
                                "country",
                                "NO",
                                "countryColumn",
                                ""))
                .ok();
        JsonNode plan = editor.get("/api/people/plan").ok();
        editor.put("/api/people/plan", Map.of("guards", plan.get("guards"), "schedule", ON_CHANGE))
                .ok();
        minutesUntil("people to be joined", () -> people().equals("3"));
        long route = audience();
        minutesUntil("the one over 75 to be there", () -> there("").equals("76"));
        assertThat(there("")).as("exactly 75 is not over 75").isEqualTo("76");
        server.warehouse().run("update shop.scores set score = 75.5 where customer = 1");
        minutesUntil("the new score to be there", () -> there("").equals("75.5, 76"));
        server.warehouse().run("update shop.scores set score = 75 where customer = 2");
        minutesUntil(
                "the one who is no longer over 75 to be gone", () -> there("").equals("75.5"));
        assertThat(runs(route)).doesNotContain("FAILED", "SKIPPED");
    }

    private static Map<String, Object> column(String name, String kind) {
        return Map.of("column", name, "attribute", name, "kind", kind, "beside", Map.of());
    }

    private String people() {
        return server.cluster().text(server.database(), "select count(*) from person");
    }

    /** An audience of those over 75 and the route that sends them, which departs when people have changed. */
    private long audience() {
        long audience = editor.post(
                        "/api/audiences",
                        Map.of(
                                "name",
                                "Over 75",
                                "description",
                                "",
                                "entityType",
                                "PERSON",
                                "basedOn",
                                0,
                                "spec",
                                Map.of(
                                        "condition",
                                        Map.of(
                                                "kind",
                                                "attribute",
                                                "attribute",
                                                "score",
                                                "test",
                                                Map.of("kind", "number", "relation", "OVER", "number", 75)),
                                        "sql",
                                        "",
                                        "zone",
                                        "Europe/Oslo",
                                        "controlGroup",
                                        Map.of("percent", 0, "seed", ""))))
                .ok()
                .get("audience")
                .get("id")
                .asLong();
        editor.post("/api/audiences/" + audience + "/in-service", Map.of("version", 1))
                .ok();
        long dataset = editor.post("/api/audiences/" + audience + "/dataset", Map.of())
                .ok()
                .get("id")
                .asLong();
        RouteSpec spec = TestRoute.spec(Optional.empty())
                .rules(List.of(
                        FieldRule.of("id", new Receives.FromColumn("person_id")),
                        FieldRule.of("town", new Receives.FromColumn("score")),
                        FieldRule.of("email", new Receives.FromColumn("email"))));
        return shop.add(editor, "Over 75", dataset, onChange(spec));
    }
}

package remitto.server.fieldbook;

import static org.assertj.core.api.Assertions.assertThat;

import java.time.Instant;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import org.junit.jupiter.api.AfterAll;
import org.junit.jupiter.api.BeforeAll;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.TestInstance;
import remitto.core.fieldrule.FieldRule;
import remitto.core.fieldrule.Receives;
import remitto.core.fieldrule.Written;
import remitto.core.route.RouteSpec;
import remitto.core.shaper.LowerCase;
import remitto.core.shaper.UpperCase;
import remitto.server.harness.TestRoute;
import remitto.server.harness.TestServer;
import remitto.server.harness.TestUser;
import remitto.server.route.FieldOrders;
import remitto.server.route.FieldOwners;
import tools.jackson.databind.JsonNode;

/** One field, one owner, seen when it matters: while a rule is laid and before a route goes into service. */
@TestInstance(TestInstance.Lifecycle.PER_CLASS)
class FieldMeetingsTest {
    private TestServer server;
    private TestUser editor;
    private TestRoute route;
    private long first;

    @BeforeAll
    void start() {
        server = TestServer.start();
        editor = server.user("EDITOR", "settler");
        route = new TestRoute(server, editor);
        first = route.add(editor, "Customers to recipients", TestRoute.spec(Optional.empty()));
        route.run(first);
    }

    @AfterAll
    void stop() {
        server.close();
    }

    private static RouteSpec townBy(FieldRule town) {
        RouteSpec spec = TestRoute.spec(Optional.empty());
        List<FieldRule> rules = new ArrayList<>(spec.rules());
        rules.replaceAll(rule -> rule.field().equals("town") ? town : rule);
        return spec.rules(rules);
    }

    private static RouteSpec loud() {
        return townBy(FieldRule.of("town", new Receives.FromColumn("town"), new UpperCase()));
    }

    private JsonNode meetings(long of, RouteSpec spec) {
        return editor.post(
                        "/api/field-meetings",
                        Map.of(
                                "routeId",
                                of,
                                "ends",
                                Map.of(
                                        "datasetId",
                                        route.dataset(),
                                        "destinationId",
                                        route.destination(),
                                        "object",
                                        "recipients"),
                                "spec",
                                spec))
                .ok();
    }

    private void book(String way, Map<String, Object> request) {
        editor.put("/api/destinations/" + route.destination() + "/objects/recipients/book/town/" + way, request)
                .ok();
    }

    @Test
    void anUnsavedRuleIsToldWhoElseWritesItsField() {
        JsonNode met = meetings(0, loud());
        assertThat(met).hasSize(1);
        assertThat(met.get(0).get("field").asString()).isEqualTo("town");
        assertThat(met.get(0).get("settled").asBoolean()).isFalse();
        assertThat(met.get(0).get("wins").asString()).isEqualTo("LATEST_RUN");
        JsonNode other = met.get(0).get("others").get(0);
        assertThat(other.get("routeId").asLong()).isEqualTo(first);
        assertThat(other.get("route").asString()).isEqualTo("Customers to recipients");
        assertThat(other.get("records").asInt()).isZero();
        assertThat(other.get("written").asInt()).isPositive();
        assertThat(met.get(0).get("already").asBoolean()).isFalse();
        assertThat(other.get("sentence").asString()).contains("town");
    }

    @Test
    void theSameRuleAndARuleThatWritesNothingMeetNobody() {
        assertThat(meetings(0, TestRoute.spec(Optional.empty()))).isEmpty();
        FieldRule silent = FieldRule.of("town", new Receives.FromColumn("town"), new UpperCase())
                .written(Written.NEVER);
        assertThat(meetings(0, townBy(silent))).isEmpty();
        assertThat(meetings(first, loud())).as("a route does not meet itself").isEmpty();
    }

    @Test
    void recordsThatBothWriteAreCountedAndASettlementIsSeen() {
        long second = route.add(editor, "Loud towns", loud());
        JsonNode run = route.run(second);
        assertThat(run.get("state").asString()).isEqualTo("SENT");
        assertThat(meetings(second, loud()).get(0).get("already").asBoolean())
                .as("nothing new begins")
                .isTrue();
        JsonNode other = meetings(second, loud()).get(0).get("others").get(0);
        assertThat(other.get("records").asInt())
                .isEqualTo(other.get("written").asInt())
                .isPositive();

        book("owner", Map.of("routeId", first));
        JsonNode owned = meetings(second, loud()).get(0);
        assertThat(owned.get("wins").asString()).isEqualTo("OWNER");
        assertThat(owned.get("words").asString()).startsWith("Customers to recipients owns the field");
        assertThat(owned.get("settled").asBoolean()).isTrue();

        book("order", Map.of("routeIds", List.of(second, first)));
        JsonNode ordered = meetings(second, loud()).get(0);
        assertThat(ordered.get("wins").asString()).isEqualTo("ORDER");

        RouteSpec quiet = townBy(FieldRule.of("town", new Receives.FromColumn("town"), new LowerCase()));
        JsonNode third = meetings(0, quiet).get(0);
        assertThat(third.get("settled").asBoolean())
                .as("a third route is outside of the order of two")
                .isFalse();
        assertThat(third.get("words").asString()).contains("does not include every route");
        book("order", Map.of("routeIds", List.of()));
    }

    @Test
    void theObjectThatFitsADatasetComesFirst() {
        JsonNode fits = editor.get(
                        "/api/field-fits?dataset=" + route.dataset() + "&column=id&column=Town&column=e_mail")
                .ok();
        assertThat(fits.get(0).get("object").asString()).isEqualTo("recipients");
        assertThat(fits.get(0).get("routes").asInt()).isPositive();
        assertThat(fits.get(0).get("matching").asInt())
                .as("id, Town and e_mail, without regard to case and underscores")
                .isEqualTo(3);
        JsonNode unsaved = editor.get("/api/field-fits?column=town").ok();
        assertThat(unsaved.get(0).get("routes").asInt()).isZero();
        assertThat(unsaved.get(0).get("matching").asInt()).isEqualTo(1);
        assertThat(editor.get("/api/field-fits").ok().get(0).get("matching").asInt())
                .isZero();
    }

    @Test
    void whoeverMayOnlyLookDoesNotAsk() {
        TestUser viewer = server.user("VIEWER", "onlooker-of-fields");
        assertThat(viewer.post("/api/field-meetings", Map.of()).status()).isEqualTo(403);
    }

    @Test
    void theOwnerComesBeforeAnyOrder() {
        FieldMeetings.MeetingRoute other = new FieldMeetings.MeetingRoute(2, "Two", 0, 5, "");
        FieldOwners.Owner mine = new FieldOwners.Owner(1, "One", "x", Instant.EPOCH);
        FieldOrders.FieldOrder order =
                new FieldOrders.FieldOrder(List.of(1L, 2L), List.of("One", "Two"), "x", Instant.EPOCH);
        FieldMeetings.FieldMeeting met =
                FieldMeetings.meeting(1, "town", List.of(other), Optional.of(mine), Optional.of(order));
        assertThat(met.wins()).isEqualTo(FieldMeetings.Wins.THIS_ROUTE);
        assertThat(met.settled()).isTrue();
        assertThat(FieldMeetings.meeting(3, "town", List.of(other), Optional.empty(), Optional.of(order))
                        .settled())
                .isFalse();
    }
}

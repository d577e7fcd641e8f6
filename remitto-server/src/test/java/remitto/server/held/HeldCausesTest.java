package remitto.server.held;

import static org.assertj.core.api.Assertions.assertThat;

import java.util.List;
import java.util.Map;
import java.util.Optional;
import org.junit.jupiter.api.AfterAll;
import org.junit.jupiter.api.AfterEach;
import org.junit.jupiter.api.BeforeAll;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.TestInstance;
import remitto.core.cause.CauseKind;
import remitto.core.fieldrule.FieldConsent;
import remitto.core.fieldrule.FieldRule;
import remitto.core.fieldrule.IfUnusable;
import remitto.core.fieldrule.Receives;
import remitto.core.guard.Guards;
import remitto.core.route.Basis;
import remitto.core.route.FirstRun;
import remitto.core.route.Leavers;
import remitto.core.route.Mode;
import remitto.core.route.RouteSpec;
import remitto.core.shaper.E164;
import remitto.core.timetable.Schedule;
import remitto.server.harness.TestRoute;
import remitto.server.harness.TestServer;
import remitto.server.harness.TestUser;
import tools.jackson.databind.JsonNode;

/** What is held says why, in the same words and with the same ways out, wherever it is asked for. */
@TestInstance(TestInstance.Lifecycle.PER_CLASS)
class HeldCausesTest {
    private static final String DATASET =
            "select id, town, email, agreed from shop.customers where id <= 10 or id is null";

    private TestServer server;
    private TestUser editor;
    private TestRoute shop;
    private int tables;
    private String table = "";

    @BeforeAll
    void start() {
        server = TestServer.start();
        editor = server.user("EDITOR");
        shop = new TestRoute(server, editor);
    }

    @AfterAll
    void stop() {
        server.close();
    }

    @BeforeEach
    void customers() {
        server.warehouse().run("""
                create table shop.kept as table shop.customers;
                alter table shop.customers drop constraint if exists customers_pkey;
                alter table shop.customers alter id drop not null;
                """);
    }

    @AfterEach
    void asBefore() {
        server.warehouse().run("""
                truncate shop.customers;
                insert into shop.customers select * from shop.kept;
                drop table shop.kept;
                """);
    }

    private long route(Leavers leavers) {
        return route(leavers, new Basis.NotStated());
    }

    private long route(Leavers leavers, Basis basis) {
        return route(leavers, basis, FieldRule.of("town", new Receives.FromColumn("town")));
    }

    private long route(Leavers leavers, Basis basis, FieldRule town) {
        // A table of its own, so that no other route keeps the same records there.
        table = "ten_" + ++tables;
        server.warehouse()
                .run("create table mail." + table + " (like mail.recipients including all); grant select, insert,"
                        + " update, delete on mail." + table + " to shop_writer");
        long dataset = shop.dataset(
                editor,
                "Ten " + System.nanoTime(),
                DATASET,
                Map.of("id", "KEY", "town", "ATTRIBUTE", "email", "IDENTIFIER", "agreed", "CONSENT"));
        RouteSpec spec = RouteSpec.of(
                        leavers.removes() ? Mode.KEEP_EQUAL : Mode.ADD_OR_UPDATE,
                        List.of("id"),
                        List.of(
                                FieldRule.of("id", new Receives.FromColumn("id")),
                                town,
                                FieldRule.of("email", new Receives.FromColumn("email"))),
                        basis,
                        Guards.none(),
                        new Schedule.ByHand("Europe/Oslo"))
                .leavers(leavers)
                .firstRun(FirstRun.AlreadyThere.ADOPT, FirstRun.OlderRows.SEND);
        long id = editor.post(
                        "/api/routes",
                        Map.of(
                                "name",
                                "Ten " + System.nanoTime(),
                                "ends",
                                Map.of("datasetId", dataset, "destinationId", shop.destination(), "object", table),
                                "spec",
                                spec))
                .ok()
                .get("id")
                .asLong();
        server.admin()
                .post("/api/routes/" + id + "/in-service", Map.of("version", 1))
                .ok();
        return id;
    }

    private JsonNode group(long route, CauseKind kind) {
        Optional<JsonNode> found = editor.get("/api/held")
                .ok()
                .get("groups")
                .valueStream()
                .filter(group -> group.get("routeId").asLong() == route
                        && group.get("code").asString().split(":")[0].equals(kind.code()))
                .findFirst();
        return found.orElseThrow(() -> new AssertionError(
                kind + " is not among " + editor.get("/api/held").ok().get("groups")));
    }

    private void assertTold(JsonNode group, CauseKind kind, long records) {
        assertThat(group.get("records").asLong()).isEqualTo(records);
        assertThat(group.get("title").asString()).isNotBlank();
        assertThat(group.get("teller").asString()).isEqualTo(kind.teller().name());
        assertThat(group.get("remedies").valueStream().map(JsonNode::asString))
                .containsExactlyInAnyOrderElementsOf(
                        kind.remedies().stream().map(Enum::name).toList());
    }

    private String retry(long route, String code) {
        return editor.post("/api/routes/" + route + "/held/retry", Map.of("code", code, "keys", List.of()))
                .text();
    }

    @Test
    void rowsWithoutAKeyAndRowsThatShareOne() {
        long route = route(new Leavers.Stay());
        server.warehouse().run("""
                insert into shop.customers (id, town, email) values (null, 'Holm', 'nobody@mail.example'),
                  (3, 'Holm', 'another@mail.example');
                """);
        JsonNode run = shop.prepare(route);
        assertThat(run.get("counts").get("held").asLong()).isEqualTo(3);
        assertTold(group(route, CauseKind.NO_KEY), CauseKind.NO_KEY, 1);
        assertTold(group(route, CauseKind.DOUBLED_KEY), CauseKind.DOUBLED_KEY, 1);
        assertThat(editor.get("/api/held/records?code=doubled-key&routeId=" + route)
                        .ok()
                        .get("records"))
                .singleElement()
                .satisfies(record -> assertThat(record.get("key").asString()).isEqualTo("3"));
    }

    @Test
    void aGroupTellsTheValuesThatHoldMostOfItsRecords() {
        long route = route(
                new Leavers.Stay(),
                new Basis.NotStated(),
                FieldRule.of("town", new Receives.FromColumn("town"), new E164("NO", ""))
                        .ifUnusable(IfUnusable.HOLD_RECORD));
        server.warehouse().run("""
                update shop.customers set town = case when id <= 3 then 'nowhere' when id <= 5 then 'here'
                  when id <= 8 then 'at ' || id else '915 12 345' end;
                """);
        shop.prepare(route);
        JsonNode unusable = group(route, CauseKind.UNUSABLE);
        assertThat(unusable.get("records").asLong()).isEqualTo(8);
        assertThat(unusable.get("differentReasons").asLong()).isEqualTo(5);
        assertThat(unusable.get("reasons").valueStream().map(one -> one.get("records")
                        .asLong()))
                .containsExactly(3L, 2L, 1L, 1L, 1L);
        assertThat(unusable.get("reasons").get(0).get("reason").asString()).contains("nowhere");
        assertThat(unusable.get("reasons").get(1).get("reason").asString()).contains("here");
        assertThat(server.user("VIEWER")
                        .get("/api/held")
                        .ok()
                        .get("groups")
                        .valueStream()
                        .filter(group -> group.get("routeId").asLong() == route)
                        .findFirst()
                        .orElseThrow()
                        .get("reasons")
                        .toString())
                .as("whoever may not see values sees how often, not what")
                .doesNotContain("nowhere")
                .contains("\"records\":3");
    }

    /** It may be the one that lost its key; to take it away there would be wrong if it is. */
    @Test
    void whoeverIsMissedWhileARowHasNoKeyMayHaveLostIt() {
        long route = route(new Leavers.Delete());
        assertThat(shop.run(route).get("state").asString()).isEqualTo("SENT");
        server.warehouse().run("update shop.customers set id = null where id = 4");
        JsonNode run = shop.prepare(route);
        assertThat(run.get("counts").get("removed").asLong()).isZero();
        assertTold(group(route, CauseKind.LEAVER_UNCLEAR), CauseKind.LEAVER_UNCLEAR, 1);
        assertThat(group(route, CauseKind.LEAVER_UNCLEAR).get("title").asString())
                .isEqualTo("It may have left, or lost its key");
    }

    @Test
    void whatTheDestinationRefusesIsTriedAgainAndReleasedWhenItIsTaken() {
        long route = route(new Leavers.Stay());
        server.warehouse().run("alter table mail." + table + " add constraint somewhere check (town <> 'Nowhere')");
        server.warehouse().run("update shop.customers set town = 'Nowhere' where id = 7");
        JsonNode sent = shop.run(route);
        assertThat(sent.get("outcomes").get("REFUSED").asLong()).isEqualTo(1);
        JsonNode refused = group(route, CauseKind.REFUSED);
        assertTold(refused, CauseKind.REFUSED, 1);
        assertThat(refused.get("title").asString()).isEqualTo("Refused by the destination");
        assertThat(refused.get("about").asString()).isEmpty();
        server.warehouse().run("alter table mail." + table + " drop constraint somewhere");
        long again = editor.post(
                        "/api/routes/" + route + "/held/retry",
                        Map.of("code", refused.get("code").asString(), "keys", List.of()))
                .ok()
                .get("runId")
                .asLong();
        assertThat(shop.await(again).get("state").asString()).isEqualTo("SENT");
        assertThat(server.warehouse().text("select town from mail." + table + " where id = 7"))
                .isEqualTo("Nowhere");
        assertThat(editor.get("/api/held")
                        .ok()
                        .get("groups")
                        .valueStream()
                        .filter(group -> group.get("routeId").asLong() == route))
                .isEmpty();
    }

    @Test
    void whoSaidNoMeanwhileIsNotWrittenBack() {
        long route = route(new Leavers.Stay(), new Basis.Consent("letters", "agreed"));
        assertThat(shop.run(route).get("state").asString()).isEqualTo("SENT");
        server.warehouse().run("update shop.customers set town = 'Holm'");
        JsonNode changed = shop.run(route);
        assertThat(changed.get("outcomes").get("ACKNOWLEDGED").asLong()).isEqualTo(10);
        server.warehouse().run("update shop.customers set agreed = 'no' where id = 5");
        JsonNode undo = shop.await(editor.post("/api/runs/" + changed.get("id").asLong() + "/undo", Map.of())
                .ok()
                .get("runId")
                .asLong());
        assertThat(undo.get("counts").get("changed").asLong()).isEqualTo(9);
        assertTold(group(route, CauseKind.UNDO_CONSENT), CauseKind.UNDO_CONSENT, 1);
        assertThat(retry(route, CauseKind.UNDO_CONSENT.code())).contains("would not change anything");
    }

    /** The same for one field that needs a consent of its own: its old value is not written back. */
    @Test
    void aFieldThatSomebodySaidNoToMeanwhileIsNotWrittenBack() {
        FieldRule town = FieldRule.of("town", new Receives.FromColumn("town"))
                .consent(new FieldConsent("offers near home", "agreed"));
        long route = route(new Leavers.Stay(), new Basis.NotStated(), town);
        assertThat(shop.run(route).get("state").asString()).isEqualTo("SENT");
        server.warehouse().run("update shop.customers set town = 'Holm'");
        JsonNode changed = shop.run(route);
        assertThat(changed.get("outcomes").get("ACKNOWLEDGED").asLong()).isEqualTo(10);
        server.warehouse().run("update shop.customers set agreed = 'no' where id = 5");
        long undo = editor.post("/api/runs/" + changed.get("id").asLong() + "/undo", Map.of())
                .ok()
                .get("runId")
                .asLong();
        assertThat(shop.await(undo).get("counts").get("changed").asLong()).isEqualTo(9);
        assertTold(group(route, CauseKind.UNDO_CONSENT), CauseKind.UNDO_CONSENT, 1);
        editor.post("/api/runs/" + undo + "/send", Map.of()).ok();
        shop.await(undo);
        assertThat(server.warehouse()
                        .text("select string_agg(id::text, ' ') from mail." + table + " where town = 'Holm'"))
                .isEqualTo("5");
    }

    @Test
    void whatCannotBeTriedAgainSaysWhy() {
        long route = route(new Leavers.Stay());
        assertThat(retry(route, "outcome-unknown")).contains("whether they arrived");
        assertThat(retry(route, "no-key")).contains("the next run reads them again");
        assertThat(retry(route, "undo-cannot")).contains("would not change anything");
        assertThat(retry(route, "refused")).contains("No record of this route is held for this reason");
        for (String none : List.of("", "no-such-cause", "unusable", "refused:town")) {
            TestUser.Answer answer =
                    editor.post("/api/routes/" + route + "/held/retry", Map.of("code", none, "keys", List.of()));
            assertThat(answer.status()).as(none).isEqualTo(422);
        }
    }
}

package remitto.e2e;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import java.math.BigDecimal;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.HashSet;
import java.util.List;
import java.util.Map;
import java.util.Set;
import org.junit.jupiter.api.Test;
import remitto.core.guard.Guards;
import remitto.core.guard.Limit;
import remitto.core.route.FirstRun.AlreadyThere;
import remitto.core.route.FirstRun.OlderRows;
import remitto.core.route.Leavers;
import remitto.core.route.RouteSpec;
import remitto.core.route.Waves;
import remitto.demo.history.Desk;
import remitto.demo.history.MoreRoutes;
import remitto.demo.history.Scenario;
import tools.jackson.databind.JsonNode;

/** What the delivery engine promises, against the real warehouse and the real stand-ins. */
class EngineTest extends RouteRunsFixture {
    EngineTest() {
        super(300);
    }

    private JsonNode run(long route) {
        return send(draw(route));
    }

    /** A guard that stopped a run in so small a world is let pass by an approver. */
    private JsonNode approved(JsonNode run) {
        long id = run.get("id").asLong();
        if (run.get("state").asString().equals("STOPPED")) {
            stack.user("APPROVER")
                    .post("/api/runs/" + id + "/approve", Map.of("verdicts", List.of(), "without", List.of()));
        }
        return editor.await(id);
    }

    private static long outcome(JsonNode run, String state) {
        return run.get("outcomes").path(state).asLong(0);
    }

    private void putInService(long route, RouteSpec spec) {
        JsonNode now = editor.get("/api/routes/" + route);
        int latest = now.get("latestVersion").asInt();
        editor.post(
                "/api/routes/" + route + "/versions",
                Map.of("name", now.get("name").asString(), "basedOn", latest, "note", "", "spec", spec));
        editor.post("/api/routes/" + route + "/in-service", Map.of("version", latest + 1));
    }

    private static RouteSpec passes() {
        return Scenario.commuterPasses().guards(Guards.none());
    }

    private Map<String, String> there(String object, String key, String field) {
        return new WriteLog(stack.folder).finalValues(object, key, field);
    }

    private Set<String> contacts() {
        return new HashSet<>(new WriteLog(stack.folder).present("contact", "external_ref"));
    }

    @Test
    void whoLeavesGetsFieldsSetOnceAndComesBackWhole() {
        putInService(ids.passes(), passes());
        run(ids.passes());
        assertThat(
                        stack.change(
                                "update ferry.pass_holders set status = 'applied' where pass_number in (select pass_number"
                                        + " from ferry.pass_holders where status = 'active' and mail_consent = 'yes' order by 1 limit 3)"))
                .isEqualTo(3);
        JsonNode left = draw(ids.passes());
        assertThat(sum(left, "leaving")).isEqualTo(3);
        assertThat(sum(left, "changed"))
                .as("a leaver whose fields are set is changed")
                .isEqualTo(3);
        assertThat(sum(left, "removed")).isZero();
        List<JsonNode> lines = lines(left, "&verdict=CHANGED");
        assertThat(lines)
                .allSatisfy(line -> assertThat(line.get("code").asString()).isEqualTo("left"));
        send(left);
        assertThat(there("contact", "external_ref", "pass_status"))
                .containsEntry(lines.get(0).get("key").asString(), "former");
        JsonNode again = draw(ids.passes());
        assertThat(again.get("message").asString()).isEqualTo("Nothing to send");
        stack.change("update ferry.pass_holders set status = 'active' where status = 'applied' and pass_number = '"
                + lines.get(0).get("key").asString() + "'");
        JsonNode back = run(ids.passes());
        assertThat(sum(back, "changed")).isEqualTo(1);
        assertThat(there("contact", "external_ref", "pass_status"))
                .containsEntry(lines.get(0).get("key").asString(), "current");
    }

    @Test
    void whoLeavesIsDeletedOnlyByACompleteReadAndAnUndoBringsThemBack() {
        putInService(ids.passes(), passes().leavers(new Leavers.Delete()));
        run(ids.passes());
        int before = contacts().size();
        stack.change("update ferry.pass_holders set pass_number = '' where pass_number = (select min(pass_number)"
                + " from ferry.pass_holders where status = 'active' and mail_consent = 'yes')");
        JsonNode unclear = draw(ids.passes());
        assertThat(sum(unclear, "removed"))
                .as("a row without a key may be the one that seems to have left")
                .isZero();
        assertThat(lines(unclear, "&verdict=HELD"))
                .anySatisfy(line -> assertThat(line.get("code").asString()).isEqualTo("leaver-unclear"));
        stack.change("delete from ferry.pass_holders where pass_number = ''");
        JsonNode gone = run(ids.passes());
        assertThat(sum(gone, "removed")).isEqualTo(1);
        assertThat(contacts()).hasSize(before - 1);

        JsonNode undo = editor.await(editor.post("/api/runs/" + gone.get("id").asLong() + "/undo", Map.of())
                .get("runId")
                .asLong());
        assertThat(undo.get("undoOf").asLong()).isEqualTo(gone.get("id").asLong());
        assertThat(lines(undo, "&verdict=HELD"))
                .as("nobody can say whether who left consents")
                .hasSize(1);
    }

    @Test
    void invariant8UndoPutsOldValuesBackTakesAdditionsAwayAndStaysUndone() {
        putInService(ids.passes(), passes());
        run(ids.passes());
        stack.change(
                "update ferry.pass_holders set given_name = 'Runa' where status = 'active' and mail_consent = 'yes'");
        JsonNode changed = run(ids.passes());
        long moved = sum(changed, "changed");
        assertThat(moved).isGreaterThan(20);
        String edited =
                lines(changed, "&verdict=CHANGED").get(0).get("remoteId").asString();
        stack.desk.edit("contact", edited, Map.of("given_name", "Somebody"));

        JsonNode undo =
                editor.await(editor.post("/api/runs/" + changed.get("id").asLong() + "/undo", Map.of())
                        .get("runId")
                        .asLong());
        assertThat(sum(undo, "changed")).isEqualTo(moved - 1);
        assertThat(sum(undo, "leftOut"))
                .as("what others changed since is left alone")
                .isEqualTo(1);
        JsonNode undone = send(undo);
        assertThat(undone.get("state").asString()).isEqualTo("SENT");
        assertThat(there("contact", "external_ref", "given_name").values().stream()
                        .filter("Runa"::equals))
                .isEmpty();
        JsonNode next = draw(ids.passes());
        assertThat(sum(next, "changed")).as("an undone value stays undone").isZero();
        stack.change("update ferry.pass_holders set given_name = 'Runa Elise' where status = 'active' and"
                + " mail_consent = 'yes'");
        assertThat(sum(draw(ids.passes()), "changed"))
                .as("until its source value changes")
                .isGreaterThanOrEqualTo(moved - 1);
    }

    @Test
    void anUndoneAdditionIsGoneAndNotAddedAgain() {
        putInService(ids.passes(), passes());
        JsonNode first = run(ids.passes());
        long added = sum(first, "added");
        JsonNode undo = editor.await(editor.post("/api/runs/" + first.get("id").asLong() + "/undo", Map.of())
                .get("runId")
                .asLong());
        assertThat(sum(undo, "removed")).isEqualTo(added);
        send(undo);
        assertThat(contacts()).isEmpty();
        JsonNode next = draw(ids.passes());
        assertThat(sum(next, "added")).isZero();
        assertThat(sum(next, "leftOut")).isGreaterThanOrEqualTo(added);
        assertThat(lines(next, "&verdict=LEFT_OUT"))
                .anySatisfy(line -> assertThat(line.get("reason").asString()).contains("taken back by manifest"));
    }

    @Test
    void whatWasThereBeforeIsLeftAndOlderRowsWaitWhenTheRouteSaysSo() {
        String key = "P-20001";
        stack.change("update ferry.pass_holders set status = 'active', mail_consent = 'yes' where pass_number = '" + key
                + "'");
        if (stack.change("update ferry.pass_holders set updated_at = updated_at where pass_number = '" + key + "'")
                == 0) {
            stack.change("insert into ferry.pass_holders (pass_number, given_name, family_name, email, country, status,"
                    + " mail_consent, updated_at) values ('" + key
                    + "', 'Aino', 'Berg', 'aino@kai.example', 'NO', 'active',"
                    + " 'yes', timestamptz '2026-11-20')");
        }
        stack.desk.add("contact", Map.of("external_ref", key, "family_name", "There before", "given_name", "X"));
        putInService(ids.passes(), passes().firstRun(AlreadyThere.LEAVE, OlderRows.SEND));
        run(ids.passes());
        assertThat(there("contact", "external_ref", "family_name")).containsEntry(key, "There before");
        putInService(ids.passes(), passes().firstRun(AlreadyThere.ADOPT, OlderRows.SEND));
        JsonNode adopting = run(ids.passes());
        assertThat(adopting.get("adopted").asLong()).isEqualTo(1);
        assertThat(there("contact", "external_ref", "family_name")).doesNotContainEntry(key, "There before");

        putInService(ids.freight(), editorSpec(ids.freight()).firstRun(AlreadyThere.ADOPT, OlderRows.WAIT_FOR_CHANGE));
        JsonNode older = draw(ids.freight());
        assertThat(sum(older, "added")).isZero();
        assertThat(sum(older, "leftOut")).isEqualTo(sum(older, "read"));
        assertThat(stack.change("update ferry.freight_companies set credit_limit = credit_limit + 1 where vat_number ="
                        + " (select min(vat_number) from ferry.freight_companies)"))
                .isEqualTo(1);
        JsonNode changed = draw(ids.freight());
        assertThat(sum(changed, "added")).as("only what changed since").isEqualTo(1);
        assertThat(lines(changed, "&verdict=LEFT_OUT").get(0).get("reason").asString())
                .contains("Older than this route");
    }

    private RouteSpec editorSpec(long route) {
        return tools.jackson.databind.json.JsonMapper.builder()
                .build()
                .treeToValue(editor.get("/api/routes/" + route).get("spec"), RouteSpec.class);
    }

    @Test
    void membershipIsKeptByPolledJobsAndAFailedAnswerDoublesNothing() {
        MoreRoutes.Ids more = new MoreRoutes(editor, scenario)
                .setUp(ids, new MoreRoutes.Outlets(address(stack.lamplight.port()), address(stack.foghorn.port())));
        Desk lamp = new Desk(java.net.URI.create(address(stack.lamplight.port())));
        lamp.limit(false);
        lamp.faults(
                "[{\"fault\":\"drop-after\",\"on\":\"jobs\",\"next\":1},{\"fault\":\"server-error\",\"on\":\"jobs/\",\"next\":1}]");
        JsonNode joined = run(more.lapsed());
        assertThat(joined.get("state").asString()).isEqualTo("SENT");
        long members = sum(joined, "added");
        assertThat(members).isGreaterThan(5);
        assertThat(members(lamp)).hasSize((int) members);
        assertThat(lamp.get("/control/jobs").split("lamp-").length - 1)
                .as("a call that got no answer is made again under its key, and takes effect once")
                .isEqualTo(1);
        assertThat(
                        stack.change(
                                "update ferry.pass_holders set mail_consent = 'no' where pass_number = (select"
                                        + " min(pass_number) from ferry.pass_holders where status = 'expired' and mail_consent = 'yes')"))
                .isEqualTo(1);
        stack.change("update ferry.pass_holders set email = 'another@kai.example' where pass_number = (select"
                + " max(pass_number) from ferry.pass_holders where status = 'expired' and mail_consent = 'yes')");
        JsonNode left = approved(run(more.lapsed()));
        assertThat(sum(left, "removed"))
                .as("who left, and the old address of who has another")
                .isEqualTo(2);
        assertThat(sum(left, "added")).isEqualTo(1);
        assertThat(members(lamp)).as("%s %s", left, lines(left, "")).hasSize((int) members - 1);
        assertThat(draw(more.lapsed()).get("message").asString()).isEqualTo("Nothing to send");
    }

    private static List<String> members(Desk lamp) {
        List<String> members = new ArrayList<>();
        tools.jackson.databind.json.JsonMapper.builder()
                .build()
                .readTree(lamp.get("/control/lists/lapsed-islanders"))
                .forEach(node -> members.add(node.asString()));
        return members;
    }

    private static String address(int port) {
        return "http://127.0.0.1:" + port;
    }

    @Test
    void anOutcomeThatCannotBeFoundOutIsHeldForAPerson() {
        MoreRoutes.Ids more = new MoreRoutes(editor, scenario)
                .setUp(ids, new MoreRoutes.Outlets(address(stack.lamplight.port()), address(stack.foghorn.port())));
        Desk fog = new Desk(java.net.URI.create(address(stack.foghorn.port())));
        fog.limit(false);
        run(more.notices());
        stack.change(
                "insert into ferry.invoices select 900000 + n, (select min(vat_number) from ferry.freight_companies"
                        + " where vat_number <> ''), date '2026-11-20', 20000 + n, 'NOK', 1 from generate_series(1, 3) as n");
        fog.faults("[{\"fault\":\"drop-after\",\"on\":\"say\",\"next\":1}]");
        JsonNode sent = run(more.notices());
        assertThat(outcome(sent, "UNKNOWN")).isEqualTo(1);
        assertThat(outcome(sent, "ACKNOWLEDGED")).isEqualTo(2);
        JsonNode group = editor.get("/api/held").get("groups").get(0);
        assertThat(group.get("code").asString()).isEqualTo("outcome-unknown");
        JsonNode next = draw(more.notices());
        assertThat(sum(next, "added")).as("it is not sent again unasked").isZero();
        assertThat(sum(next, "held")).isEqualTo(1);
        editor.post("/api/routes/" + more.notices() + "/held/unknown", Map.of("keys", List.of(), "arrived", true));
        JsonNode after = draw(more.notices());
        assertThat(sum(after, "held")).isZero();
        assertThat(sum(after, "added")).isZero();
        assertThat(fog.get("/control/messages").split("Large invoice").length - 1)
                .isEqualTo(3);
    }

    @Test
    void aChildWaitsForItsParentWithTheReason() {
        MoreRoutes.Ids more = new MoreRoutes(editor, scenario)
                .setUp(ids, new MoreRoutes.Outlets(address(stack.lamplight.port()), address(stack.foghorn.port())));
        JsonNode early = draw(more.contacts());
        assertThat(sum(early, "added")).as("no company is there yet").isZero();
        assertThat(lines(early, "&verdict=HELD").get(0).get("reason").asString())
                .contains("company waits:")
                .contains("sent yet");
        run(ids.freight());
        JsonNode later = approved(run(more.contacts()));
        assertThat(outcome(later, "ACKNOWLEDGED")).isGreaterThan(10);
        Map<String, String> companies = there("contact", "external_ref", "company");
        assertThat(companies.values().stream().filter(id -> id.startsWith("4"))).isNotEmpty();
    }

    @Test
    void aFieldThatChangesThereStopsOnlyWhatItTouches() {
        run(ids.freight());
        stack.desk.changeField("company", "freight_class", "remove", "");
        stack.desk.changeField("company", "city", "shrink", "7");
        stack.change("update ferry.freight_companies set credit_limit = credit_limit + 1");
        stack.server().clock().set(java.time.Instant.now().plusSeconds(120));
        JsonNode run = draw(ids.freight());
        assertThat(sum(run, "changed")).as("the other fields go on").isGreaterThan(10);
        assertThat(lines(run, "&verdict=CHANGED")).allSatisfy(line -> line.get("fields")
                .forEach(field -> assertThat(field.get("field").asString()).isNotEqualTo("freight_class")));
        List<String> changes = new ArrayList<>();
        editor.get("/api/departures").get("changes").forEach(change -> {
            changes.add(change.get("text").asString());
            assertThat(change.get("affected").asLong()).isPositive();
        });
        assertThat(changes)
                .containsExactlyInAnyOrder("freight_class is no longer there", "city takes 7 characters now, was 60");
    }

    @Test
    void aFirstWaveThatIsRefusedTooOftenWaitsForAWord() {
        stack.change("update ferry.pass_holders set mail_consent = 'yes' where status = 'active'");
        putInService(ids.passes(), passes().waves(new Waves(10, true, BigDecimal.valueOf(5))));
        stack.desk.faults("[{\"fault\":\"partial\",\"on\":\"batch\",\"next\":1}]");
        JsonNode halted = run(ids.passes());
        assertThat(halted.get("halt").asString()).isEqualTo("WAVE");
        assertThat(outcome(halted, "ACKNOWLEDGED") + outcome(halted, "REFUSED")).isEqualTo(10);
        assertThat(outcome(halted, "REFUSED")).isEqualTo(5);
        editor.post("/api/runs/" + halted.get("id").asLong() + "/send", Map.of());
        JsonNode sent = editor.await(halted.get("id").asLong());
        assertThat(sent.get("state").asString()).isEqualTo("SENT");
        assertThat(outcome(sent, "ACKNOWLEDGED")).isEqualTo(sum(sent, "added") - 5);

        long retried = editor.post(
                        "/api/routes/" + ids.passes() + "/held/retry", Map.of("code", "refused", "keys", List.of()))
                .get("runId")
                .asLong();
        JsonNode retry = editor.await(retried, "SENT");
        assertThat(retry.get("trigger").asString()).isEqualTo("RETRY");
        assertThat(outcome(retry, "ACKNOWLEDGED")).isEqualTo(5);
        assertThat(editor.get("/api/held/records?code=refused").get("records")).isEmpty();
    }

    @Test
    void anApproverMayLetOnlyAPartGo() {
        putInService(
                ids.passes(),
                passes().leavers(new Leavers.Delete()).guards(Guards.none().removed(Limit.count(1))));
        run(ids.passes());
        int before = contacts().size();
        stack.change("delete from ferry.pass_holders where pass_number in (select pass_number from ferry.pass_holders"
                + " where status = 'active' and mail_consent = 'yes' order by 1 limit 4)");
        stack.change(
                "update ferry.pass_holders set given_name = 'Runa' where status = 'active' and mail_consent = 'yes'");
        JsonNode stopped = draw(ids.passes());
        assertThat(stopped.get("state").asString()).isEqualTo("STOPPED");
        assertThat(stopped.get("message").asString())
                .contains("Removes 4 of the ")
                .contains("the limit is 1.");
        JsonNode beside = editor.get("/api/runs/" + stopped.get("id").asLong() + "/comparison");
        assertThat(beside.get("sums").get("removed").asLong()).isZero();
        stack.user("APPROVER")
                .post(
                        "/api/runs/" + stopped.get("id").asLong() + "/approve",
                        Map.of("verdicts", List.of("CHANGED"), "without", List.of()));
        JsonNode sent = editor.await(stopped.get("id").asLong());
        assertThat(outcome(sent, "ACKNOWLEDGED")).isEqualTo(sum(sent, "changed"));
        assertThat(outcome(sent, "CANCELLED")).isEqualTo(4);
        assertThat(contacts()).hasSize(before);
    }

    @Test
    void stocktakeFindsWhatWasEditedDeletedAndAddedThereAndTheNextRunActsOnTheDecisions() {
        putInService(ids.passes(), passes());
        JsonNode first = run(ids.passes());
        List<JsonNode> sent = lines(first, "&verdict=ADDED");
        String adopted = sent.get(0).get("remoteId").asString();
        String overwritten = sent.get(1).get("remoteId").asString();
        String deleted = sent.get(2).get("remoteId").asString();
        stack.desk.edit("contact", adopted, Map.of("given_name", "Theirs"));
        stack.desk.edit("contact", overwritten, Map.of("family_name", "Theirs"));
        stack.desk.delete("contact", deleted);
        stack.desk.add("contact", Map.of("external_ref", "DESK-1", "family_name", "Stray"));
        long id = editor.post("/api/destinations/" + ids.purser() + "/objects/contact/stocktakes", Map.of())
                .get("id")
                .asLong();
        JsonNode stocktake;
        do {
            stocktake = editor.get("/api/stocktakes/" + id);
        } while (stocktake.get("state").asString().equals("COUNTING"));
        Map<String, Long> found = new HashMap<>();
        stocktake
                .get("groups")
                .forEach(group -> found.put(
                        group.get("kind").asString(), group.get("found").asLong()));
        assertThat(found)
                .containsEntry("EDITED", 2L)
                .containsEntry("DELETED", 1L)
                .containsEntry("STRAY", 1L);
        assertThat(stocktake.get("there").asLong()).isEqualTo(sent.size());
        JsonNode edits =
                editor.get("/api/stocktakes/" + id + "/findings?kind=EDITED").get("findings");
        for (JsonNode edit : edits) {
            String action = edit.get("remoteId").asString().equals(adopted) ? "ADOPT" : "OVERWRITE";
            editor.post(
                    "/api/stocktakes/" + id + "/decisions",
                    Map.of(
                            "kind",
                            "EDITED",
                            "action",
                            action,
                            "numbers",
                            List.of(edit.get("number").asInt())));
        }
        editor.post(
                "/api/stocktakes/" + id + "/decisions",
                Map.of("kind", "DELETED", "action", "FORGET", "numbers", List.of()));
        JsonNode next = run(ids.passes());
        assertThat(sum(next, "added")).as("the record that was forgotten").isEqualTo(1);
        assertThat(sum(next, "changed")).as("the edit that is overwritten").isEqualTo(1);
        assertThat(there("contact", "external_ref", "given_name"))
                .containsEntry(sent.get(0).get("key").asString(), "Theirs");
        assertThat(there("contact", "external_ref", "family_name"))
                .doesNotContainEntry(sent.get(1).get("key").asString(), "Theirs");
        assertThatThrownBy(() -> editor.post(
                        "/api/stocktakes/" + id + "/decisions",
                        Map.of("kind", "STRAY", "action", "FORGET", "numbers", List.of())))
                .hasMessageContaining("cannot be done");
    }

    @Test
    void sendingAfreshComparesWithWhatIsReallyThere() {
        putInService(ids.passes(), passes());
        JsonNode first = run(ids.passes());
        JsonNode one = lines(first, "&verdict=ADDED").get(0);
        stack.desk.edit("contact", one.get("remoteId").asString(), Map.of("given_name", "Theirs"));
        assertThat(draw(ids.passes()).get("message").asString()).isEqualTo("Nothing to send");
        editor.post("/api/routes/" + ids.passes() + "/afresh", Map.of("fields", List.of(), "keys", List.of()));
        JsonNode next = draw(ids.passes());
        assertThat(sum(next, "changed")).isEqualTo(1);
        assertThat(sum(next, "added")).isZero();
    }

    @Test
    void aPauseFinishesTheCallsInFlightAndResumingDrawsUpAnew() {
        stack.change("update ferry.pass_holders set mail_consent = 'yes' where status = 'active'");
        putInService(ids.freight(), editorSpec(ids.freight()).guards(Guards.none()));
        stack.desk.faults("[{\"fault\":\"latency\",\"on\":\"batch\",\"share\":1,\"millis\":900}]");
        JsonNode drawn = draw(ids.freight());
        long id = drawn.get("id").asLong();
        editor.post("/api/runs/" + id + "/send", Map.of());
        editor.post("/api/routes/" + ids.freight() + "/pause", Map.of("paused", true));
        JsonNode paused = editor.await(id);
        stack.desk.faults("[]");
        if (paused.get("state").asString().equals("HALTED")) {
            assertThat(paused.get("halt").asString()).isEqualTo("PAUSED");
        }
        editor.post("/api/routes/" + ids.freight() + "/pause", Map.of("paused", false));
        editor.awaitAll();
        JsonNode last = send(
                draw(ids.freight()).get("state").asString().equals("SENT")
                        ? editor.get("/api/runs?routeId=" + ids.freight())
                                .get("runs")
                                .get(0)
                        : editor.get("/api/runs?routeId=" + ids.freight())
                                .get("runs")
                                .get(0));
        assertThat(last.get("state").asString()).isEqualTo("SENT");
        assertThat(new WriteLog(stack.folder).effects("company").values()).allMatch(times -> times == 1);
    }
}

package remitto.e2e;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import java.sql.Connection;
import java.sql.Statement;
import java.time.Duration;
import java.time.Instant;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.ValueSource;
import tools.jackson.databind.JsonNode;
import tools.jackson.databind.json.JsonMapper;

/** Runs of the real server against the real warehouse and Purser, with its faults. */
class DeliveryTest extends RouteRunsFixture {
    DeliveryTest() {
        super(400);
    }

    private long writeCalls() {
        return stack.desk.calls(0).split("/batch").length - 1L;
    }

    @Test
    void invariants1And3WhatIsSentIsTheManifestAndAnUnchangedRecordCausesNoWriteCall() {
        JsonNode prepared = prepare(ids.passes());
        assertThat(prepared.get("state").asString()).isEqualTo("READY");
        assertThat(writeCalls()).as("preparing writes nothing").isZero();
        JsonNode sent = send(prepared);
        assertThat(sent.get("state").asString()).isEqualTo("SENT");
        assertThat(sent.get("outcomes").get("ACKNOWLEDGED").asLong()).isEqualTo(sum(sent, "added"));
        assertEveryFieldStandsThere(sent);

        long before = writeCalls();
        JsonNode again = prepare(ids.passes());
        assertThat(again.get("message").asString()).isEqualTo("Nothing to send");
        assertThat(sum(again, "added") + sum(again, "changed")).isZero();
        assertThat(writeCalls()).isEqualTo(before);

        // Common practice, no source: one changed value in the source sends exactly one record.
        String key = lines(sent, "&verdict=ADDED").get(0).get("key").asString();
        assertThat(stack.change(
                        "update ferry.pass_holders set home_port = case home_port when 'TAR' then 'BRE' else 'TAR' end"
                                + " where pass_number = '" + key + "'"))
                .isEqualTo(1);
        JsonNode one = prepare(ids.passes());
        assertThat(sum(one, "changed")).isEqualTo(1);
        assertThat(sum(one, "added")).isZero();
        assertThat(lines(one, "&verdict=CHANGED").get(0).get("fields"))
                .hasSize(1)
                .allSatisfy(field -> assertThat(field.get("field").asString()).isEqualTo("home_port"));
        send(one);
        assertThat(writeCalls()).isEqualTo(before + 1);
    }

    /** Every value of every line is what the record has there, and no record is there that has no line. */
    private void assertEveryFieldStandsThere(JsonNode sent) {
        Map<String, Map<String, String>> there = new WriteLog(stack.folder).records("contact");
        List<JsonNode> lines = lines(sent, "&verdict=ADDED");
        assertThat(lines)
                .hasSize((int) sum(sent, "added"))
                .hasSameSizeAs(there.keySet())
                .isNotEmpty();
        for (JsonNode line : lines) {
            Map<String, String> promised = new HashMap<>();
            line.get("fields").forEach(field -> {
                if (field.get("outcome").asString().equals("WRITTEN")) {
                    promised.put(
                            field.get("field").asString(), field.path("fresh").asString(""));
                }
            });
            assertThat(promised).hasSizeGreaterThan(5);
            assertThat(there.get(line.get("remoteId").asString())).isEqualTo(promised);
        }
    }

    /** However many threads prepare them. */
    @Test
    void aDestinationGetsAsManyCallsAtATimeAsItsProfileSays() {
        smallerCalls();
        JsonNode prepared = prepare(ids.passes());
        Duration each = Duration.ofMillis(800);
        stack.desk.faults("[{\"fault\":\"latency\",\"on\":\"batch\",\"share\":1,\"millis\":" + each.toMillis() + "}]");
        assertThat(outcome(send(prepared), "ACKNOWLEDGED")).isEqualTo(sum(prepared, "added"));
        List<Instant> done = new ArrayList<>();
        for (JsonNode call : JsonMapper.builder().build().readTree(stack.desk.calls(0))) {
            if (call.get("path").asString().endsWith("/batch")) {
                done.add(Instant.parse(call.get("at").asString()));
            }
        }
        assertThat(done).hasSizeGreaterThan(10);
        // Each call is there for that long at least, so those done within less were all there at one time.
        assertThat(done)
                .extracting(first -> done.stream()
                        .filter(at -> !at.isBefore(first) && at.isBefore(first.plus(each)))
                        .count())
                .as("as purser-crm.yaml says")
                .contains(4L)
                .allMatch(together -> together <= 4);
    }

    @Test
    void invariant7EveryNumberOpensItsRecords() {
        stack.change("insert into ferry.pass_holders select * from ferry.pass_holders where status = 'active' limit 1");
        stack.change("update ferry.pass_trips set boarded_at = boarded_at");
        stack.change("update ferry.freight_companies set vat_number = '' where vat_number in"
                + " (select vat_number from ferry.freight_companies order by 1 limit 2)");
        JsonNode first = run(ids.freight());
        assertThat(outcome(first, "ACKNOWLEDGED")).isPositive();
        stack.change("insert into ferry.freight_companies (vat_number, name, country, city, updated_at)"
                + " select vat_number, 'Twice ' || name, country, city, now() from ferry.freight_companies"
                + " where vat_number <> '' order by 1 limit 1");
        stack.change(
                "update ferry.freight_companies set name = name || ' AS' where vat_number in (select vat_number from"
                        + " ferry.freight_companies where vat_number <> '' order by 1 desc limit 3)");
        stack.change("insert into ferry.freight_companies (vat_number, name, country, city, updated_at)"
                + " values ('NO 911 222 333', 'Rope and Tar', 'NO', 'Lervik', now())");
        JsonNode run = prepare(ids.freight());
        assertThat(List.of(sum(run, "added"), sum(run, "changed"), sum(run, "unchanged"), sum(run, "held")))
                .as("something of each")
                .allMatch(many -> many > 0);
        assertThat(sum(run, "read"))
                .isEqualTo(sum(run, "added")
                        + sum(run, "changed")
                        + sum(run, "unchanged")
                        + sum(run, "held")
                        + sum(run, "leftOut"));
        assertThat(sum(run, "held")).as("two without key, two that share one").isEqualTo(4);
        assertThat(lines(run, "&verdict=HELD"))
                .extracting(line -> line.get("code").asString())
                .containsExactlyInAnyOrder("no-key", "no-key", "doubled-key", "doubled-key");
        for (String verdict : List.of("ADDED", "CHANGED", "UNCHANGED", "HELD", "LEFT_OUT")) {
            String name = verdict.equals("LEFT_OUT") ? "leftOut" : verdict.toLowerCase(java.util.Locale.ROOT);
            assertThat(editor.get("/api/runs/" + run.get("id").asLong() + "/lines?verdict=" + verdict)
                            .get("total")
                            .asLong())
                    .as(verdict)
                    .isEqualTo(sum(run, name));
        }
    }

    /** Each fault strikes a call of its own: several at once would be one fault, and the others none. */
    @ParameterizedTest
    @ValueSource(
            strings = {
                "server-error",
                "drop-before",
                "drop-after",
                "not-json",
                "too-many",
                "expired-token",
                "refuse-whole",
                "partial"
            })
    void invariant2FaultsLoseAndDoubleNothing(String fault) {
        JsonNode prepared = prepare(ids.passes());
        stack.desk.faults("[{\"fault\":\"" + fault + "\",\"on\":\"batch\",\"next\":1}]");
        JsonNode sent = send(prepared);
        assertThat(stack.desk.get("/control/faults")).as("the fault struck").contains("\"next\":0");
        assertThat(sent.get("state").asString())
                .as(sent.get("message").asString())
                .isEqualTo("SENT");
        long refused = fault.equals("partial") ? outcome(sent, "REFUSED") : 0;
        assertThat(refused).isEqualTo(fault.equals("partial") ? sum(sent, "added") / 2 : 0);
        assertThat(outcome(sent, "ACKNOWLEDGED")).isEqualTo(sum(sent, "added") - refused);
        assertThat(new WriteLog(stack.folder).effects("contact")).hasSize((int) (sum(sent, "added") - refused));
        stack.assertNothingDoubled();
        JsonNode next = prepare(ids.passes());
        assertThat(lines(next, "&verdict=ADDED")).isEmpty();
        assertThat(sum(next, "added")).isZero();
    }

    /** What cannot be read is refused with the whole call; split, it stands alone in the end, and all others went. */
    @Test
    void aBatchThatIsRefusedAsAWholeIsSplitUntilTheBadRecordStandsAlone() {
        JsonNode prepared = prepare(ids.passes());
        long all = sum(prepared, "added");
        assertThat(all).isBetween(30L, 250L);
        // One call of all of them, its first half, the first half of that: refused each time.
        stack.desk.faults("[{\"fault\":\"refuse-whole\",\"on\":\"batch\",\"next\":3}]");
        JsonNode sent = send(prepared);
        assertThat(outcome(sent, "ACKNOWLEDGED")).isEqualTo(all);
        List<Integer> sizes = stack.testimony().calls().stream()
                .map(call -> call.lines().size())
                .toList();
        assertThat(sizes.get(0)).isEqualTo((int) all);
        assertThat(sizes.get(1)).isEqualTo((int) all / 2);
        assertThat(sizes.stream().skip(1).mapToInt(size -> size).max().orElseThrow())
                .isLessThanOrEqualTo((int) (all + 1) / 2);
        assertThat(new WriteLog(stack.folder).effects("contact")).hasSize((int) all);
        stack.assertNothingDoubled();
    }

    @Test
    void aDestinationThatIsDownOpensTheCircuitAndTheRestGoesByItselfWhenItAnswersAgain() {
        JsonNode prepared = prepare(ids.freight());
        stack.desk.faults("[{\"fault\":\"server-error\",\"on\":\"\",\"share\":1}]");
        JsonNode suspended = send(prepared);
        assertThat(suspended.get("state").asString()).isEqualTo("SUSPENDED");
        assertThat(suspended.get("suspension").asString()).isEqualTo("CIRCUIT");
        assertThat(suspended.get("message").asString()).contains("does not answer");
        JsonNode circuit = editor.get("/api/departures").get("circuits").get(0);
        assertThat(circuit.get("destination").asString()).isEqualTo("Purser CRM");
        assertThat(circuit.get("tryAt").asString()).isNotBlank();
        stack.desk.faults("[]");
        JsonNode sent = editor.await(suspended.get("id").asLong(), "SENT");
        assertThat(sent.get("outcomes").get("ACKNOWLEDGED").asLong()).isEqualTo(sum(prepared, "added"));
        assertThat(editor.get("/api/departures").get("circuits")).isEmpty();
    }

    /** As if the circuit had closed between the last call of the run and the note that it halted. */
    @Test
    void aRunThatHaltedForACircuitThatIsClosedGoesOn() throws Exception {
        JsonNode prepared = prepare(ids.freight());
        stack.desk.faults("[{\"fault\":\"server-error\",\"on\":\"\",\"share\":1}]");
        JsonNode suspended = send(prepared);
        assertThat(suspended.get("suspension").asString()).isEqualTo("CIRCUIT");
        stack.desk.faults("[]");
        try (Connection connection = stack.databases.owner(stack.remittoDatabase);
                Statement statement = connection.createStatement()) {
            statement.execute("delete from circuit");
        }
        JsonNode sent = editor.await(suspended.get("id").asLong(), "SENT");
        assertThat(sent.get("outcomes").get("ACKNOWLEDGED").asLong()).isEqualTo(sum(prepared, "added"));
    }

    @Test
    void invariant4WhoSaysNoInTheSourceWhileAManifestWaitsIsNotSentTo() {
        JsonNode prepared = prepare(ids.passes());
        List<JsonNode> added = lines(prepared, "&verdict=ADDED");
        String no = added.get(0).get("key").asString();
        stack.change("update ferry.pass_holders set mail_consent = 'no' where pass_number = '" + no + "'");
        stack.server().clock().set(stack.server().clock().instant().plus(Duration.ofMinutes(20)));
        JsonNode sent = send(prepared);
        assertThat(outcome(sent, "FORBIDDEN")).isEqualTo(1);
        assertThat(lines(sent, "&state=FORBIDDEN").get(0).get("answer").asString())
                .isEqualTo("Since it was prepared: No consent to mail about your pass");
        assertThat(contacts()).hasSize((int) sum(sent, "added") - 1).doesNotContain(no);
        JsonNode after = prepare(ids.passes());
        assertThat(sum(after, "added")).isZero();
        assertThat(lines(after, "&verdict=LEFT_OUT"))
                .anySatisfy(line -> assertThat(line.get("key").asString()).isEqualTo(no));
    }

    @Test
    void invariant5OneRefusedRecordStopsNoOtherAndIsNotSentAgainUntilItChanges() {
        stack.change(
                "update ferry.pass_holders set mail_consent = 'yes', email = 'same@kai.example' where pass_number in"
                        + " (select pass_number from ferry.pass_holders where status = 'active' order by 1 limit 2)");
        JsonNode sent = send(prepare(ids.passes()));
        assertThat(sent.get("state").asString()).isEqualTo("SENT");
        assertThat(sent.get("outcomes").get("REFUSED").asLong()).isEqualTo(1);
        assertThat(sent.get("outcomes").get("ACKNOWLEDGED").asLong()).isEqualTo(sum(sent, "added") - 1);
        JsonNode refused = lines(sent, "&state=REFUSED").get(0);
        assertThat(refused.get("answer").asString()).contains("E-mail");

        long before = writeCalls();
        JsonNode again = prepare(ids.passes());
        assertThat(writeCalls()).isEqualTo(before);
        assertThat(lines(again, "&verdict=HELD"))
                .anyMatch(line ->
                        line.get("key").asString().equals(refused.get("key").asString())
                                && line.get("reason").asString().contains("E-mail"));

        stack.change("update ferry.pass_holders set email = 'other@kai.example' where pass_number = '"
                + refused.get("key").asString() + "'");
        JsonNode released = send(prepare(ids.passes()));
        assertThat(sum(released, "added")).isEqualTo(1);
        assertThat(editor.get("/api/held").get("groups"))
                .noneMatch(group -> group.get("code").asString().equals("refused"));
    }

    @Test
    void invariant4AValueEditedThereAfterTheManifestIsNotOverwrittenBlind() {
        JsonNode first = send(prepare(ids.passes()));
        JsonNode line = lines(first, "&verdict=ADDED").get(0);
        String key = line.get("key").asString();
        stack.change("update ferry.pass_holders set given_name = 'Solveig Anna' where pass_number = '" + key + "'");
        JsonNode prepared = prepare(ids.passes());
        assertThat(sum(prepared, "changed")).isEqualTo(1);
        stack.desk.edit("contact", line.get("remoteId").asString(), Map.of("given_name", "Edited Here"));
        stack.server().clock().set(java.time.Instant.now().plus(Duration.ofMinutes(5)));
        JsonNode sent = send(prepared);
        assertThat(sent.get("outcomes").get("MOVED_ON").asLong()).isEqualTo(1);
        assertThat(stack.desk.page("contact", line.get("remoteId").asString())).contains("Edited Here");
        assertThat(sum(prepare(ids.passes()), "changed"))
                .as("judged again against what is there now")
                .isEqualTo(1);
    }

    @Test
    void anEditIsKeptWhereTheRuleKeepsTheirs() {
        JsonNode first = send(prepare(ids.passes()));
        JsonNode line = lines(first, "&verdict=ADDED").stream()
                .filter(one -> one.get("fields").toString().contains("\"mobile\""))
                .findFirst()
                .orElseThrow();
        stack.desk.edit("contact", line.get("remoteId").asString(), Map.of("mobile", "+4798800142"));
        stack.change(
                "update ferry.pass_holders set given_name = 'Tuva', phone = '91200011', country = 'NO' where pass_number = '"
                        + line.get("key").asString() + "'");
        send(prepare(ids.passes()));
        String page = stack.desk.page("contact", line.get("remoteId").asString());
        assertThat(page).contains("+4798800142").contains("Tuva");
    }

    @Test
    void updateOnlyNeverAddsAndAMatchByEmailIsBoundOnce() {
        send(prepare(ids.passes()));
        int before = new WriteLog(stack.folder)
                .finalValues("contact", "external_ref", "email")
                .size();
        JsonNode churn = send(prepare(ids.churn()));
        assertThat(sum(churn, "added")).isZero();
        assertThat(sum(churn, "changed")).isPositive();
        assertThat(sum(churn, "leftOut")).isPositive();
        assertThat(new WriteLog(stack.folder).finalValues("contact", "external_ref", "email"))
                .hasSize(before);
        JsonNode again = prepare(ids.churn());
        assertThat(sum(again, "changed")).isZero();
        assertThat(sum(again, "unchanged")).isEqualTo(sum(churn, "changed"));
        // A changed e-mail is a change of the bound record, not a new record.
        String key = lines(churn, "&verdict=CHANGED").get(0).get("key").asString();
        stack.change("update ferry.customers set email = 'moved@sol.example' where customer_no = '" + key + "'");
        JsonNode moved = prepare(ids.churn());
        assertThat(sum(moved, "leftOut")).isEqualTo(sum(churn, "leftOut"));
    }

    @Test
    void theFollowedRecordAndTheBulkRunSayTheSame() {
        send(prepare(ids.passes()));
        stack.change(
                "update ferry.pass_holders set home_port = 'STO', phone = 'none' where hashtext(pass_number) % 3 = 0");
        JsonNode run = prepare(ids.passes());
        JsonNode route = editor.get("/api/routes/" + ids.passes());
        Map<String, Object> ends = Map.of(
                "datasetId", route.get("datasetId"), "destinationId", route.get("destinationId"), "object", "contact");
        List<JsonNode> lines = lines(run, "");
        assertThat(lines).hasSizeGreaterThan(20);
        for (JsonNode line : lines.subList(0, Math.min(60, lines.size()))) {
            JsonNode followed = editor.post(
                    "/api/routes/record-preview",
                    Map.of(
                            "routeId",
                            ids.passes(),
                            "ends",
                            ends,
                            "spec",
                            route.get("spec"),
                            "key",
                            line.get("key").asString()));
            assertThat(followed.get("verdict")).as(line.toString()).isEqualTo(line.get("verdict"));
            Map<String, String> inBulk = new HashMap<>();
            line.get("fields")
                    .forEach(field -> inBulk.put(
                            field.get("field").asString(), field.get("outcome").asString()));
            followed.get("fields").forEach(field -> {
                String bulk = inBulk.get(field.get("field").asString());
                if (bulk != null) {
                    assertThat(field.get("outcome").asString()).isEqualTo(bulk);
                }
            });
        }
    }

    @Test
    void aGuardStopWaitsForAnApproverWhoDidNotEditTheRoute() {
        send(prepare(ids.freight()));
        stack.change("update ferry.freight_companies set vat_number = '' where hashtext(name) % 5 = 0");
        JsonNode stopped = prepare(ids.freight());
        assertThat(stopped.get("state").asString()).isEqualTo("AWAITING_APPROVAL");
        assertThat(stopped.get("message").asString()).contains("the limit is 5%");
        String path = "/api/runs/" + stopped.get("id").asLong();
        assertThatThrownBy(() -> editor.post(path + "/approve", Map.of())).hasMessageContaining("403");
        assertThatThrownBy(() -> editor.post(path + "/send", Map.of())).hasMessageContaining("approver");
        stack.user("APPROVER").post(path + "/approve", Map.of("verdicts", List.of(), "without", List.of()));
        assertThat(editor.await(stopped.get("id").asLong()).get("state").asString())
                .isEqualTo("SENT");
    }

    @Test
    void tryingOneRecordSendsThatOneAndTestRecordsAreCleanedUp() {
        JsonNode trial = editor.post(
                "/api/routes/" + ids.passes() + "/try",
                Map.of(
                        "key",
                        "",
                        "made",
                        Map.of(
                                "pass_number",
                                "TEST-1",
                                "family_name",
                                "Prøve",
                                "email",
                                "Test@Sol.example",
                                "mail_consent",
                                "yes",
                                "phone",
                                "912 44 870",
                                "status",
                                "active")));
        assertThat(trial.get("line").get("state").asString()).isEqualTo("ACKNOWLEDGED");
        assertThat(trial.get("readBack").get("email").asString()).isEqualTo("test@sol.example");
        assertThat(trial.get("readBack").get("mobile").asString()).isEqualTo("+4791244870");
        assertThat(trial.get("exchange").get("request").asString())
                .contains("TEST-1")
                .doesNotContain("Bearer");
        assertThat(new WriteLog(stack.folder).effects("contact")).hasSize(1);
        assertThat(editor.get("/api/test-records")).hasSize(1);
        assertThat(editor.delete("/api/test-records").get("records").asInt()).isEqualTo(1);
        assertThat(stack.desk.find("contact", "TEST-1")).isEmpty();
        JsonNode noConsent = editor.post(
                "/api/routes/" + ids.passes() + "/try",
                Map.of(
                        "key",
                        "",
                        "made",
                        Map.of(
                                "pass_number",
                                "TEST-2",
                                "family_name",
                                "Nei",
                                "mail_consent",
                                "no",
                                "status",
                                "active")));
        assertThat(noConsent.get("line").get("verdict").asString()).isEqualTo("LEFT_OUT");
    }

    @Test
    void savedIsNotInServiceAndAManifestOfAnOlderVersionIsNotSent() {
        JsonNode prepared = prepare(ids.freight());
        JsonNode route = editor.get("/api/routes/" + ids.freight());
        JsonNode saved = editor.post(
                "/api/routes/" + ids.freight() + "/versions",
                Map.of("name", "Freight accounts", "basedOn", 1, "note", "", "spec", route.get("spec")));
        assertThat(saved.get("liveVersion").asInt()).isEqualTo(1);
        assertThatThrownBy(() -> editor.post(
                        "/api/routes/" + ids.freight() + "/versions",
                        Map.of("name", "Freight accounts", "basedOn", 1, "note", "", "spec", route.get("spec"))))
                .hasMessageContaining("Someone saved another version");
        editor.post("/api/routes/" + ids.freight() + "/in-service", Map.of("version", 2));
        assertThatThrownBy(() -> editor.post("/api/runs/" + prepared.get("id").asLong() + "/send", Map.of()))
                .hasMessageContaining("prepare it again");
    }

    @Test
    void invariant6RunsOfOneRouteNeverOverlap() {
        stack.desk.faults("[{\"fault\":\"latency\",\"on\":\"find\",\"share\":1,\"millis\":400}]");
        long first = editor.post("/api/routes/" + ids.passes() + "/runs", Map.of())
                .get("runId")
                .asLong();
        assertThatThrownBy(() -> editor.post("/api/routes/" + ids.passes() + "/runs", Map.of()))
                .hasMessageContaining("never overlap");
        assertThat(editor.await(first).get("state").asString()).isEqualTo("READY");
    }

    @Test
    void downloadsHoldEveryLine() throws Exception {
        JsonNode run = prepare(ids.freight());
        String path = "/api/runs/" + run.get("id").asLong() + "/manifest";
        assertThat(editor.text(path + ".jsonl").lines()).hasSize((int) sum(run, "added"));
        try (var csv = org.apache.commons.csv.CSVParser.parse(
                editor.text(path + ".csv"),
                org.apache.commons.csv.CSVFormat.RFC4180
                        .builder()
                        .setHeader()
                        .setSkipHeaderRecord(true)
                        .get())) {
            assertThat(csv.getRecords().stream()
                            .map(record -> record.get("key"))
                            .distinct())
                    .hasSize((int) sum(run, "added"));
        }
    }
}

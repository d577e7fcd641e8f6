package remitto.e2e;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import java.time.Duration;
import java.time.Instant;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;
import remitto.core.fieldrule.DatasetLookUp;
import remitto.core.fieldrule.FieldConsent;
import remitto.core.fieldrule.FieldRule;
import remitto.core.fieldrule.IfUnusable;
import remitto.core.fieldrule.Newer;
import remitto.core.fieldrule.OnDrift;
import remitto.core.fieldrule.Receives;
import remitto.core.fieldrule.Receives.IfMany;
import remitto.core.fieldrule.Timing;
import remitto.core.route.RouteSpec;
import remitto.core.shaper.Crosswalked;
import remitto.core.shaper.Trim;
import tools.jackson.databind.JsonNode;

/** Field rules on the whole way: from the warehouse through look-ups, timing and consent to what Purser holds. */
class FieldRulesTest extends RouteRunsFixture {
    FieldRulesTest() {
        super(120);
    }

    private String key;

    @BeforeEach
    void oneToFollow() {
        putInService(ids.passes(), passes());
        JsonNode first = run(ids.passes());
        key = lines(first, "&verdict=ADDED").get(0).get("key").asString();
    }

    private RouteSpec with(FieldRule rule) {
        List<FieldRule> rules = new java.util.ArrayList<>(passes().rules());
        rules.removeIf(one -> one.field().equals(rule.field()));
        rules.add(rule);
        return passes().rules(rules);
    }

    private long portsDataset() {
        Map<String, Object> query = Map.of("kind", "sql", "text", "select code, name, zone from ferry.ports");
        long id = editor.post(
                        "/api/datasets",
                        Map.of(
                                "name",
                                "Ports",
                                "description",
                                "",
                                "sourceId",
                                ids.source(),
                                "basedOn",
                                0,
                                "definition",
                                Map.of(
                                        "query",
                                        query,
                                        "columns",
                                        List.of(
                                                Map.of("name", "code", "type", "TEXT", "role", "KEY"),
                                                Map.of("name", "name", "type", "TEXT", "role", "ATTRIBUTE"),
                                                Map.of("name", "zone", "type", "TEXT", "role", "ATTRIBUTE")))))
                .get("id")
                .asLong();
        editor.post("/api/datasets/" + id + "/in-service", Map.of("version", 1));
        return id;
    }

    private static FieldRule from(String field, String column) {
        return FieldRule.of(field, new Receives.FromColumn(column), new Trim());
    }

    private Optional<JsonNode> field(JsonNode run, String name) {
        return lines(run, "").stream()
                .filter(line -> line.get("key").asString().equals(key))
                .flatMap(line -> line.get("fields").valueStream())
                .filter(one -> one.get("field").asString().equals(name))
                .findFirst();
    }

    private void rename(String name) {
        assertThat(stack.change("update ferry.pass_holders set given_name = '" + name
                        + "', updated_at = updated_at + interval '1 hour' where pass_number = '" + key + "'"))
                .isEqualTo(1);
    }

    @Test
    void aValueThatWaitsIsWrittenByItselfOnceItsTimeHasCome() {
        putInService(
                ids.passes(),
                with(from("given_name", "given_name")
                        .timing(new Timing(
                                24, Optional.empty(), Optional.empty(), Optional.empty(), "Europe/Oslo", ""))));
        rename("Runa");
        JsonNode waits = run(ids.passes());
        assertThat(sum(waits, "changed")).isZero();
        JsonNode field = field(waits, "given_name").orElseThrow();
        assertThat(field.get("outcome").asString()).isEqualTo("WAITS");
        assertThat(field.get("reason").asString()).startsWith("waits: written ").endsWith(" ago, at most daily");
        assertThat(run(ids.passes()).get("message").asString()).isEqualTo("Nothing to send");

        stack.server().clock().set(Instant.now().plus(Duration.ofHours(25)));
        JsonNode due = run(ids.passes());
        assertThat(sum(due, "changed"))
                .as("the row is as it was, but its time has come")
                .isEqualTo(1);
        assertThat(there("contact", "external_ref", "given_name")).containsEntry(key, "Runa");
    }

    @Test
    void aChangeInALookedUpDatasetReachesTheRecordsThatFoundItAndNoOther() {
        long dataset = portsDataset();
        putInService(
                ids.passes(),
                with(FieldRule.of(
                        "source_system",
                        new Receives.FromDataset(
                                DatasetLookUp.of(dataset, "name", "zone"), "home_port", IfMany.UNUSABLE))));
        JsonNode first = run(ids.passes());
        assertThat(sum(first, "changed")).isPositive();
        assertThat(run(ids.passes()).get("message").asString()).isEqualTo("Nothing to send");

        String port = there("contact", "external_ref", "home_port").get(key);
        assertThat(stack.change("update ferry.ports set zone = 'NEW' where name = '" + port + "'"))
                .isEqualTo(1);
        JsonNode moved = run(ids.passes());
        long living = there("contact", "external_ref", "home_port").values().stream()
                .filter(port::equals)
                .count();
        assertThat(sum(moved, "changed")).isEqualTo(living);
        assertThat(there("contact", "external_ref", "source_system")).containsEntry(key, "NEW");

        stack.change("update ferry.ports set zone = 'LATER' where name = '" + port + "'");
        JsonNode why = editor.get("/api/routes/" + ids.passes() + "/explain?field=source_system&key=" + key);
        assertThat(why.get("made").get("steps").toString())
                .as("what was found then, though it is another now")
                .contains("Found in another dataset")
                .contains("NEW")
                .doesNotContain("LATER");
        assertThat(why.get("now").toString()).contains("LATER");
        assertThatThrownBy(() -> editor.get("/api/routes/" + ids.passes() + "/explain?key=nobody"))
                .hasMessageContaining("is not known in the destination");
    }

    @Test
    void anIdThatWasFoundThereIsLookedUpAgainADayLaterThoughTheRowIsAsItWas() {
        String port = there("contact", "external_ref", "home_port").get(key);
        stack.desk.add("company", Map.of("vat_number", port, "name", "Port office"));
        String office = stack.desk.find("company", port).orElseThrow();
        putInService(
                ids.passes(),
                with(FieldRule.of(
                                "source_system",
                                new Receives.FoundThere("company", "vat_number", "home_port", IfMany.UNUSABLE))
                        .ifUnusable(IfUnusable.LEAVE)));
        run(ids.passes());
        assertThat(there("contact", "external_ref", "source_system")).containsEntry(key, office);

        stack.desk.delete("company", office);
        stack.desk.add("company", Map.of("vat_number", port, "name", "Port office again"));
        String other = stack.desk.find("company", port).orElseThrow();
        assertThat(other).isNotEqualTo(office);
        assertThat(run(ids.passes()).get("message").asString()).isEqualTo("Nothing to send");

        stack.server().clock().set(Instant.now().plus(Duration.ofHours(25)));
        long living = there("contact", "external_ref", "home_port").values().stream()
                .filter(port::equals)
                .count();
        assertThat(sum(run(ids.passes()), "changed")).isEqualTo(living);
        assertThat(there("contact", "external_ref", "source_system")).containsEntry(key, other);
        assertThat(run(ids.passes()).get("message").asString()).isEqualTo("Nothing to send");
    }

    @Test
    void aWordTheCrosswalkDoesNotKnowIsHeldUntilItDoes() {
        long crosswalk = editor.post(
                        "/api/crosswalks",
                        Map.of(
                                "name", "Ports in short",
                                "description", "",
                                "entries", List.of(Map.of("from", "Nowhere", "to", "NOW"))))
                .get("id")
                .asLong();
        editor.post("/api/crosswalks/" + crosswalk + "/in-service", Map.of("version", 1));
        putInService(
                ids.passes(),
                with(FieldRule.of(
                        "source_system",
                        new Receives.FromColumn("home_port"),
                        new Crosswalked(crosswalk, Crosswalked.Otherwise.UNUSABLE, ""))));
        JsonNode held = prepare(ids.passes());
        assertThat(field(held, "source_system").orElseThrow().get("reason").asString())
                .contains("is not in the crosswalk Ports in short");
        discardWhatWaits();
        JsonNode unmapped = editor.get("/api/crosswalks/" + crosswalk + "/unmapped?datasetId="
                + editor.get("/api/routes/" + ids.passes()).get("datasetId").asLong() + "&column=home_port");
        assertThat(unmapped.size()).isGreaterThan(3);
        List<Map<String, String>> entries = unmapped.valueStream()
                .map(word -> Map.of(
                        "from",
                        word.get("word").asString(),
                        "to",
                        "P-" + word.get("word").asString()))
                .toList();
        editor.post(
                "/api/crosswalks/" + crosswalk + "/versions",
                Map.of("name", "Ports in short", "description", "", "basedOn", 1, "note", "", "entries", entries));
        assertThatThrownBy(() -> editor.post(
                        "/api/crosswalks/" + crosswalk + "/versions",
                        Map.of("name", "x", "description", "", "basedOn", 1, "note", "", "entries", List.of())))
                .as("somebody else saved meanwhile")
                .hasMessageContaining("Reload to see it");
        assertThat(sum(prepare(ids.passes()), "held"))
                .as("saved is not in service")
                .isPositive();
        discardWhatWaits();
        editor.post("/api/crosswalks/" + crosswalk + "/in-service", Map.of("version", 2));
        JsonNode known = run(ids.passes());
        assertThat(lines(known, "&verdict=HELD").stream()
                        .filter(line -> line.get("reason").asString().contains("crosswalk")))
                .isEmpty();
        assertThat(there("contact", "external_ref", "source_system").get(key)).startsWith("P-");
    }

    private void discardWhatWaits() {
        editor.get("/api/runs?routeId=" + ids.passes())
                .get("runs")
                .valueStream()
                .filter(run -> run.get("state").asString().matches("READY|AWAITING_APPROVAL"))
                .forEach(run -> editor.post("/api/runs/" + run.get("id").asLong() + "/discard", Map.of()));
    }

    @Test
    void theNewerValueWinsByTheTimesOfBothSides() {
        putInService(ids.passes(), with(from("given_name", "given_name").ifNewer(new Newer("updated_at", 60))));
        String record = stack.desk.find("contact", key).orElseThrow();
        stack.desk.edit("contact", record, Map.of("given_name", "Theirs"));
        rename("Older");
        JsonNode kept = run(ids.passes());
        JsonNode field = field(kept, "given_name").orElseThrow();
        assertThat(field.get("outcome").asString()).isEqualTo("KEPT");
        assertThat(field.get("reason").asString()).startsWith("kept: the destination's value is newer, from ");
        assertThat(there("contact", "external_ref", "given_name")).containsEntry(key, "Theirs");

        stack.change("update ferry.pass_holders set given_name = 'Newer', updated_at = now() + interval '1 day'"
                + " where pass_number = '" + key + "'");
        run(ids.passes());
        assertThat(there("contact", "external_ref", "given_name")).containsEntry(key, "Newer");
    }

    @Test
    void aStatedNoClearsWhatWasPutThereAndNothingElse() {
        // Any word but yes is a no, and the status of a pass is never yes.
        putInService(
                ids.passes(),
                with(from("given_name", "given_name").consent(new FieldConsent("a greeting by name", "status"))));
        JsonNode cleared = run(ids.passes());
        JsonNode field = field(cleared, "given_name").orElseThrow();
        assertThat(field.get("outcome").asString()).isEqualTo("WRITTEN");
        assertThat(field.get("fresh").asString()).isEmpty();
        assertThat(field.get("reason").asString()).isEqualTo("no consent to a greeting by name");
        assertThat(there("contact", "external_ref", "given_name")).containsEntry(key, "");
        assertThat(there("contact", "external_ref", "family_name").get(key)).isNotEmpty();
    }

    @Test
    void theOwnerOfAFieldWritesItAndTheOthersSaySo() {
        JsonNode book = editor.get("/api/destinations/" + ids.purser() + "/objects/contact/book");
        JsonNode email = bookField(book, "email");
        assertThat(email.get("conflict").get("kind").asString()).isEqualTo("TWO_ROUTES");
        assertThat(email.get("rules").size()).isEqualTo(2);
        JsonNode churn = bookField(book, "churn_score");
        assertThat(churn.has("conflict")).isFalse();

        JsonNode settled = editor.put(
                "/api/destinations/" + ids.purser() + "/objects/contact/book/given_name/owner",
                Map.of("routeId", ids.passes()));
        assertThat(bookField(settled, "given_name").get("owner").get("route").asString())
                .isEqualTo("Commuter passes");
        assertThatThrownBy(() -> editor.put(
                        "/api/destinations/" + ids.purser() + "/objects/contact/book/given_name/owner",
                        Map.of("routeId", ids.churn())))
                .hasMessageContaining("has no rule for given_name");
        rename("Runa");
        assertThat(sum(run(ids.passes()), "changed")).as("the owner writes").isEqualTo(1);
    }

    private static JsonNode bookField(JsonNode book, String name) {
        return book.get("fields")
                .valueStream()
                .filter(one -> one.get("field").get("name").asString().equals(name))
                .findFirst()
                .orElseThrow();
    }

    @Test
    void whatAChangeWouldDoIsWhatItDoes() {
        RouteSpec changed = with(from("given_name", "family_name"));
        JsonNode effect = WhatIfAnswers.effects(
                        editor, "/api/routes/" + ids.passes() + "/what-if", Map.of("spec", changed))
                .get(0)
                .get("effect");
        assertThat(effect.get("before").has("CHANGED")).isFalse();
        long would = effect.get("after").get("CHANGED").asLong();
        assertThat(would).isPositive().isEqualTo(effect.get("differ").asLong());
        JsonNode example = effect.get("examples").get(0).get("fields").get(0);
        assertThat(example.get("field").asString()).isEqualTo("given_name");
        assertThat(prepare(ids.passes()).get("message").asString())
                .as("judging wrote nothing down")
                .isEqualTo("Nothing to send");
        putInService(ids.passes(), changed);
        assertThat(sum(prepare(ids.passes()), "changed")).isEqualTo(would);
    }

    @Test
    void aChangeOfTheDatasetIsJudgedInEveryRouteThatReadsIt() {
        JsonNode dataset = editor.get("/api/datasets/"
                + editor.get("/api/routes/" + ids.passes()).get("datasetId").asLong());
        String sql = dataset.get("definition").get("query").get("text").asString();
        Map<String, Object> fewer = Map.of(
                "query",
                Map.of(
                        "kind",
                        "sql",
                        "text",
                        "select * from (" + sql + ") as every where pass_number <> '" + key + "'"),
                "columns",
                dataset.get("definition").get("columns"));
        JsonNode effects = WhatIfAnswers.effects(
                editor, "/api/datasets/" + dataset.get("id").asLong() + "/what-if", fewer);
        assertThat(effects.size()).isEqualTo(1);
        JsonNode effect = effects.get(0).get("effect");
        assertThat(effect.get("gone").asLong()).isEqualTo(1);
        assertThat(effect.get("differ").asLong()).isEqualTo(1);
        assertThat(effect.get("examples").get(0).get("key").asString()).isEqualTo(key);
        assertThat(effect.get("examples").get(0).has("after")).isFalse();

        Map<String, Object> broken = Map.of(
                "query",
                Map.of("kind", "sql", "text", sql),
                "columns",
                List.of(Map.of("name", "pass_number", "type", "TEXT", "role", "KEY")));
        JsonNode problem = WhatIfAnswers.effects(
                        editor, "/api/datasets/" + dataset.get("id").asLong() + "/what-if", broken)
                .get(0);
        assertThat(problem.has("effect")).isFalse();
        assertThat(problem.get("problem").asString()).contains("The route cannot be used");

        JsonNode differences = editor.post("/api/datasets/" + dataset.get("id").asLong() + "/differences", broken);
        assertThat(differences.get("columns").valueStream().map(one -> one.get("name")
                        .asString()))
                .contains("given_name")
                .doesNotContain("pass_number");
    }

    @Test
    void aChangeOfACrosswalkIsJudgedInEveryRouteThatTakesValuesThroughIt() {
        long table = editor.post(
                        "/api/crosswalks",
                        Map.of(
                                "name",
                                "Tongues",
                                "description",
                                "",
                                "entries",
                                List.of(Map.of("from", "active", "to", "current"))))
                .get("id")
                .asLong();
        editor.post("/api/crosswalks/" + table + "/in-service", Map.of("version", 1));
        putInService(
                ids.passes(),
                with(FieldRule.of(
                        "given_name",
                        new Receives.FromColumn("status"),
                        new Crosswalked(table, Crosswalked.Otherwise.AS_IT_IS, ""))));
        JsonNode effects = WhatIfAnswers.effects(
                editor,
                "/api/crosswalks/" + table + "/what-if",
                Map.of("entries", List.of(Map.of("from", "active", "to", "sailing"))));
        JsonNode effect = effects.get(0).get("effect");
        assertThat(effect.get("differ").asLong()).isPositive();
        assertThat(effect.get("examples")
                        .get(0)
                        .get("fields")
                        .get(0)
                        .get("after")
                        .get("value")
                        .asString())
                .isEqualTo("sailing");
        assertThat(effect.get("examples")
                        .get(0)
                        .get("fields")
                        .get(0)
                        .get("before")
                        .get("value")
                        .asString())
                .isEqualTo("current");
    }

    @Test
    void aVersionThatBreaksAPinnedExampleDoesNotGoIntoService() {
        editor.post(
                "/api/routes/" + ids.passes() + "/examples",
                Map.of(
                        "name", "A made-up holder",
                        "cells",
                                Map.of(
                                        "pass_number",
                                        "P-1",
                                        "given_name",
                                        " Ada ",
                                        "family_name",
                                        "Lie",
                                        "status",
                                        "expired"),
                        "expected", Map.of("given_name", "Ada", "pass_status", "lapsed")));
        JsonNode holds = editor.post("/api/routes/" + ids.passes() + "/examples/check", Map.of("spec", passes()));
        assertThat(holds.get(0).get("misses")).isEmpty();
        assertThatThrownBy(() -> putInService(ids.passes(), with(from("given_name", "family_name"))))
                .hasMessageContaining("Golden example A made-up holder expects \\\"Ada\\\" and gets \\\"Lie\\\"");
        assertThat(editor.get("/api/routes/" + ids.passes()).get("liveVersion").asInt())
                .isEqualTo(2);
        JsonNode differences = editor.get("/api/routes/" + ids.passes() + "/versions/2/differences/3")
                .get("rules");
        assertThat(differences.size()).isEqualTo(1);
        assertThat(differences.get(0).get("after").asString()).contains("receives the column family_name");
    }

    @Test
    void anyValueIsExplainedFromItsRowToTheAnswer() {
        String record = stack.desk.find("contact", key).orElseThrow();
        JsonNode why = editor.get("/api/explain?destinationId=" + ids.purser() + "&object=contact&remoteId=" + record
                + "&field=pass_status");
        JsonNode made = why.get("made");
        assertThat(made.get("key").asString()).isEqualTo(key);
        assertThat(made.get("routeVersion").asInt()).isEqualTo(2);
        assertThat(made.get("inputs").get("status").asString()).isEqualTo("active");
        assertThat(made.get("inputs").has("birth_date"))
                .as("sensitive cells are not kept")
                .isFalse();
        assertThat(made.get("steps").get(0).get("value").asString()).isEqualTo("current");
        assertThat(made.get("answer").asString()).isEqualTo("added");
        assertThat(why.get("told").get("us").asBoolean()).isTrue();
        assertThat(why.get("now").get("field").get("outcome").asString()).isEqualTo("SAME");

        stack.desk.edit("contact", record, Map.of("pass_status", "none"));
        JsonNode edited = editor.get("/api/explain?destinationId=" + ids.purser() + "&object=contact&remoteId=" + record
                + "&field=pass_status");
        assertThat(edited.get("there").asString()).isEqualTo("none");
        assertThat(edited.get("told").get("us").asBoolean()).isFalse();
        assertThatThrownBy(() ->
                        editor.get("/api/explain?destinationId=" + ids.purser() + "&object=contact&remoteId=nobody"))
                .hasMessageContaining("404");
    }

    @Test
    void anEditThatIsHeldSaysWhenItWasMade() {
        putInService(ids.passes(), with(from("given_name", "given_name").onDrift(OnDrift.HOLD_VALUE)));
        stack.desk.edit("contact", stack.desk.find("contact", key).orElseThrow(), Map.of("given_name", "Theirs"));
        rename("Runa");
        assertThat(field(prepare(ids.passes()), "given_name")
                        .orElseThrow()
                        .get("reason")
                        .asString())
                .matches("given_name: edited in the destination on \\d+ \\w{3} \\d\\d:\\d\\d UTC to \"Theirs\"");
    }
}

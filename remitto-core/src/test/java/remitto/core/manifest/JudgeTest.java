package remitto.core.manifest;

import static org.assertj.core.api.Assertions.assertThat;

import java.time.Instant;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.OptionalInt;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;
import remitto.core.TestRows;
import remitto.core.cause.Cause;
import remitto.core.cause.CauseKind;
import remitto.core.dataset.Columns;
import remitto.core.destination.Field;
import remitto.core.destination.FieldKind;
import remitto.core.destination.ObjectDescription;
import remitto.core.fieldrule.FieldRule;
import remitto.core.fieldrule.IfEmpty;
import remitto.core.fieldrule.IfUnusable;
import remitto.core.fieldrule.OnDrift;
import remitto.core.fieldrule.Receives;
import remitto.core.fieldrule.Written;
import remitto.core.guard.Guards;
import remitto.core.route.Basis;
import remitto.core.route.FirstRun;
import remitto.core.route.Leavers;
import remitto.core.route.LookUps;
import remitto.core.route.Mode;
import remitto.core.route.RouteCompiler;
import remitto.core.route.RouteSpec;
import remitto.core.route.Trace;
import remitto.core.timetable.Schedule;
import remitto.core.value.Value;

class JudgeTest {
    private static final Instant NOW = Instant.parse("2026-11-24T09:00:00Z");
    private static final Columns COLUMNS =
            TestRows.columns("id:TEXT:KEY", "mail:TEXT", "port:TEXT", "agreed:TEXT:CONSENT");
    private static final ObjectDescription CONTACT = ObjectDescription.of(
            "contact",
            "Contact",
            false,
            List.of(field("ref", true, true), field("mail", false, true), field("port", false, false)));

    private static Field field(String name, boolean required, boolean unique) {
        return new Field(
                name, name, FieldKind.TEXT, required, unique, false, true, false, OptionalInt.of(12), List.of());
    }

    private static FieldRule from(String field, String column) {
        return FieldRule.of(field, new Receives.FromColumn(column));
    }

    private static RouteSpec route(Mode mode, FieldRule port) {
        return RouteSpec.of(
                        mode,
                        List.of("ref", "mail"),
                        List.of(from("ref", "id"), from("mail", "mail"), port),
                        new Basis.NotStated(),
                        Guards.defaults(),
                        new Schedule.ByHand("UTC"))
                .leavers(mode == Mode.KEEP_EQUAL ? new Leavers.Delete() : new Leavers.Stay())
                .firstRun(FirstRun.AlreadyThere.ADOPT, FirstRun.OlderRows.SEND);
    }

    private static Decision judge(RouteSpec spec, Map<String, String> cells, MatchResult matchResult) {
        var compiled = RouteCompiler.compile(spec, COLUMNS, CONTACT);
        assertThat(compiled.usable()).as(compiled.faults().toString()).isTrue();
        return Judge.judge(
                spec, compiled.route().shape("1", TestRows.row(COLUMNS, cells), LookUps.NONE, Trace.NONE), matchResult);
    }

    private static MatchResult.Matched there(String matchedBy, Map<String, String> live, Map<String, String> known) {
        return MatchResult.Matched.of("40001", matchedBy, values(live), NOW, values(known));
    }

    private static Map<String, Value> values(Map<String, String> texts) {
        Map<String, Value> values = new HashMap<>();
        texts.forEach((name, text) -> values.put(name, text.isEmpty() ? Value.EMPTY : Value.text(text)));
        return values;
    }

    private static final Map<String, String> ROW = Map.of("id", "1", "mail", "a@x.example", "port", "Tarva");
    private static final Map<String, String> SAME = Map.of("ref", "1", "mail", "a@x.example", "port", "Tarva");
    private static final Map<String, String> OLD = Map.of("ref", "1", "mail", "a@x.example", "port", "Brenn");

    /** Common practice, no source: update only never adds, add only never updates. */
    @ParameterizedTest
    @CsvSource({
        "ADD_OR_UPDATE, absent, ADDED",
        "ADD_OR_UPDATE, other, CHANGED",
        "ADD_OR_UPDATE, same, UNCHANGED",
        "ADD_ONLY, absent, ADDED",
        "ADD_ONLY, other, LEFT_OUT",
        "ADD_ONLY, same, LEFT_OUT",
        "KEEP_EQUAL, absent, ADDED",
        "KEEP_EQUAL, other, CHANGED",
        "KEEP_EQUAL, same, UNCHANGED",
        "REMOVE, absent, LEFT_OUT",
        "REMOVE, other, REMOVED",
        "REMOVE, same, REMOVED",
        "APPEND, absent, ADDED",
        "APPEND, other, UNCHANGED",
        "APPEND, same, UNCHANGED",
        "UPDATE_ONLY, absent, LEFT_OUT",
        "UPDATE_ONLY, other, CHANGED",
        "UPDATE_ONLY, same, UNCHANGED"
    })
    void modes(Mode mode, String matchResult, Verdict expected) {
        MatchResult found = matchResult.equals("absent")
                ? new MatchResult.Unmatched(NOW)
                : there("", matchResult.equals("same") ? SAME : OLD, Map.of());
        Decision decision = judge(route(mode, from("port", "port")), ROW, found);
        assertThat(decision.verdict()).isEqualTo(expected);
        if (expected == Verdict.LEFT_OUT) {
            assertThat(decision.reason()).isNotBlank();
            assertThat(decision.written()).isEmpty();
        }
    }

    /** Every combination of when it may be written with what is there: the whole decision table. */
    @ParameterizedTest
    @CsvSource({
        "ALWAYS, absent, WRITTEN",
        "ALWAYS, empty, WRITTEN",
        "ALWAYS, other, WRITTEN",
        "ALWAYS, same, SAME",
        "WHEN_CREATING, absent, WRITTEN",
        "WHEN_CREATING, empty, KEPT",
        "WHEN_CREATING, other, KEPT",
        "WHEN_CREATING, same, SAME",
        "ONLY_IF_EMPTY_THERE, absent, WRITTEN",
        "ONLY_IF_EMPTY_THERE, empty, WRITTEN",
        "ONLY_IF_EMPTY_THERE, other, KEPT",
        "ONLY_IF_EMPTY_THERE, same, SAME",
        "NEVER, absent, KEPT",
        "NEVER, empty, KEPT",
        "NEVER, other, KEPT",
        "NEVER, same, KEPT"
    })
    void whenItMayBeWritten(Written written, String matchResult, FieldOutcome expected) {
        Map<String, String> live = new HashMap<>(SAME);
        live.put("port", Map.of("empty", "", "other", "Brenn", "same", "Tarva").getOrDefault(matchResult, ""));
        MatchResult found = matchResult.equals("absent") ? new MatchResult.Unmatched(NOW) : there("", live, Map.of());
        Decision decision = judge(route(Mode.ADD_OR_UPDATE, from("port", "port").written(written)), ROW, found);
        assertThat(outcome(decision, "port").outcome()).isEqualTo(expected);
    }

    @ParameterizedTest
    @CsvSource({
        "LEAVE, Brenn, KEPT, CHANGED",
        "CLEAR, Brenn, WRITTEN, CHANGED",
        "CLEAR, '', SAME, CHANGED",
        "DEFAULT, Brenn, WRITTEN, CHANGED",
        "HOLD_RECORD, Brenn, '', HELD"
    })
    void ifEmpty(IfEmpty choice, String port, String outcome, Verdict verdict) {
        FieldRule rule = from("port", "port").ifEmpty(choice);
        rule = choice == IfEmpty.DEFAULT ? rule.orDefault("Halvorn") : rule;
        Decision decision = judge(
                route(Mode.ADD_OR_UPDATE, rule),
                Map.of("id", "1", "mail", "n@x.example"),
                there("", Map.of("ref", "1", "mail", "a@x.example", "port", port), Map.of()));
        assertThat(decision.verdict()).isEqualTo(verdict);
        if (!outcome.isEmpty()) {
            assertThat(outcome(decision, "port").outcome()).isEqualTo(FieldOutcome.valueOf(outcome));
        }
    }

    @ParameterizedTest
    @CsvSource({"OVERWRITE, WRITTEN", "KEEP_THEIRS, KEPT", "HOLD_VALUE, HELD"})
    void driftIsWhatSomebodyElseWroteSince(OnDrift choice, FieldOutcome expected) {
        RouteSpec spec = route(Mode.ADD_OR_UPDATE, from("port", "port").onDrift(choice));
        Decision edited = judge(spec, ROW, there("", OLD, Map.of("port", "Lysøy")));
        assertThat(outcome(edited, "port").outcome()).isEqualTo(expected);
        Decision ours = judge(spec, ROW, there("", OLD, Map.of("port", "Brenn")));
        assertThat(outcome(ours, "port").outcome())
                .as("what we wrote ourselves is no drift")
                .isEqualTo(FieldOutcome.WRITTEN);
    }

    @Test
    void aBadValueHoldsOnlyItself() {
        Decision decision = judge(
                route(Mode.ADD_OR_UPDATE, from("port", "port")),
                Map.of("id", "1", "mail", "b@x.example", "port", "longer than twelve characters"),
                there("", OLD, Map.of()));
        assertThat(decision.verdict()).isEqualTo(Verdict.CHANGED);
        assertThat(outcome(decision, "port").outcome()).isEqualTo(FieldOutcome.HELD);
        assertThat(outcome(decision, "port").reason()).contains("29 characters").contains("12");
        assertThat(decision.written()).extracting(FieldDecision::field).containsExactly("mail");
    }

    @Test
    void aBadValueHoldsTheRecordWhereTheRuleSaysSo() {
        FieldRule rule = from("port", "port").ifUnusable(IfUnusable.HOLD_RECORD);
        Decision decision = judge(
                route(Mode.ADD_OR_UPDATE, rule),
                Map.of("id", "1", "mail", "b@x.example", "port", "longer than twelve characters"),
                there("", OLD, Map.of()));
        assertThat(decision.verdict()).isEqualTo(Verdict.HELD);
        assertThat(decision.cause()).isEqualTo(Cause.about(CauseKind.UNUSABLE, "port"));
    }

    @Test
    void aBadKeyHoldsTheRecord() {
        Decision decision = judge(
                route(Mode.ADD_OR_UPDATE, from("port", "port")),
                Map.of("id", "far too long for a reference"),
                new MatchResult.Unmatched(NOW));
        assertThat(decision.verdict()).isEqualTo(Verdict.HELD);
    }

    @Test
    void standingsThatHold() {
        RouteSpec spec = route(Mode.ADD_OR_UPDATE, from("port", "port"));
        Decision several = judge(spec, ROW, new MatchResult.Ambiguous("mail", "a@x.example", List.of("7", "9")));
        assertThat(several.reason()).contains("2 records").contains("7, 9");
        assertThat(several.cause()).isEqualTo(Cause.of(CauseKind.TWO_MATCHES));
        Decision claimed = judge(spec, ROW, new MatchResult.AlreadyBound("7", "P-2"));
        assertThat(claimed.verdict()).isEqualTo(Verdict.HELD);
        assertThat(claimed.cause()).isEqualTo(Cause.of(CauseKind.CLAIMED));
        assertThat(judge(spec, ROW, new MatchResult.Deleted("7", NOW)).cause())
                .isEqualTo(Cause.of(CauseKind.DELETED_THERE));
    }

    @Test
    void whatIsLeftOutSaysWhy() {
        MatchResult absent = new MatchResult.Unmatched(NOW);
        for (Mode mode : List.of(Mode.REMOVE, Mode.UPDATE_ONLY)) {
            assertThat(judge(route(mode, from("port", "port")), ROW, absent).cause())
                    .as(mode.name())
                    .isEqualTo(Cause.of(CauseKind.NOT_THERE));
        }
        assertThat(judge(route(Mode.ADD_ONLY, from("port", "port")), ROW, there("", OLD, Map.of()))
                        .cause())
                .isEqualTo(Cause.of(CauseKind.ALREADY_THERE));
        assertThat(judge(route(Mode.ADD_OR_UPDATE, from("port", "port")), ROW, there("", OLD, Map.of()))
                        .cause())
                .as("what goes needs no cause")
                .isEqualTo(Cause.NONE);
    }

    /** The rest of the record is as it was, so that nothing goes, and that is no success. */
    @Test
    void aRecordOfWhichAllThatChangedIsHeldIsHeldItself() {
        Decision decision = judge(
                route(Mode.ADD_OR_UPDATE, from("port", "port")),
                Map.of("id", "1", "mail", "a@x.example", "port", "longer than twelve characters"),
                there("", OLD, Map.of()));
        assertThat(decision.verdict()).isEqualTo(Verdict.HELD);
        assertThat(decision.cause()).isEqualTo(Cause.of(CauseKind.ONLY_HELD_VALUES));
    }

    @Test
    void whoSaidNoIsLeftOutOrTakenAwaySayingSo() {
        RouteSpec keeps = route(Mode.ADD_OR_UPDATE, from("port", "port"));
        RouteSpec removes = route(Mode.KEEP_EQUAL, from("port", "port"));
        var record = RouteCompiler.compile(removes, COLUMNS, CONTACT)
                .route()
                .shape("1", TestRows.row(COLUMNS, ROW), LookUps.NONE, Trace.NONE)
                .refused("Said no");
        MatchResult bound = there("", OLD, Map.of());
        assertThat(Judge.judge(keeps, record, bound).cause()).isEqualTo(Cause.of(CauseKind.BASIS));
        assertThat(Judge.judge(keeps, record, bound).verdict()).isEqualTo(Verdict.LEFT_OUT);
        assertThat(Judge.judge(removes, record, bound).cause()).isEqualTo(Cause.of(CauseKind.CONSENT));
        assertThat(Judge.judge(removes, record, bound).verdict()).isEqualTo(Verdict.REMOVED);
    }

    @Test
    void afterAMatchByAFurtherKeyAnEmptyKeyIsFilledAndADifferentOneHolds() {
        RouteSpec spec = route(Mode.ADD_OR_UPDATE, from("port", "port"));
        Decision filled =
                judge(spec, ROW, there("mail", Map.of("ref", "", "mail", "a@x.example", "port", "Tarva"), Map.of()));
        assertThat(filled.verdict()).isEqualTo(Verdict.CHANGED);
        assertThat(filled.written()).extracting(FieldDecision::field).containsExactly("ref");
        Decision different = judge(spec, ROW, there("mail", Map.of("ref", "8", "mail", "a@x.example"), Map.of()));
        assertThat(different.verdict()).isEqualTo(Verdict.HELD);
        assertThat(different.cause()).isEqualTo(Cause.of(CauseKind.KEY_DIFFERS));
    }

    @Test
    void whatWasThereBeforeIsAdoptedOrLeftAsTheRouteSays() {
        RouteSpec adopts = route(Mode.ADD_OR_UPDATE, from("port", "port"));
        RouteSpec leaves = adopts.firstRun(FirstRun.AlreadyThere.LEAVE, FirstRun.OlderRows.SEND);
        assertThat(judge(adopts, ROW, there("ref", OLD, Map.of())).verdict()).isEqualTo(Verdict.CHANGED);
        Decision left = judge(leaves, ROW, there("ref", OLD, Map.of()));
        assertThat(left.verdict()).isEqualTo(Verdict.LEFT_OUT);
        assertThat(left.cause()).isEqualTo(Cause.of(CauseKind.THERE_BEFORE));
        assertThat(judge(leaves, ROW, there("", OLD, Map.of())).verdict())
                .as("one that is bound is the route's own")
                .isEqualTo(Verdict.CHANGED);
    }

    @Test
    void anUndoneValueStaysUndoneUntilItsSourceValueChanges() {
        RouteSpec spec = route(Mode.ADD_OR_UPDATE, from("port", "port"));
        MatchResult.Matched undone = new MatchResult.Matched(
                "40001", "", values(OLD), NOW, values(OLD), Map.of("port", Value.text("Tarva")));
        assertThat(judge(spec, ROW, undone).verdict()).isEqualTo(Verdict.UNCHANGED);
        Map<String, String> moved = new HashMap<>(ROW);
        moved.put("port", "Lysøy");
        assertThat(outcome(judge(spec, moved, undone), "port").outcome()).isEqualTo(FieldOutcome.WRITTEN);
    }

    /** Written by whichever rule, whatever was there: what an earlier route wrote stays; a consent taken back still clears. */
    @ParameterizedTest
    @CsvSource({"ALWAYS", "ONLY_IF_EMPTY_THERE", "DESTINATION_DECIDES", "WHEN_CREATING"})
    void aFieldIsLeftToARouteThatComesFirstInItsOrder(Written written) {
        RouteSpec spec = route(Mode.ADD_OR_UPDATE, from("port", "port").written(written));
        MatchResult.Matched bound = there("", OLD, Map.of());
        Decision left = judge(spec, ROW, bound.leftTo(Map.of("port", "Commuter passes")));
        assertThat(outcome(left, "port").outcome()).isEqualTo(FieldOutcome.KEPT);
        assertThat(outcome(left, "port").reason())
                .isEqualTo("kept: route Commuter passes has priority for this field and wrote it");
        Map<String, String> same = new HashMap<>(ROW);
        same.put("port", OLD.get("port"));
        assertThat(outcome(judge(spec, same, bound.leftTo(Map.of("port", "Commuter passes"))), "port")
                        .outcome())
                .as("what is the same needs no reason")
                .isEqualTo(FieldOutcome.SAME);
    }

    @ParameterizedTest
    @CsvSource({"yes, ADDED", "YES, ADDED", "no, LEFT_OUT", "'', LEFT_OUT", "perhaps, LEFT_OUT"})
    void invariant4NobodyIsSentAgainstTheirConsent(String said, Verdict expected) {
        RouteSpec base = route(Mode.ADD_OR_UPDATE, from("port", "port"));
        RouteSpec spec = RouteSpec.of(
                        base.mode(),
                        base.match(),
                        base.rules(),
                        new Basis.Consent("mail", "agreed"),
                        base.guards(),
                        base.schedule())
                .firstRun(FirstRun.AlreadyThere.ADOPT, FirstRun.OlderRows.SEND);
        Map<String, String> cells = new HashMap<>(ROW);
        cells.put("agreed", said);
        assertThat(judge(spec, cells, new MatchResult.Unmatched(NOW)).verdict()).isEqualTo(expected);
    }

    private static FieldDecision outcome(Decision decision, String field) {
        return decision.fields().stream()
                .filter(one -> one.field().equals(field))
                .findFirst()
                .orElseThrow();
    }
}

package remitto.core.manifest;

import static org.assertj.core.api.Assertions.assertThat;

import java.time.Instant;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.OptionalInt;
import org.junit.jupiter.api.Test;
import remitto.core.cause.Cause;
import remitto.core.cause.CauseKind;
import remitto.core.destination.Abilities;
import remitto.core.destination.Field;
import remitto.core.destination.FieldKind;
import remitto.core.destination.ObjectDescription;
import remitto.core.route.Leavers;
import remitto.core.value.Value;

class LeaverAndUndoTest {
    private static final Instant NOW = Instant.parse("2026-11-24T09:00:00Z");
    private static final ObjectDescription CONTACT = ObjectDescription.of(
            "contact", "Contact", false, List.of(field("ref", true), field("port", true), field("health", false)));

    private static Field field(String name, boolean writable) {
        return new Field(
                name, name, FieldKind.TEXT, false, false, !writable, true, false, OptionalInt.empty(), List.of());
    }

    private static MatchResult.Matched there(String port) {
        return MatchResult.Matched.of(
                "40001",
                "",
                Map.of("ref", Value.text("1"), "port", port.isEmpty() ? Value.EMPTY : Value.text(port)),
                NOW,
                Map.of());
    }

    private static Optional<Decision> leaves(Leavers choice, String port) {
        return LeaverJudge.judge(choice, CONTACT, there(port), "");
    }

    @Test
    void whoLeavesStaysUnlessTheRouteSaysOtherwise() {
        assertThat(leaves(new Leavers.Stay(), "Tarva")).isEmpty();
    }

    @Test
    void aLeaverWhoseFieldsAreSetIsChangedAndNotRemoved() {
        Leavers sets = new Leavers.SetFields(List.of(new Leavers.FieldText("port", "none")));
        Decision decision = leaves(sets, "Tarva").orElseThrow();
        assertThat(decision.verdict()).isEqualTo(Verdict.CHANGED);
        assertThat(decision.cause()).isEqualTo(Cause.of(CauseKind.LEFT));
        assertThat(decision.written())
                .containsExactly(
                        new FieldDecision("port", FieldOutcome.WRITTEN, Value.text("Tarva"), Value.text("none"), ""));
        assertThat(leaves(sets, "none").orElseThrow().verdict()).isEqualTo(Verdict.UNCHANGED);
    }

    @Test
    void aLeaverThatAnotherRouteKeepsThereIsHeld() {
        Decision shared = LeaverJudge.judge(new Leavers.Delete(), CONTACT, there("Tarva"), "Passes")
                .orElseThrow();
        assertThat(shared.verdict()).isEqualTo(Verdict.HELD);
        assertThat(shared.cause()).isEqualTo(Cause.of(CauseKind.SHARED));
        assertThat(shared.reason()).contains("Passes");
        Decision alone = leaves(new Leavers.Delete(), "Tarva").orElseThrow();
        assertThat(alone.verdict()).isEqualTo(Verdict.REMOVED);
        assertThat(alone.cause()).isEqualTo(Cause.of(CauseKind.LEFT));
    }

    @Test
    void clearingEmptiesOnlyWhatHoldsSomething() {
        Leavers clears = new Leavers.ClearFields(List.of("port"));
        assertThat(leaves(clears, "Tarva").orElseThrow().written()).hasSize(1);
        assertThat(leaves(clears, "").orElseThrow().verdict()).isEqualTo(Verdict.UNCHANGED);
    }

    @Test
    void aRemovalShowsTheValuesThatGoAndSparesWhatAnotherRouteKeeps() {
        Decision removed = leaves(new Leavers.Delete(), "Tarva").orElseThrow();
        assertThat(removed.verdict()).isEqualTo(Verdict.REMOVED);
        assertThat(removed.fields()).extracting(FieldDecision::field).containsExactly("port", "ref");
        Decision shared = LeaverJudge.judge(new Leavers.Delete(), CONTACT, there("Tarva"), "Churn score")
                .orElseThrow();
        assertThat(shared.verdict()).isEqualTo(Verdict.HELD);
        assertThat(shared.reason()).contains("Churn score");
    }

    private static UndoJudge.SentLine sent(Verdict verdict, Value old, Value fresh) {
        return new UndoJudge.SentLine(
                verdict,
                List.of(
                        new FieldDecision("port", FieldOutcome.WRITTEN, old, fresh, ""),
                        new FieldDecision("ref", FieldOutcome.SAME, Value.text("1"), Value.text("1"), "")));
    }

    private static final UndoJudge.SentLine CHANGED = sent(Verdict.CHANGED, Value.text("Brenn"), Value.text("Tarva"));

    @Test
    void invariant8AChangeIsPutBackUnlessOthersChangedItSince() {
        Decision back = UndoJudge.judge(CHANGED, CONTACT, Optional.of(there("Tarva")));
        assertThat(back.verdict()).isEqualTo(Verdict.CHANGED);
        assertThat(back.written())
                .containsExactly(
                        new FieldDecision("port", FieldOutcome.WRITTEN, Value.text("Tarva"), Value.text("Brenn"), ""));
        Decision edited = UndoJudge.judge(CHANGED, CONTACT, Optional.of(there("Lysøy")));
        assertThat(edited.verdict()).isEqualTo(Verdict.LEFT_OUT);
        assertThat(edited.fields().get(0).outcome()).isEqualTo(FieldOutcome.KEPT);
        assertThat(UndoJudge.judge(CHANGED, CONTACT, Optional.of(there("Brenn")))
                        .verdict())
                .isEqualTo(Verdict.LEFT_OUT);
        assertThat(UndoJudge.judge(CHANGED, CONTACT, Optional.empty()).verdict())
                .isEqualTo(Verdict.LEFT_OUT);
    }

    @Test
    void aValueThatWasNeverReadIsNotGuessed() {
        UndoJudge.SentLine blind = sent(Verdict.CHANGED, Value.MISSING, Value.text("Tarva"));
        assertThat(UndoJudge.judge(blind, CONTACT, Optional.of(there("Tarva"))).verdict())
                .isEqualTo(Verdict.LEFT_OUT);
    }

    @Test
    void invariant8AnAdditionIsTakenAwayUnlessSomebodyWorkedOnIt() {
        UndoJudge.SentLine added = sent(Verdict.ADDED, Value.MISSING, Value.text("Tarva"));
        assertThat(UndoJudge.judge(added, CONTACT, Optional.of(there("Tarva"))).verdict())
                .isEqualTo(Verdict.REMOVED);
        assertThat(UndoJudge.judge(added, CONTACT, Optional.of(there("Brenn"))).verdict())
                .isEqualTo(Verdict.LEFT_OUT);
        ObjectDescription keepsAll = new ObjectDescription(
                "contact", "Contact", false, new Abilities(false, true, true, false), CONTACT.fields());
        Decision cannot = UndoJudge.judge(added, keepsAll, Optional.of(there("Tarva")));
        assertThat(cannot.verdict()).isEqualTo(Verdict.HELD);
        assertThat(cannot.cause()).isEqualTo(Cause.of(CauseKind.UNDO_CANNOT));
    }

    @Test
    void invariant8ARemovalIsAddedAgainWithTheValuesThisLoginMayWrite() {
        UndoJudge.SentLine removed = new UndoJudge.SentLine(
                Verdict.REMOVED,
                List.of(
                        new FieldDecision("port", FieldOutcome.WRITTEN, Value.text("Tarva"), Value.EMPTY, ""),
                        new FieldDecision("health", FieldOutcome.WRITTEN, Value.text("80"), Value.EMPTY, "")));
        Decision again = UndoJudge.judge(removed, CONTACT, Optional.empty());
        assertThat(again.verdict()).isEqualTo(Verdict.ADDED);
        assertThat(again.written()).extracting(FieldDecision::field).containsExactly("port");
        assertThat(UndoJudge.judge(removed, CONTACT, Optional.of(there("x"))).verdict())
                .isEqualTo(Verdict.LEFT_OUT);
    }

    private static final ObjectDescription BLIND = new ObjectDescription(
            "contact", "Contact", false, new Abilities(false, false, true, true), CONTACT.fields());

    @Test
    void anAdditionThatIsGoneNeedsNoTakingAwayAndWhatCannotBeReadIsTakenAwayUnseen() {
        UndoJudge.SentLine added = sent(Verdict.ADDED, Value.MISSING, Value.text("Tarva"));
        Decision gone = UndoJudge.judge(added, CONTACT, Optional.empty());
        assertThat(gone)
                .isEqualTo(new Decision(
                        Verdict.LEFT_OUT,
                        Cause.of(CauseKind.UNDO),
                        "It is no longer in the destination",
                        Optional.empty(),
                        List.of()));
        assertThat(BLIND.abilities().reads()).isFalse();
        assertThat(UndoJudge.judge(added, BLIND, Optional.of(there("Brenn"))).verdict())
                .isEqualTo(Verdict.REMOVED);
    }

    /** What was same, kept or held was not sent, so that an undo of an addition does not compare it. */
    @Test
    void onlyWhatWasWrittenIsPartOfALineThatWasSent() {
        FieldDecision other =
                new FieldDecision("ref", FieldOutcome.KEPT, Value.text("2"), Value.text("2"), "never written");
        FieldDecision written = new FieldDecision("port", FieldOutcome.WRITTEN, Value.MISSING, Value.text("Tarva"), "");
        UndoJudge.SentLine line = new UndoJudge.SentLine(Verdict.ADDED, List.of(other, written));
        assertThat(line.fields()).containsExactly(written);
        assertThat(UndoJudge.judge(line, CONTACT, Optional.of(there("Tarva"))).verdict())
                .isEqualTo(Verdict.REMOVED);
    }

    @Test
    void aChangeIsPutBackFieldByField() {
        UndoJudge.SentLine line = new UndoJudge.SentLine(
                Verdict.CHANGED,
                List.of(
                        new FieldDecision("port", FieldOutcome.WRITTEN, Value.text("Brenn"), Value.text("Tarva"), ""),
                        new FieldDecision("ref", FieldOutcome.WRITTEN, Value.text("9"), Value.text("8"), "")));
        Decision back = UndoJudge.judge(line, CONTACT, Optional.of(there("Tarva")));
        assertThat(back.fields())
                .containsExactly(
                        new FieldDecision("port", FieldOutcome.WRITTEN, Value.text("Tarva"), Value.text("Brenn"), ""),
                        new FieldDecision(
                                "ref", FieldOutcome.KEPT, Value.text("1"), Value.text("9"), "changed since, kept"));
        assertThat(back.reason()).isEqualTo("Restores the old values");
        assertThat(back.remoteId()).contains("40001");
    }

    /** A text that a rule sets is what the field would hold, such as a date; one that fits no field is set as it is said. */
    @Test
    void aLeaversTextIsSetAsTheFieldHoldsIt() {
        Field day = new Field(
                "port", "Day", FieldKind.DATE, false, false, false, true, false, OptionalInt.empty(), List.of());
        ObjectDescription dated = ObjectDescription.of("contact", "Contact", false, List.of(day));
        Leavers sets = new Leavers.SetFields(List.of(new Leavers.FieldText("port", "2026-11-24")));
        Value set = LeaverJudge.judge(sets, dated, there("Tarva"), "")
                .orElseThrow()
                .fields()
                .get(0)
                .fresh();
        assertThat(set).isEqualTo(new Value.Day(java.time.LocalDate.parse("2026-11-24")));
        Leavers unfit = new Leavers.SetFields(List.of(new Leavers.FieldText("port", "no day")));
        assertThat(LeaverJudge.judge(unfit, dated, there("Tarva"), "")
                        .orElseThrow()
                        .fields()
                        .get(0)
                        .fresh())
                .isEqualTo(Value.text("no day"));
    }

    @Test
    void aRemovalShowsNoFieldThatHoldsNothing() {
        Decision removed = leaves(new Leavers.Delete(), "").orElseThrow();
        assertThat(removed.fields()).extracting(FieldDecision::field).containsExactly("ref");
    }
}

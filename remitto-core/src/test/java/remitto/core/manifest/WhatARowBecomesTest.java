package remitto.core.manifest;

import static org.assertj.core.api.Assertions.assertThat;

import java.time.Instant;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.OptionalInt;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;
import org.junit.jupiter.params.provider.EnumSource;
import remitto.core.cause.Cause;
import remitto.core.cause.CauseKind;
import remitto.core.destination.Field;
import remitto.core.destination.FieldKind;
import remitto.core.destination.ObjectDescription;
import remitto.core.expectation.HeldRows;
import remitto.core.fieldrule.FieldConsent;
import remitto.core.fieldrule.FieldRule;
import remitto.core.fieldrule.IfEmpty;
import remitto.core.fieldrule.Receives;
import remitto.core.fieldrule.Written;
import remitto.core.guard.Guards;
import remitto.core.known.Fingerprint;
import remitto.core.known.RecordState;
import remitto.core.route.Basis;
import remitto.core.route.Leavers;
import remitto.core.route.Mode;
import remitto.core.route.RouteSpec;
import remitto.core.route.ShapedField;
import remitto.core.route.ShapedRecord;
import remitto.core.shaper.Shaped;
import remitto.core.timetable.Schedule;
import remitto.core.value.Value;

/** From a row of a reading to what a run does about it: each step as a table. */
class WhatARowBecomesTest {
    private static final Instant READ = Instant.parse("2026-11-24T09:00:00Z");
    private static final long INTENDED = 4711;

    private static FieldRule rule(String field) {
        return FieldRule.of(field, new Receives.FromColumn(field));
    }

    private static ShapedField shaped(FieldRule rule, Shaped shaped, Optional<FieldConsent.Said> said) {
        Field field = new Field(
                rule.field(),
                rule.field(),
                FieldKind.TEXT,
                false,
                false,
                false,
                true,
                false,
                OptionalInt.empty(),
                List.of());
        return new ShapedField(rule, field, shaped, Optional.empty(), Optional.empty(), 0, said);
    }

    private static ShapedField usable(FieldRule rule, String text) {
        return shaped(rule, new Shaped.Usable(Value.text(text)), Optional.empty());
    }

    private static ShapedRecord record(ShapedField... fields) {
        return new ShapedRecord("K-1", "Signe", "", false, List.of(fields));
    }

    private static RouteSpec spec(Mode mode) {
        return RouteSpec.of(
                mode,
                List.of("email"),
                List.of(rule("email"), rule("port")),
                new Basis.Stated("a contract"),
                Guards.none(),
                new Schedule.ByHand("UTC"));
    }

    private static MatchResult matchResult(String word) {
        return switch (word) {
            case "found" -> MatchResult.Matched.of("40001", "email", Map.of(), READ, Map.of());
            case "bound" -> MatchResult.Matched.of("40001", "", Map.of(), READ, Map.of());
            case "listed" -> MatchResult.Matched.of("a@sol.example", "", Map.of(), READ, Map.of());
            case "absent" -> new MatchResult.Unmatched(READ);
            default -> new MatchResult.AlreadyBound("40001", "K-2");
        };
    }

    private static FieldDecision field(String name, FieldOutcome outcome, String old, String fresh) {
        return new FieldDecision(name, outcome, Value.text(old), Value.text(fresh), "");
    }

    private static Decision decision(Verdict verdict, Cause cause, FieldDecision... fields) {
        return new Decision(verdict, cause, "", Optional.empty(), List.of(fields));
    }

    private static JudgedRecord judged(MatchResult matchResult, Decision decision) {
        return new JudgedRecord(
                record(usable(rule("email"), "a@sol.example"), usable(rule("port"), "Tarva")),
                matchResult,
                decision,
                INTENDED);
    }

    // --- passed over ---------------------------------------------------------------------------------------------

    @ParameterizedTest
    @CsvSource({
        "true,  true,  false, true",
        "true,  true,  true,  false",
        "true,  false, false, false",
        "false, true,  false, false",
        "false, false, false, false"
    })
    void onlyWhatIsKnownAndTheSameIsPassedOver(boolean known, boolean same, boolean forbidden, boolean passed) {
        assertThat(AsBefore.isPassedOver(known, same, forbidden)).isEqualTo(passed);
    }

    @ParameterizedTest
    @CsvSource({
        "NONE,         UNCHANGED",
        "REFUSED,      HELD",
        "UNDONE,       LEFT_OUT",
        "OLDER,        LEFT_OUT",
        "THERE_BEFORE, LEFT_OUT",
        "GONE,         UNCHANGED",
        "UNKNOWN,      HELD"
    })
    void whatIsPassedOverStaysAsItStood(RecordState recordState, AsBefore becomes) {
        assertThat(AsBefore.of(recordState)).isEqualTo(becomes);
    }

    @Test
    void whatIsHeldAgainIsHeldForTheSameCause() {
        assertThat(AsBefore.cause(RecordState.REFUSED)).isEqualTo(CauseKind.REFUSED);
        assertThat(AsBefore.cause(RecordState.UNKNOWN)).isEqualTo(CauseKind.OUTCOME_UNKNOWN);
    }

    // --- looked for there ----------------------------------------------------------------------------------------

    @ParameterizedTest
    @CsvSource({
        "'',        false, false, false, true",
        "'',        false, true,  false, false",
        "'No area', false, false, true,  false",
        "'No area', false, true,  true,  false",
        "'Said no', true,  false, true,  true",
        "'Said no', true,  true,  true,  true",
        "'Said no', true,  false, false, false"
    })
    void whoIsMeantAndMayHaveChangedIsLookedFor(
            String leftOut, boolean statedNo, boolean asSent, boolean removes, boolean looked) {
        Leavers leavers = removes ? new Leavers.Delete() : new Leavers.Stay();
        ShapedRecord one = new ShapedRecord("K-1", "", leftOut, statedNo, List.of());
        assertThat(LookingThere.isNeeded(one, asSent, leavers)).isEqualTo(looked);
    }

    @Test
    void whatIsThereAsItWasSentIsUnchangedUnderItsId() {
        Decision decision = LookingThere.asSent("40001");
        assertThat(decision.verdict()).isEqualTo(Verdict.UNCHANGED);
        assertThat(decision.remoteId()).contains("40001");
        assertThat(decision.fields()).isEmpty();
    }

    @Test
    void enoughIsEnoughUnlessANoIsCarriedOut() {
        FieldConsent consent = new FieldConsent("text messages", "agreed");
        ShapedField no = shaped(
                rule("mobile").consent(consent), new Shaped.Usable(Value.EMPTY), Optional.of(FieldConsent.Said.NO));
        Decision clears =
                decision(Verdict.CHANGED, Cause.NONE, field("mobile", FieldOutcome.WRITTEN, "+47 900 00 000", ""));
        assertThat(LookingThere.within("Two this week already", record(no), clears))
                .isSameAs(clears);

        Decision changes = decision(Verdict.CHANGED, Cause.NONE, field("port", FieldOutcome.WRITTEN, "Vik", "Tarva"));
        ShapedRecord plain = record(usable(rule("port"), "Tarva"));
        assertThat(LookingThere.within("", plain, changes)).isSameAs(changes);
        Decision quiet = LookingThere.within("Two this week already", plain, changes);
        assertThat(quiet.verdict()).isEqualTo(Verdict.LEFT_OUT);
        assertThat(quiet.cause()).isEqualTo(Cause.of(CauseKind.QUIET));
        assertThat(quiet.reason()).isEqualTo("Two this week already");
        Decision same = decision(Verdict.UNCHANGED, Cause.NONE);
        assertThat(LookingThere.within("Two this week already", plain, same)).isSameAs(same);
    }

    private static final Optional<HeldRows.Reason> EMPTY_TOWN =
            Optional.of(new HeldRows.Reason("town", "town is empty"));

    @ParameterizedTest
    @EnumSource(names = {"ADDED", "CHANGED", "REMOVED"})
    void whatWouldBeSentOfAnUnexpectedRowIsHeld(Verdict verdict) {
        Decision held =
                LookingThere.expected(EMPTY_TOWN, record(usable(rule("port"), "Tarva")), decision(verdict, Cause.NONE));

        assertThat(held.verdict()).isEqualTo(Verdict.HELD);
        assertThat(held.cause()).isEqualTo(Cause.about(CauseKind.UNEXPECTED, "town"));
        assertThat(held.reason()).isEqualTo("town is empty");
    }

    @ParameterizedTest
    @EnumSource(names = {"UNCHANGED", "HELD", "LEFT_OUT"})
    void whereNothingWouldBeSentNothingIsHeldForIt(Verdict verdict) {
        Decision decision = decision(verdict, Cause.NONE);

        assertThat(LookingThere.expected(EMPTY_TOWN, record(), decision)).isSameAs(decision);
    }

    @Test
    void aNoIsCarriedOutWhateverIsExpectedOfTheRow() {
        ShapedRecord statedNo = record().refused("Said no");
        Decision removed = decision(Verdict.REMOVED, Cause.of(CauseKind.CONSENT));
        assertThat(LookingThere.expected(EMPTY_TOWN, statedNo, removed)).isSameAs(removed);

        ShapedField no = shaped(
                rule("mobile").consent(new FieldConsent("text messages", "agreed")),
                new Shaped.Usable(Value.EMPTY),
                Optional.of(FieldConsent.Said.NO));
        Decision clears =
                decision(Verdict.CHANGED, Cause.NONE, field("mobile", FieldOutcome.WRITTEN, "+47 900 00 000", ""));
        assertThat(LookingThere.expected(EMPTY_TOWN, record(no), clears)).isSameAs(clears);
        assertThat(LookingThere.expected(Optional.empty(), record(), removed)).isSameAs(removed);
    }

    // --- judged --------------------------------------------------------------------------------------------------

    /** Stance is the one remembered; a dash where none is. */
    @ParameterizedTest
    @CsvSource({
        // verdict, stands, field's outcome | adopted, binds now, line, stance
        "UNCHANGED, bound,  SAME,  false, false, false, NONE",
        "UNCHANGED, found,  SAME,  true,  true,  false, NONE",
        "UNCHANGED, bound,  WAITS, false, false, true,  NONE",
        "UNCHANGED, found,  WAITS, true,  true,  true,  NONE",
        "UNCHANGED, bound,  HELD,  false, false, false, -",
        "UNCHANGED, found,  HELD,  true,  true,  false, -",
        "CHANGED,   bound,  WRITTEN, false, false, true, -",
        "CHANGED,   found,  WRITTEN, true,  false, true, -",
        "ADDED,     absent, WRITTEN, false, false, true, -",
        "HELD,      claimed, SAME, false, false, true,  -",
        "LEFT_OUT,  absent, SAME,  false, false, true,  -",
        "LEFT_OUT,  found,  SAME,  false, false, true,  -",
        "REMOVED,   bound,  SAME,  false, false, true,  -"
    })
    void whatAJudgedRecordMakesARunDo(
            Verdict verdict,
            String stands,
            FieldOutcome outcome,
            boolean adopted,
            boolean binds,
            boolean line,
            String recordState) {
        Becoming becoming = judged(
                        matchResult(stands), decision(verdict, Cause.NONE, field("port", outcome, "Tarva", "Tarva")))
                .becomes(spec(Mode.ADD_OR_UPDATE));
        assertThat(becoming)
                .isEqualTo(new Becoming(
                        adopted,
                        binds,
                        line,
                        recordState.equals("-") ? Optional.empty() : Optional.of(RecordState.valueOf(recordState)),
                        false));
    }

    @Test
    void whoWasThereBeforeTheRouteStaysAsTheyWere() {
        Cause before = Cause.of(CauseKind.THERE_BEFORE);
        assertThat(judged(matchResult("found"), decision(Verdict.LEFT_OUT, before))
                        .becomes(spec(Mode.ADD_OR_UPDATE))
                        .remembered())
                .contains(RecordState.THERE_BEFORE);
        assertThat(judged(
                                matchResult("found"),
                                decision(Verdict.LEFT_OUT, before, field("port", FieldOutcome.HELD, "", "")))
                        .becomes(spec(Mode.ADD_OR_UPDATE))
                        .remembered())
                .as("a value that was held asks for another look")
                .isEmpty();
    }

    @ParameterizedTest
    @CsvSource({
        "MEMBERSHIP,    bound,  true",
        "MEMBERSHIP,    listed, false",
        "MEMBERSHIP,    found,  false",
        "MEMBERSHIP,    absent, false",
        "ADD_OR_UPDATE, bound,  false"
    })
    void onAListANewAddressIsAnotherEntry(Mode mode, String stands, boolean another) {
        Becoming becoming = judged(matchResult(stands), decision(Verdict.UNCHANGED, Cause.NONE))
                .becomes(spec(mode));
        assertThat(becoming.newEntry()).isEqualTo(another);
    }

    @Test
    void withoutAnAddressNobodyMovesOnAList() {
        JudgedRecord one = new JudgedRecord(
                record(shaped(rule("email"), new Shaped.Unusable("no address"), Optional.empty())),
                matchResult("bound"),
                decision(Verdict.UNCHANGED, Cause.NONE),
                INTENDED);
        assertThat(one.becomes(spec(Mode.MEMBERSHIP)).newEntry()).isFalse();
    }

    @ParameterizedTest
    @CsvSource({
        "WAITS,   ALWAYS,              Vik, Tarva, true",
        "WAITS,   NEVER,               Vik, Tarva, true",
        "KEPT,    ALWAYS,              Vik, Tarva, true",
        "KEPT,    IF_NEWER,            Vik, Tarva, true",
        "KEPT,    ONLY_IF_EMPTY_THERE, Vik, Tarva, false",
        "KEPT,    DESTINATION_DECIDES, Vik, Tarva, false",
        "KEPT,    ALWAYS,              Vik, Vik,   false",
        "KEPT,    ALWAYS,              Vik, '',    false",
        "SAME,    ALWAYS,              Vik, Vik,   false",
        "HELD,    ALWAYS,              Vik, Tarva, false"
    })
    void whatIsWithheldIsTold(FieldOutcome outcome, Written written, String old, String fresh, boolean told) {
        JudgedRecord one = new JudgedRecord(
                record(usable(rule("port").written(written), "Tarva")),
                matchResult("bound"),
                decision(Verdict.UNCHANGED, Cause.NONE, field("port", outcome, old, fresh)),
                INTENDED);
        assertThat(one.withholds()).isEqualTo(told);
    }

    @ParameterizedTest
    @CsvSource({
        // outcome, verdict | settled, carried out, by its line, worth explaining
        "SAME,    UNCHANGED, true,  4711, 4711, false",
        "WRITTEN, CHANGED,   true,  4711, 4711, true",
        "WRITTEN, ADDED,     true,  4711, 4711, true",
        "WAITS,   UNCHANGED, true,  0,    0,    false",
        "WAITS,   CHANGED,   true,  0,    0,    true",
        "HELD,    CHANGED,   false, 4711, 0,    true",
        "HELD,    UNCHANGED, false, 4711, 0,    true",
        "SAME,    HELD,      false, 4711, 0,    false",
        "SAME,    REMOVED,   true,  4711, 4711, false"
    })
    void anIntentionCountsAsCarriedOutOnlyWhereNothingIsLeft(
            FieldOutcome outcome, Verdict verdict, boolean settled, long carriedOut, long byLine, boolean worth) {
        JudgedRecord one =
                judged(matchResult("bound"), decision(verdict, Cause.NONE, field("port", outcome, "Tarva", "Tarva")));
        assertThat(one.isSettled()).isEqualTo(settled);
        assertThat(one.carriedOut()).isEqualTo(carriedOut);
        assertThat(one.carriedOutByLine()).isEqualTo(byLine);
        assertThat(one.isWorthExplaining()).isEqualTo(worth);
    }

    @Test
    void aLineTellsOfSameFieldsOnlyWhereNothingGoes() {
        FieldDecision same = field("email", FieldOutcome.SAME, "a@sol.example", "a@sol.example");
        FieldDecision kept = field("port", FieldOutcome.KEPT, "Vik", "Tarva");
        assertThat(judged(matchResult("bound"), decision(Verdict.CHANGED, Cause.NONE, same, kept))
                        .told())
                .containsExactly(kept);
        JudgedRecord still = judged(matchResult("bound"), decision(Verdict.UNCHANGED, Cause.NONE, same, kept));
        assertThat(still.told()).containsExactly(same, kept);
        assertThat(still.same()).isEqualTo(Map.of("email", Value.text("a@sol.example")));
    }

    @Test
    void whenTheDestinationWasReadForIt() {
        Decision any = decision(Verdict.UNCHANGED, Cause.NONE);
        assertThat(judged(matchResult("bound"), any).readAt()).contains(READ);
        assertThat(judged(matchResult("absent"), any).readAt()).contains(READ);
        assertThat(judged(matchResult("claimed"), any).readAt()).isEmpty();
    }

    // --- intended ------------------------------------------------------------------------------------------------

    private static long intention(Map<String, Map<Long, String>> before, ShapedField... fields) {
        return Intention.of(new Fingerprint(), record(fields), before);
    }

    @Test
    void whateverChangesWhatShouldBeThereIsAnotherIntention() {
        ShapedField port = usable(rule("port"), "Tarva");
        List<Long> all = new ArrayList<>(List.of(intention(Map.of(), port)));
        assertThat(intention(Map.of(), usable(rule("port"), "Tarva"))).isEqualTo(all.get(0));
        assertThat(intention(Map.of("name", Map.of(1L, "Passes")), port))
                .as("who comes first in another field")
                .isEqualTo(all.get(0));
        all.add(intention(Map.of(), usable(rule("port"), "Vik")));
        all.add(intention(Map.of(), usable(rule("porta"), "Tarva")));
        all.add(intention(Map.of(), usable(rule("port").written(Written.NEVER), "Tarva")));
        all.add(intention(Map.of(), shaped(rule("port"), new Shaped.Unusable("Tarva"), Optional.empty())));
        all.add(intention(
                Map.of(),
                shaped(rule("port"), new Shaped.Usable(Value.text("Tarva")), Optional.of(FieldConsent.Said.NO))));
        for (IfEmpty choice : List.of(IfEmpty.CLEAR, IfEmpty.DEFAULT)) {
            all.add(intention(
                    Map.of(),
                    new ShapedField(
                            port.rule(),
                            port.field(),
                            port.shaped(),
                            Optional.of(new ShapedField.Emptiness("empty", choice)),
                            Optional.empty(),
                            0,
                            Optional.empty())));
        }
        all.add(intention(Map.of("port", Map.of(1L, "Passes")), port));
        all.add(intention(Map.of("port", Map.of(2L, "Passes")), port));
        all.add(intention(Map.of(), port, usable(rule("email"), "")));
        all.add(intention(Map.of()));
        assertThat(all).doesNotHaveDuplicates();
    }

    // --- left ----------------------------------------------------------------------------------------------------

    private static LeaverFate fate(String stands, String joined, long keyless, Leavers choice, String otherRoute) {
        return fate(stands, joined, keyless, 0, choice, otherRoute);
    }

    private static LeaverFate fate(
            String stands, String joined, long keyless, long unread, Leavers choice, String otherRoute) {
        return LeaverFate.of(
                new LeaverFate.Facts(
                        stands.equals("gone")
                                ? Optional.empty()
                                : Optional.of(MatchResult.Matched.of(
                                        "40001", "", Map.of("port", Value.text("Tarva")), READ, Map.of())),
                        joined.isEmpty() ? Optional.empty() : Optional.of(joined),
                        otherRoute,
                        keyless,
                        unread),
                choice,
                ObjectDescription.of(
                        "contact",
                        "Contact",
                        false,
                        Arrays.asList(usable(rule("port"), "").field())));
    }

    private static Leavers choice(String word) {
        return switch (word) {
            case "stay" -> new Leavers.Stay();
            case "delete" -> new Leavers.Delete();
            case "clear" -> new Leavers.ClearFields(List.of("port"));
            default -> new Leavers.SetFields(List.of(new Leavers.FieldText("port", "Tarva")));
        };
    }

    /** Whatever else is known, what is gone there is gone, and a joined one is never removed unasked. */
    @ParameterizedTest
    @CsvSource({
        "gone,  '',  0, delete, '',     GONE",
        "gone,  K-9, 3, delete, Passes, GONE",
        "there, K-9, 0, delete, '',     HELD joined",
        "there, K-9, 0, stay,   '',     HELD joined",
        "there, '',  0, stay,   '',     NOTHING",
        "there, '',  5, stay,   '',     NOTHING",
        "there, '',  0, delete, '',     GOES REMOVED",
        "there, '',  1, delete, '',     HELD leaver-unclear",
        "there, '',  0, delete, Passes, GOES HELD",
        "there, '',  1, delete, Passes, GOES HELD",
        "there, '',  0, clear,  '',     GOES CHANGED",
        "there, '',  2, clear,  '',     HELD leaver-unclear",
        "there, '',  0, set,    '',     NOTHING",
        "there, '',  2, set,    '',     NOTHING"
    })
    void whatBecomesOfWhoLeft(String stands, String joined, long keyless, String choice, String other, String becomes) {
        LeaverFate fate = fate(stands, joined, keyless, choice(choice), other);
        String told = fate instanceof LeaverFate.GoneThere
                ? "GONE"
                : fate instanceof LeaverFate.Held held
                        ? "HELD " + held.cause().kind().orElseThrow().code()
                        : fate instanceof LeaverFate.Goes goes
                                ? "GOES " + goes.decision().verdict()
                                : fate instanceof LeaverFate.NothingToDo ? "NOTHING" : "no fate";
        assertThat(told).isEqualTo(becomes);
    }

    @Test
    void whyALeaverIsHeldIsToldInWords() {
        assertThat(((LeaverFate.Held) fate("there", "K-9", 0, new Leavers.Delete(), "")).reason())
                .startsWith("Its records became part of K-9, which this route sends as well");
        assertThat(((LeaverFate.Held) fate("there", "", 1, new Leavers.Delete(), "")).reason())
                .contains("1 row has no key");
        assertThat(((LeaverFate.Held) fate("there", "", 2, new Leavers.Delete(), "")).reason())
                .contains("2 rows have no key");
        assertThat(((LeaverFate.Held) fate("there", "", 0, 1, new Leavers.Delete(), "")).reason())
                .contains("1 row of its files is held");
        assertThat(((LeaverFate.Held) fate("there", "", 0, 3, new Leavers.Delete(), "")).reason())
                .contains("3 rows of its files are held");
    }

    /** A row that is held on its way in may be any record that seems to have left. */
    @Test
    void nobodyLeavesWhileRowsOfFilesAreHeld() {
        assertThat(fate("there", "", 0, 1, new Leavers.Delete(), "")).isInstanceOf(LeaverFate.Held.class);
        assertThat(fate("there", "", 0, 1, new Leavers.Stay(), "")).isInstanceOf(LeaverFate.NothingToDo.class);
        assertThat(fate("gone", "", 0, 1, new Leavers.Delete(), "")).isInstanceOf(LeaverFate.GoneThere.class);
        assertThat(fate("there", "", 0, 0, new Leavers.Delete(), "")).isInstanceOf(LeaverFate.Goes.class);
    }

    /** Nothing that is remembered keeps a row from being judged again which something still depends on. */
    @ParameterizedTest
    @EnumSource(Verdict.class)
    void whatIsNotSettledIsNotRemembered(Verdict verdict) {
        Decision held =
                decision(verdict, Cause.of(CauseKind.THERE_BEFORE), field("port", FieldOutcome.HELD, "Vik", "Tarva"));
        for (String stands : List.of("found", "bound", "absent", "claimed")) {
            assertThat(judged(matchResult(stands), held)
                            .becomes(spec(Mode.ADD_OR_UPDATE))
                            .remembered())
                    .isEmpty();
        }
    }
}

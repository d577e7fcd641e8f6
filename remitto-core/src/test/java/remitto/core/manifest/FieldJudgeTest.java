package remitto.core.manifest;

import static org.assertj.core.api.Assertions.assertThat;

import java.time.Instant;
import java.time.LocalDate;
import java.time.LocalTime;
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
import remitto.core.fieldrule.FieldConsent;
import remitto.core.fieldrule.FieldConsent.Said;
import remitto.core.fieldrule.FieldRule;
import remitto.core.fieldrule.IfEmpty;
import remitto.core.fieldrule.IfUnusable;
import remitto.core.fieldrule.Newer;
import remitto.core.fieldrule.OnDrift;
import remitto.core.fieldrule.Receives;
import remitto.core.fieldrule.Timing;
import remitto.core.fieldrule.Written;
import remitto.core.route.ShapedField;
import remitto.core.route.ShapedRecord;
import remitto.core.shaper.Shaped;
import remitto.core.value.Value;

/** One field: what its rule says of consent, time, emptiness and edits made there, word by word. */
class FieldJudgeTest {
    private static final Instant NOW = Instant.parse("2026-11-24T09:30:00Z");
    private static final Instant EARLIER = Instant.parse("2026-11-20T08:15:00Z");
    private static final FieldRule RULE = FieldRule.of("port", new Receives.FromColumn("port"));
    private static final FieldRule AGREED = RULE.consent(new FieldConsent("news", "agreed"));

    private static Field field(boolean required, boolean unique, String... theirs) {
        return new Field(
                "port",
                "Port",
                FieldKind.TEXT,
                required,
                unique,
                false,
                true,
                false,
                OptionalInt.empty(),
                List.of(),
                List.of(theirs));
    }

    private static final Field PLAIN = field(false, false);

    private static Value value(String text) {
        return text.isEmpty() ? Value.EMPTY : Value.text(text);
    }

    private static ShapedField shaped(FieldRule rule, Field field, String text) {
        return new ShapedField(rule, field, new Shaped.Usable(value(text)));
    }

    private static ShapedField said(Field field, String text, Said said) {
        ShapedField plain = shaped(AGREED, field, text);
        return new ShapedField(
                AGREED, field, plain.shaped(), plain.emptiness(), Optional.empty(), 0, Optional.of(said));
    }

    private static MatchResult.Matched there(String live) {
        return there(live, Map.of(), FieldPast.UNKNOWN);
    }

    /** @param known what we wrote last, by field */
    private static MatchResult.Matched there(String live, Map<String, Value> known, FieldPast past) {
        return new MatchResult.Matched(
                "40001", "", Map.of("port", value(live)), NOW, known, Map.of(), Map.of("port", past));
    }

    private static Map<String, Value> known(String text) {
        return Map.of("port", value(text));
    }

    private static FieldPast stamp(Instant at, boolean byUs) {
        return new FieldPast(Optional.empty(), Optional.empty(), Optional.of(new FieldPast.Stamp(at, "Liv", byUs)));
    }

    private static FieldDecision decision(FieldOutcome outcome, String old, String fresh, String reason) {
        return new FieldDecision("port", outcome, value(old), value(fresh), reason);
    }

    /** A stated no takes away what we put there; silence and other people's values are left. */
    @ParameterizedTest
    @CsvSource({
        "YES, Tarva, Brenn, false, WRITTEN, Lysø, overwrites an edit in the destination",
        "NO, Tarva, Tarva, false, WRITTEN, '', no consent to news",
        "NO, Tarva, Tarva, true, KEPT, Lysø, no consent to news",
        "NO, Tarva, Brenn, false, KEPT, Lysø, no consent to news",
        "NO, Tarva, '', false, KEPT, Lysø, no consent to news",
        "NO, '', '', false, KEPT, Lysø, no consent to news",
        "NOTHING, Tarva, Tarva, false, KEPT, Lysø, not asked for consent to news"
    })
    void consentOfAFieldThatIsThere(
            Said said, String live, String ours, boolean required, FieldOutcome outcome, String fresh, String reason) {
        Map<String, Value> known = ours.isEmpty() ? Map.of() : known(ours);
        FieldDecision decided =
                FieldJudge.onUpdate(said(field(required, false), "Lysø", said), there(live, known, FieldPast.UNKNOWN));
        assertThat(decided).isEqualTo(decision(outcome, live, fresh, reason));
    }

    @Test
    void aValueOfOursThatIsEmptyThereIsNotTakenAwayAgain() {
        FieldDecision decided =
                FieldJudge.onUpdate(said(PLAIN, "Lysø", Said.NO), there("", known(""), FieldPast.UNKNOWN));
        assertThat(decided.outcome()).isEqualTo(FieldOutcome.KEPT);
    }

    @ParameterizedTest
    @CsvSource({"YES, WRITTEN, ''", "NO, KEPT, no consent to news", "NOTHING, KEPT, not asked for consent to news"})
    void consentOfANewRecord(Said said, FieldOutcome outcome, String reason) {
        FieldDecision decided = FieldJudge.onAdd(said(PLAIN, "Lysø", said), NOW);
        assertThat(decided).isEqualTo(new FieldDecision("port", outcome, Value.MISSING, Value.text("Lysø"), reason));
    }

    @ParameterizedTest
    @EnumSource(IfUnusable.class)
    void aValueThatCannotBeUsed(IfUnusable choice) {
        ShapedField unusable = new ShapedField(RULE.ifUnusable(choice), PLAIN, new Shaped.Unusable("no such port"));
        FieldOutcome outcome = choice == IfUnusable.LEAVE ? FieldOutcome.KEPT : FieldOutcome.HELD;
        String reason = choice == IfUnusable.LEAVE ? "left unchanged: no such port" : "no such port";
        assertThat(FieldJudge.onUpdate(unusable, there("Tarva")))
                .isEqualTo(new FieldDecision("port", outcome, Value.text("Tarva"), Value.MISSING, reason));
        assertThat(FieldJudge.onAdd(unusable, NOW))
                .isEqualTo(new FieldDecision("port", outcome, Value.MISSING, Value.MISSING, reason));
    }

    @Test
    void aFieldThatIsNeverWrittenIsKept() {
        FieldRule never = RULE.written(Written.NEVER);
        FieldDecision kept = decision(FieldOutcome.KEPT, "Tarva", "Lysø", "never written");
        assertThat(FieldJudge.onUpdate(shaped(never, PLAIN, "Lysø"), there("Tarva")))
                .isEqualTo(kept);
        assertThat(FieldJudge.onAdd(shaped(never, PLAIN, "Lysø"), NOW).outcome())
                .isEqualTo(FieldOutcome.KEPT);
        assertThat(FieldJudge.onAdd(shaped(never, PLAIN, "Lysø"), NOW).reason()).isEqualTo("never written");
        ShapedField unusable = new ShapedField(never, PLAIN, new Shaped.Unusable("no such port"));
        assertThat(FieldJudge.onAdd(unusable, NOW).outcome())
                .as("nothing is held for a field that is never written")
                .isEqualTo(FieldOutcome.KEPT);
    }

    @ParameterizedTest
    @CsvSource({"empty", "blank", "missing"})
    void withoutAValueItIsLeftAsItIsInTheWordThatFits(String word) {
        ShapedField nothing = new ShapedField(
                RULE,
                PLAIN,
                new Shaped.Usable(Value.EMPTY),
                Optional.of(new ShapedField.Emptiness(word, IfEmpty.LEAVE)),
                Optional.empty(),
                0,
                Optional.empty());
        assertThat(FieldJudge.onUpdate(nothing, there("Tarva")))
                .isEqualTo(decision(FieldOutcome.KEPT, "Tarva", "", word + ", left unchanged"));
        assertThat(FieldJudge.onAdd(nothing, NOW).reason()).isEqualTo(word + ", left unchanged");
    }

    @Test
    void clearingEmptiesWhatIsThereAndNothingElse() {
        ShapedField clears = shaped(RULE.ifEmpty(IfEmpty.CLEAR), PLAIN, "");
        assertThat(FieldJudge.onUpdate(clears, there("Tarva")))
                .isEqualTo(decision(FieldOutcome.WRITTEN, "Tarva", "", ""));
        assertThat(FieldJudge.onUpdate(clears, there("")).outcome()).isEqualTo(FieldOutcome.SAME);
        assertThat(FieldJudge.onAdd(clears, NOW).outcome()).isEqualTo(FieldOutcome.KEPT);
    }

    @Test
    void whatIsThePersonsOwnWordThereIsTakenBackByNoRoute() {
        FieldDecision decided = FieldJudge.onUpdate(
                shaped(RULE, field(false, false, "unsubscribed"), "subscribed"), there("unsubscribed"));
        assertThat(decided.outcome()).isEqualTo(FieldOutcome.KEPT);
        assertThat(decided.reason()).contains("\"unsubscribed\" is the person's own choice in the destination");
    }

    @Test
    void whatWasUndoneIsNotWrittenAgainUntilItIsAnother() {
        MatchResult.Matched undone = new MatchResult.Matched(
                "40001", "", Map.of("port", value("Tarva")), NOW, Map.of(), known("Lysø"), Map.of());
        assertThat(FieldJudge.onUpdate(shaped(RULE, PLAIN, "Lysø"), undone).outcome())
                .isEqualTo(FieldOutcome.KEPT);
        assertThat(FieldJudge.onUpdate(shaped(RULE, PLAIN, "Brenn"), undone).outcome())
                .isEqualTo(FieldOutcome.WRITTEN);
    }

    @Test
    void aFieldIsLeftToTheRouteThatComesFirstUntilThatLetsGo() {
        FieldDecision decided =
                FieldJudge.onUpdate(shaped(RULE, PLAIN, "Lysø"), there("Tarva").leftTo(Map.of("port", "Churn score")));
        assertThat(decided.outcome()).isEqualTo(FieldOutcome.KEPT);
        assertThat(decided.reason()).contains("route Churn score has priority for this field");
        assertThat(decided.until()).contains(FieldDecision.OTHER_LETS_GO);
    }

    @ParameterizedTest
    @CsvSource({
        "WHEN_CREATING, '', false, KEPT",
        "WHEN_CREATING, Tarva, true, KEPT",
        "ONLY_IF_EMPTY_THERE, '', false, WRITTEN",
        "ONLY_IF_EMPTY_THERE, Tarva, false, KEPT",
        "DESTINATION_DECIDES, '', false, WRITTEN",
        "DESTINATION_DECIDES, '', true, KEPT",
        "DESTINATION_DECIDES, Tarva, false, KEPT"
    })
    void whoDecides(Written written, String live, boolean known, FieldOutcome outcome) {
        FieldDecision decided = FieldJudge.onUpdate(
                shaped(RULE.written(written), PLAIN, "Lysø"),
                there(live, known ? known("Brenn") : Map.of(), FieldPast.UNKNOWN));
        assertThat(decided.outcome()).isEqualTo(outcome);
    }

    /** An edit there is what differs from what we wrote last; a value that we never wrote is none. */
    @ParameterizedTest
    @CsvSource({
        "OVERWRITE, true, WRITTEN, overwrites an edit in the destination on 20 Nov 08:15 UTC",
        "KEEP_THEIRS, true, KEPT, kept: edited in the destination on 20 Nov 08:15 UTC",
        "HOLD_VALUE, true, HELD, 'port: edited in the destination on 20 Nov 08:15 UTC to \"Tarva\"'",
        "OVERWRITE, false, WRITTEN, ''",
        "KEEP_THEIRS, false, WRITTEN, ''",
        "HOLD_VALUE, false, WRITTEN, ''"
    })
    void anEditThere(OnDrift choice, boolean edited, FieldOutcome outcome, String reason) {
        MatchResult.Matched matchResult =
                there("Tarva", edited ? known("Brenn") : known("Tarva"), stamp(EARLIER, false));
        assertThat(FieldJudge.onUpdate(shaped(RULE.onDrift(choice), PLAIN, "Lysø"), matchResult))
                .isEqualTo(decision(outcome, "Tarva", "Lysø", reason));
        assertThat(FieldJudge.onUpdate(shaped(RULE.onDrift(choice), PLAIN, "Lysø"), there("Tarva"))
                        .outcome())
                .as("never written by us")
                .isEqualTo(FieldOutcome.WRITTEN);
    }

    @Test
    void aStampOfOurOwnIsNoDayOfAnEdit() {
        MatchResult.Matched matchResult = there("Tarva", known("Brenn"), stamp(EARLIER, true));
        assertThat(FieldJudge.onUpdate(shaped(RULE.onDrift(OnDrift.KEEP_THEIRS), PLAIN, "Lysø"), matchResult)
                        .reason())
                .isEqualTo("kept: edited in the destination");
    }

    private static FieldDecision newer(
            Optional<Instant> changed, FieldPast past, Map<String, Value> known, String live, int skew) {
        FieldRule rule = RULE.ifNewer(new Newer("changed_at", skew));
        ShapedField shaped = new ShapedField(
                rule, PLAIN, new Shaped.Usable(value("Lysø")), Optional.empty(), changed, 0, Optional.empty());
        return FieldJudge.onUpdate(shaped, there(live, known, past));
    }

    @Test
    void theNewerValueWinsAndSaysByWhichTimes() {
        FieldPast past = stamp(EARLIER, false);
        assertThat(newer(Optional.of(NOW), past, Map.of(), "Tarva", 0))
                .isEqualTo(decision(
                        FieldOutcome.WRITTEN,
                        "Tarva",
                        "Lysø",
                        "newer, of 24 Nov 09:30 UTC against 20 Nov 08:15 UTC in the destination"));
        assertThat(newer(Optional.of(EARLIER.minusSeconds(60)), past, Map.of(), "Tarva", 0))
                .isEqualTo(decision(
                        FieldOutcome.KEPT,
                        "Tarva",
                        "Lysø",
                        "kept: the destination's value is newer, from 20 Nov 08:15 UTC against 20 Nov 08:14 UTC"));
    }

    @ParameterizedTest
    @CsvSource({"0, 0, KEPT", "1, 0, WRITTEN", "30, 30, KEPT", "31, 30, WRITTEN", "-1, 0, KEPT"})
    void clocksMayDifferBySoMuch(int seconds, int skew, FieldOutcome outcome) {
        assertThat(newer(Optional.of(EARLIER.plusSeconds(seconds)), stamp(EARLIER, false), Map.of(), "Tarva", skew)
                        .outcome())
                .isEqualTo(outcome);
    }

    @Test
    void whoseTimeIsNotKnownDoesNotWin() {
        assertThat(newer(Optional.of(NOW), FieldPast.UNKNOWN, Map.of(), "Tarva", 0)
                        .reason())
                .isEqualTo("kept: unknown when the destination's value appeared");
        assertThat(newer(Optional.empty(), stamp(EARLIER, false), Map.of(), "Tarva", 0)
                        .reason())
                .isEqualTo("kept: unknown when the source's value appeared");
    }

    @Test
    void whatWeWroteBeforeTheEditIsOlderThanTheEdit() {
        FieldDecision decided = newer(Optional.of(NOW), stamp(EARLIER, false), known("Lysø"), "Tarva", 0);
        assertThat(decided.reason())
                .isEqualTo("kept: edited in the destination on 20 Nov 08:15 UTC, after this value was written");
    }

    @Test
    void timesAreAskedOnlyWhereSomebodyElsesValueIsThere() {
        assertThat(newer(Optional.empty(), FieldPast.UNKNOWN, known("Tarva"), "Tarva", 0)
                        .outcome())
                .as("ours, not edited")
                .isEqualTo(FieldOutcome.WRITTEN);
        assertThat(newer(Optional.empty(), FieldPast.UNKNOWN, Map.of(), "", 0).outcome())
                .as("nothing there")
                .isEqualTo(FieldOutcome.WRITTEN);
    }

    private static FieldRule timed(Timing timing) {
        return RULE.timing(timing);
    }

    private static Timing between(LocalDate from, LocalDate until) {
        return new Timing(0, Optional.empty(), Optional.of(from), Optional.of(until), "Europe/Oslo", "");
    }

    @Test
    void whatIsNotToBeWrittenYetWaitsUntilThen() {
        FieldRule later = timed(between(LocalDate.parse("2026-12-01"), LocalDate.parse("2026-12-31")));
        for (FieldDecision decided : List.of(
                FieldJudge.onUpdate(shaped(later, PLAIN, "Lysø"), there("Tarva")),
                FieldJudge.onAdd(shaped(later, PLAIN, "Lysø"), NOW))) {
            assertThat(decided.outcome()).isEqualTo(FieldOutcome.WAITS);
            assertThat(decided.fresh()).isEqualTo(value("Lysø"));
            assertThat(decided.reason()).isEqualTo("waits: not written before 1 Dec 2026");
            assertThat(decided.until()).contains(Instant.parse("2026-11-30T23:00:00Z"));
        }
        FieldRule over = timed(between(LocalDate.parse("2026-10-01"), LocalDate.parse("2026-10-31")));
        assertThat(FieldJudge.onUpdate(shaped(over, PLAIN, "Lysø"), there("Tarva")))
                .isEqualTo(decision(FieldOutcome.KEPT, "Tarva", "Lysø", "not written after 31 Oct 2026"));
        FieldRule now = timed(between(LocalDate.parse("2026-11-01"), LocalDate.parse("2026-11-30")));
        assertThat(FieldJudge.onUpdate(shaped(now, PLAIN, "Lysø"), there("Tarva"))
                        .outcome())
                .isEqualTo(FieldOutcome.WRITTEN);
    }

    /** A record cannot be made without what it must have. */
    @ParameterizedTest
    @CsvSource({"true, false, WRITTEN", "false, true, WRITTEN", "false, false, WAITS"})
    void noTimingHoldsBackWhatANewRecordMustHave(boolean required, boolean unique, FieldOutcome outcome) {
        FieldRule later = timed(between(LocalDate.parse("2026-12-01"), LocalDate.parse("2026-12-31")));
        assertThat(FieldJudge.onAdd(shaped(later, field(required, unique), "Lysø"), NOW)
                        .outcome())
                .isEqualTo(outcome);
    }

    @Test
    void theMarkOfTheColumnGoesWithWhatIsWrittenOrSame() {
        Timing onlyWith = new Timing(0, Optional.empty(), Optional.empty(), Optional.empty(), "UTC", "tier");
        ShapedField shaped = new ShapedField(
                timed(onlyWith),
                PLAIN,
                new Shaped.Usable(value("Lysø")),
                Optional.empty(),
                Optional.empty(),
                77,
                Optional.empty());
        FieldPast before = new FieldPast(Optional.of(EARLIER), Optional.of(76L), Optional.empty());
        FieldPast sameMark = new FieldPast(Optional.of(EARLIER), Optional.of(77L), Optional.empty());
        assertThat(FieldJudge.onUpdate(shaped, there("Tarva", known("Tarva"), before))
                        .mark())
                .isEqualTo(77);
        assertThat(FieldJudge.onUpdate(shaped, there("Lysø", known("Lysø"), before))
                        .mark())
                .isEqualTo(77);
        FieldDecision waits = FieldJudge.onUpdate(shaped, there("Tarva", known("Tarva"), sameMark));
        assertThat(waits.outcome()).isEqualTo(FieldOutcome.WAITS);
        assertThat(waits.until()).isEmpty();
    }

    @Test
    void theTimeOfDayIsTheZones() {
        Timing nights = new Timing(
                0,
                Optional.of(new Timing.DailyWindow(LocalTime.of(10, 0), LocalTime.of(11, 0))),
                Optional.empty(),
                Optional.empty(),
                "Europe/Oslo",
                "");
        assertThat(FieldJudge.onUpdate(shaped(timed(nights), PLAIN, "Lysø"), there("Tarva"))
                        .outcome())
                .as("09:30 UTC is 10:30 in Oslo")
                .isEqualTo(FieldOutcome.WRITTEN);
    }

    @Test
    void aDecisionTellsWhatItHoldsAndWhenItLooksAgain() {
        FieldDecision held = decision(FieldOutcome.HELD, "Tarva", "Lysø", "edited there");
        FieldDecision waits =
                decision(FieldOutcome.WAITS, "Tarva", "Lysø", "waits").until(NOW);
        FieldDecision sooner =
                decision(FieldOutcome.WAITS, "Tarva", "Lysø", "waits").until(EARLIER);
        FieldDecision written = decision(FieldOutcome.WRITTEN, "Tarva", "Lysø", "");
        Decision changed = new Decision(
                Verdict.CHANGED, Cause.NONE, "", Optional.of("40001"), List.of(waits, held, sooner, written));
        assertThat(changed.holdsAnyValue()).isTrue();
        assertThat(changed.recheckAt()).contains(EARLIER);
        assertThat(changed.written()).containsExactly(written);
        Decision plain = new Decision(Verdict.CHANGED, Cause.NONE, "", Optional.of("40001"), List.of(written));
        assertThat(plain.holdsAnyValue()).isFalse();
        assertThat(plain.recheckAt()).isEmpty();
    }

    @ParameterizedTest
    @CsvSource({"ADDED, LEFT_OUT", "CHANGED, LEFT_OUT", "REMOVED, REMOVED", "HELD, HELD", "UNCHANGED, UNCHANGED"})
    void inQuietHoursNothingIsSentAndEverythingElseStays(Verdict verdict, Verdict quiet) {
        Decision decision = new Decision(
                verdict,
                Cause.NONE,
                "",
                Optional.of("40001"),
                List.of(decision(FieldOutcome.WRITTEN, "Tarva", "Lysø", "")));
        Decision then = decision.quiet("It is night there");
        assertThat(then.verdict()).isEqualTo(quiet);
        if (verdict == quiet) {
            assertThat(then).isEqualTo(decision);
        } else {
            assertThat(then)
                    .isEqualTo(new Decision(
                            Verdict.LEFT_OUT,
                            Cause.of(CauseKind.QUIET),
                            "It is night there",
                            Optional.of("40001"),
                            List.of()));
        }
    }

    @Test
    void aRecordThatIsRefusedKeepsItsFieldsAndSaysNo() {
        ShapedRecord record = new ShapedRecord("1", "Liv", "", false, List.of(shaped(RULE, PLAIN, "Lysø")));
        ShapedRecord refused = record.refused("on the suppression list");
        assertThat(refused).isEqualTo(new ShapedRecord("1", "Liv", "on the suppression list", true, record.fields()));
    }
}

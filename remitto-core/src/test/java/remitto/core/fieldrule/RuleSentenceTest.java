package remitto.core.fieldrule;

import static org.assertj.core.api.Assertions.assertThat;

import java.time.LocalDate;
import java.time.LocalTime;
import java.util.List;
import java.util.Optional;
import java.util.stream.Stream;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.Arguments;
import org.junit.jupiter.params.provider.CsvSource;
import org.junit.jupiter.params.provider.EnumSource;
import org.junit.jupiter.params.provider.MethodSource;
import remitto.core.fieldrule.DatasetLookUp.Comparison;
import remitto.core.fieldrule.DatasetLookUp.Condition;
import remitto.core.fieldrule.DatasetLookUp.Hop;
import remitto.core.fieldrule.DatasetLookUp.Pick;
import remitto.core.fieldrule.DatasetLookUp.RowPart;
import remitto.core.fieldrule.Receives.IfMany;
import remitto.core.shaper.LowerCase;
import remitto.core.shaper.Trim;

/** A rule says all that it does, and nothing that it does not. */
class RuleSentenceTest {
    private static final RuleSentence SENTENCE = new RuleSentence(id -> "R" + id, id -> "D" + id, id -> "C" + id);
    private static final String REST = "; written whenever it differs. If empty, it is left as it is."
            + " A value that does not fit is held. Edits made in the destination are overwritten.";

    private static FieldRule rule(Receives receives) {
        return FieldRule.of("town", receives);
    }

    private static FieldRule plain() {
        return rule(new Receives.FromColumn("home"));
    }

    private static Receives found(
            List<Hop> hops, List<RowPart> parts, List<Condition> only, Optional<Pick> pick, IfMany many) {
        return new Receives.FromDataset(
                new DatasetLookUp(7, "no", hops, parts.isEmpty() ? "line" : "", parts, only, pick),
                "customer_no",
                many);
    }

    static Stream<Arguments> ways() {
        return Stream.of(
                Arguments.of(new Receives.FromColumn("home"), "the column home"),
                Arguments.of(new Receives.Fixed("x"), "always \"x\""),
                Arguments.of(new Receives.Computed("a + b"), "what a + b gives"),
                Arguments.of(new Receives.RecordOf(3, "vat"), "the id of the record that the route R3 bound to vat"),
                Arguments.of(
                        new Receives.RecordsOf(3, "vats", ";"),
                        "the ids of all records that the route R3 bound to the keys in vats"),
                Arguments.of(
                        new Receives.FoundThere("company", "vat", "vat_no", IfMany.UNUSABLE),
                        "the id of the company in the destination whose vat is vat_no, looked up again every day"),
                Arguments.of(
                        new Receives.FoundThere("company", "vat", "vat_no", IfMany.FIRST),
                        "the id of the company in the destination whose vat is vat_no, the first of many, looked up again every day"),
                Arguments.of(
                        found(List.of(), List.of(), List.of(), Optional.empty(), IfMany.LIST),
                        "line of D7 where no is customer_no, all of many"),
                Arguments.of(
                        found(
                                List.of(new Hop("trip", 8, "trip_no"), new Hop("port", 9, "code")),
                                List.of(),
                                List.of(),
                                Optional.empty(),
                                IfMany.UNUSABLE),
                        "line of D9, starting from D7 where no is customer_no"),
                Arguments.of(
                        found(
                                List.of(),
                                List.of(new RowPart("at", "day"), new RowPart("line", "line")),
                                List.of(
                                        new Condition("currency", Comparison.IS, "NOK"),
                                        new Condition("amount", Comparison.MORE_THAN, "5")),
                                Optional.of(new Pick("at", true, 90, 3)),
                                IfMany.LIST),
                        "at as day, line of D7 with currency is NOK and amount more than 5, last 3 by at within 90 days"
                                + " where no is customer_no, all of many"),
                Arguments.of(
                        found(List.of(), List.of(), List.of(), Optional.of(new Pick("at", false, 0)), IfMany.FIRST),
                        "line of D7, first by at where no is customer_no, the first of many"));
    }

    @ParameterizedTest
    @MethodSource("ways")
    void whereAValueComesFrom(Receives receives, String words) {
        assertThat(SENTENCE.of(rule(receives))).isEqualTo("town receives " + words + REST);
    }

    @Test
    void whatIsDoneToItOnTheWay() {
        assertThat(SENTENCE.of(FieldRule.of("town", new Receives.FromColumn("home"), new Trim(), new LowerCase())))
                .startsWith("town receives the column home, then " + new Trim().title() + ", " + new LowerCase().title()
                        + "; written");
    }

    @ParameterizedTest
    @CsvSource(
            delimiter = '|',
            value = {
                "ALWAYS | written whenever it differs",
                "WHEN_CREATING | written only when the record is created",
                "ONLY_IF_EMPTY_THERE | written only while the field is empty in the destination",
                "IF_NEWER | written over another value only if it is newer",
                "DESTINATION_DECIDES | written once into an empty field, after which the destination decides",
                "NEVER | never written"
            })
    void whenItIsWritten(Written written, String words) {
        String said = SENTENCE.of(plain().written(written));
        assertThat(said).startsWith("town receives the column home; " + words + ". If empty");
        assertThat(said.contains("Edits made in the destination")).isEqualTo(written == Written.ALWAYS);
    }

    @Test
    void whatMakesAValueNewer() {
        FieldRule newer = plain().written(Written.IF_NEWER);
        assertThat(SENTENCE.of(newer.ifNewer(new Newer("updated_at", 0)))).contains("newer (by updated_at). ");
        assertThat(SENTENCE.of(newer.ifNewer(new Newer("updated_at", 30))))
                .contains("newer (by updated_at, clocks may differ by 30 s). ");
    }

    @ParameterizedTest
    @CsvSource(
            delimiter = '|',
            value = {
                "LEAVE | it is left as it is",
                "CLEAR | it is cleared",
                "DEFAULT | it becomes \"none\"",
                "HOLD_RECORD | the record is held"
            })
    void whatHappensWhereThereIsNothing(IfEmpty choice, String words) {
        FieldRule rule = plain().orDefault("none").ifEmpty(choice);
        assertThat(SENTENCE.of(rule)).contains(". If empty, " + words + ". A value");
        assertThat(SENTENCE.of(rule.ifBlank(IfEmpty.CLEAR).ifMissing(IfEmpty.LEAVE)))
                .contains(". If empty, " + words
                        + "; if blank, it is cleared; if nothing is found, it is left as it is. A value");
    }

    @ParameterizedTest
    @CsvSource(
            delimiter = '|',
            value = {
                "HOLD_VALUE | A value that does not fit is held.",
                "HOLD_RECORD | A value that does not fit holds the record.",
                "LEAVE | A value that does not fit is passed over."
            })
    void whatHappensToAValueThatDoesNotFit(IfUnusable choice, String words) {
        assertThat(SENTENCE.of(plain().ifUnusable(choice))).contains(words);
    }

    @ParameterizedTest
    @CsvSource(
            delimiter = '|',
            value = {
                "OVERWRITE | Edits made in the destination are overwritten.",
                "KEEP_THEIRS | Edits made in the destination are kept.",
                "HOLD_VALUE | Edits made in the destination hold the value."
            })
    void whatHappensToEditsThere(OnDrift choice, String words) {
        assertThat(SENTENCE.of(plain().onDrift(choice))).endsWith(" " + words);
    }

    @Test
    void consentAndTimesStandBehindWhenItIsWritten() {
        Timing timing = new Timing(
                48,
                Optional.of(new Timing.DailyWindow(LocalTime.of(8, 0), LocalTime.of(12, 0))),
                Optional.of(LocalDate.of(2026, 12, 1)),
                Optional.of(LocalDate.of(2026, 12, 24)),
                "Europe/Oslo",
                "updated_at");
        String said = SENTENCE.of(plain().timing(timing).consent(new FieldConsent("the newsletter", "agreed")));
        assertThat(said)
                .contains(
                        "written whenever it differs, at most every 2 days, only between 08:00 and 12:00 (Europe/Oslo), not before ")
                .contains(", only when updated_at changes, only with consent to the newsletter (agreed). If empty");
    }

    @ParameterizedTest
    @CsvSource({"1, hourly", "5, every 5 hours", "24, daily", "72, every 3 days", "25, every 25 hours"})
    void howOftenAtMost(int hours, String words) {
        Timing timing = new Timing(hours, Optional.empty(), Optional.empty(), Optional.empty(), "UTC", "");
        assertThat(timing.sentence()).isEqualTo(", at most " + words);
    }

    @ParameterizedTest
    @EnumSource(Written.class)
    void whoDecidesIsTheDirection(Written written) {
        for (OnDrift drift : OnDrift.values()) {
            Direction expected =
                    switch (written) {
                        case ALWAYS ->
                            switch (drift) {
                                case OVERWRITE -> Direction.SOURCE;
                                case HOLD_VALUE -> Direction.HOLD_ON_CONFLICT;
                                case KEEP_THEIRS -> Direction.MIXED;
                            };
                        case IF_NEWER -> Direction.NEWEST;
                        case DESTINATION_DECIDES, NEVER -> Direction.DESTINATION;
                        case WHEN_CREATING, ONLY_IF_EMPTY_THERE -> Direction.MIXED;
                    };
            assertThat(plain().written(written).onDrift(drift).direction()).isEqualTo(expected);
        }
    }

    @Test
    void theColumnThatDecides() {
        assertThat(new Receives.FromColumn("a").readColumn()).contains("a");
        assertThat(new Receives.RecordOf(1, "b").readColumn()).contains("b");
        assertThat(new Receives.RecordsOf(1, "c", ",").readColumn()).contains("c");
        assertThat(new Receives.FromDataset(DatasetLookUp.of(1, "x", "y"), "d", IfMany.FIRST).readColumn())
                .contains("d");
        assertThat(new Receives.FoundThere("o", "x", "e", IfMany.FIRST).readColumn())
                .contains("e");
        assertThat(new Receives.Fixed("f").readColumn()).isEmpty();
        assertThat(new Receives.Computed("g").readColumn()).isEmpty();
    }

    @Test
    void aWayNamesEveryDatasetOnIt() {
        DatasetLookUp alone = DatasetLookUp.of(1, "x", "y");
        assertThat(alone.last()).isEqualTo(1);
        assertThat(alone.datasets()).containsExactly(1L);
        assertThat(alone.given()).containsExactly("y");
        assertThat(alone.most()).isZero();
        DatasetLookUp far = new DatasetLookUp(
                1,
                "x",
                List.of(new Hop("a", 2, "b"), new Hop("c", 3, "d")),
                "",
                List.of(new RowPart("p", "n"), new RowPart("q", "n")),
                List.of(),
                Optional.of(new Pick("at", true, 0, 9)));
        assertThat(far.last()).isEqualTo(3);
        assertThat(far.datasets()).containsExactly(1L, 2L, 3L);
        assertThat(far.given()).containsExactly("p", "q");
        assertThat(far.names()).containsExactly("n");
        assertThat(far.most()).isEqualTo(9);
        assertThat(Stream.of(Comparison.values()).map(Comparison::sign)).containsExactly("=", "<>", ">", "<");
    }
}

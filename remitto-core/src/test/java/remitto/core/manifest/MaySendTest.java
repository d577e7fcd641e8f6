package remitto.core.manifest;

import static org.assertj.core.api.Assertions.assertThat;

import java.util.List;
import java.util.Optional;
import java.util.OptionalInt;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;
import remitto.core.destination.Field;
import remitto.core.destination.FieldKind;
import remitto.core.fieldrule.FieldConsent;
import remitto.core.fieldrule.FieldRule;
import remitto.core.fieldrule.Receives;
import remitto.core.guard.Guards;
import remitto.core.route.Basis;
import remitto.core.route.Mode;
import remitto.core.route.RouteSpec;
import remitto.core.route.ShapedField;
import remitto.core.route.ShapedRecord;
import remitto.core.shaper.Shaped;
import remitto.core.timetable.Schedule;
import remitto.core.value.Value;

/** Who may be sent what: one table for whoever prepares, sends, or takes back. */
class MaySendTest {
    private static final FieldConsent NEEDED = new FieldConsent("text messages", "agreed");
    private static final FieldRule MOBILE =
            FieldRule.of("mobile", new Receives.FromColumn("phone")).consent(NEEDED);
    private static final FieldRule PORT = FieldRule.of("port", new Receives.FromColumn("port"));

    private static RouteSpec spec(Basis basis, FieldRule... rules) {
        return RouteSpec.of(
                Mode.ADD_OR_UPDATE, List.of("ref"), List.of(rules), basis, Guards.none(), new Schedule.ByHand("UTC"));
    }

    private static ShapedField shaped(FieldRule rule, Optional<FieldConsent.Said> said) {
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
        return new ShapedField(
                rule, field, new Shaped.Usable(Value.text("x")), Optional.empty(), Optional.empty(), 0, said);
    }

    private static ShapedRecord record(String leftOut, Optional<FieldConsent.Said> said) {
        return new ShapedRecord("1", "", leftOut, false, List.of(shaped(MOBILE, said), shaped(PORT, Optional.empty())));
    }

    private static Optional<FieldConsent.Said> said(String word) {
        return word.isEmpty() ? Optional.empty() : Optional.of(FieldConsent.Said.valueOf(word));
    }

    /** @param outcome and the new value, such as WRITTEN or CLEARED or SAME */
    private static FieldDecision line(String field, String outcome) {
        return switch (outcome) {
            case "CLEARED" -> new FieldDecision(field, FieldOutcome.WRITTEN, Value.text("old"), Value.EMPTY, "");
            case "WRITTEN" -> new FieldDecision(field, FieldOutcome.WRITTEN, Value.EMPTY, Value.text("new"), "");
            default -> new FieldDecision(field, FieldOutcome.valueOf(outcome), Value.text("a"), Value.text("a"), "");
        };
    }

    @ParameterizedTest
    @CsvSource(
            delimiter = '|',
            value = {
                // what they said to the field's purpose | what the line does with the field | why it may not go
                "YES     | WRITTEN | ''",
                "NO      | WRITTEN | No consent to what mobile receives",
                "NOTHING | WRITTEN | No consent to what mobile receives",
                "''      | WRITTEN | ''",
                "NO      | CLEARED | ''",
                "NOTHING | CLEARED | ''",
                "NO      | SAME    | ''",
                "NO      | KEPT    | ''",
                "NO      | HELD    | ''"
            })
    void aValueThatNeedsConsentGoesToWhoGaveIt(String word, String outcome, String why) {
        assertThat(MaySend.against(List.of(line("mobile", outcome), line("port", "WRITTEN")), record("", said(word)))
                        .orElse(""))
                .isEqualTo(why);
    }

    @ParameterizedTest
    @CsvSource({"WRITTEN", "CLEARED", "SAME"})
    void whoMayNotBeSentToAtAllGetsNothing(String outcome) {
        assertThat(MaySend.against(List.of(line("port", outcome)), record("On the suppression list", said("YES"))))
                .contains("On the suppression list");
    }

    @ParameterizedTest
    @CsvSource({
        "YES, '', false",
        "NO, '', true",
        "NOTHING, '', true",
        "'', '', false",
        "YES, Said no, true",
        "'', Said no, true"
    })
    void aRecordOfWhichAnythingMayNotGoIsFound(String word, String leftOut, boolean forbids) {
        assertThat(MaySend.forbidsAnything(record(leftOut, said(word)))).isEqualTo(forbids);
    }

    @Test
    void whereConsentDecidesNobodyCanSayItOfWhoIsGone() {
        List<FieldDecision> mobile = List.of(line("mobile", "WRITTEN"));
        Basis none = new Basis.NotStated();
        assertThat(MaySend.againstAbsent(mobile, spec(new Basis.Consent("letters", "agreed"), PORT)))
                .contains("No longer in the dataset, so consent is unknown for letters");
        assertThat(MaySend.againstAbsent(mobile, spec(none, PORT, MOBILE)))
                .contains("No longer in the dataset, so consent is unknown for text messages");
        assertThat(MaySend.againstAbsent(List.of(line("port", "WRITTEN")), spec(none, PORT, MOBILE)))
                .as("the line writes nothing that needs it")
                .isEmpty();
        assertThat(MaySend.againstAbsent(List.of(line("mobile", "CLEARED")), spec(none, PORT, MOBILE)))
                .as("to clear tells nobody anything")
                .isEmpty();
        assertThat(MaySend.againstAbsent(mobile, spec(new Basis.Stated("a contract"), PORT)))
                .isEmpty();
    }

    @Test
    void whetherARouteAsksForConsentAtAll() {
        Basis none = new Basis.NotStated();
        assertThat(MaySend.asksConsent(spec(none, PORT))).isFalse();
        assertThat(MaySend.asksConsent(spec(new Basis.Stated("a contract"), PORT)))
                .isFalse();
        assertThat(MaySend.asksConsent(spec(none, PORT, MOBILE))).isTrue();
        assertThat(MaySend.asksConsent(spec(new Basis.Consent("letters", "agreed"), PORT)))
                .isTrue();
    }

    @ParameterizedTest
    @CsvSource({
        // what they said, what the line does, whether that carries a no out: by the record, and by the line alone
        "NO, CLEARED, true, true",
        "NO, WRITTEN, true, false",
        "NO, SAME, false, false",
        "YES, CLEARED, false, true",
        "NOTHING, CLEARED, false, true",
        "'', CLEARED, false, true"
    })
    void aNoThatIsCarriedOutPassesEveryOtherControl(String word, String outcome, boolean byRecord, boolean byLine) {
        List<FieldDecision> fields = List.of(line("mobile", outcome));
        assertThat(MaySend.takesBack(record("", said(word)), fields)).isEqualTo(byRecord);
        assertThat(MaySend.takesBack(spec(new Basis.NotStated(), PORT, MOBILE), fields))
                .isEqualTo(byLine);
        assertThat(MaySend.takesBack(spec(new Basis.NotStated(), PORT, MOBILE), List.of(line("port", "CLEARED"))))
                .as("a field that needs no consent")
                .isFalse();
    }
}

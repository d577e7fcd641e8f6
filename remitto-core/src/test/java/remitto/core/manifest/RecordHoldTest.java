package remitto.core.manifest;

import static org.assertj.core.api.Assertions.assertThat;

import java.time.Instant;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.OptionalInt;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;
import remitto.core.cause.Cause;
import remitto.core.cause.CauseKind;
import remitto.core.destination.Field;
import remitto.core.destination.FieldKind;
import remitto.core.fieldrule.FieldRule;
import remitto.core.fieldrule.IfEmpty;
import remitto.core.fieldrule.IfUnusable;
import remitto.core.fieldrule.Receives;
import remitto.core.fieldrule.Written;
import remitto.core.guard.Guards;
import remitto.core.route.Basis;
import remitto.core.route.FirstRun;
import remitto.core.route.Leavers;
import remitto.core.route.Mode;
import remitto.core.route.RouteSpec;
import remitto.core.route.ShapedField;
import remitto.core.route.ShapedRecord;
import remitto.core.shaper.Shaped;
import remitto.core.timetable.Schedule;
import remitto.core.value.Value;

/** When one field holds the whole record: the key always, what a new record must have, and what the rule says. */
class RecordHoldTest {
    private static final Instant NOW = Instant.parse("2026-11-24T09:00:00Z");
    private static final MatchResult ABSENT = new MatchResult.Unmatched(NOW);

    private static MatchResult there() {
        return MatchResult.Matched.of("40001", "", Map.of("port", Value.text("Tarva")), NOW, Map.of());
    }

    private static Field field(boolean required) {
        return new Field(
                "port", "Port", FieldKind.TEXT, required, false, false, true, false, OptionalInt.empty(), List.of());
    }

    private static Decision judge(
            FieldRule rule, boolean key, boolean required, Shaped value, MatchResult matchResult) {
        RouteSpec spec = RouteSpec.of(
                        Mode.ADD_OR_UPDATE,
                        List.of(key ? "port" : "ref"),
                        List.of(rule),
                        new Basis.NotStated(),
                        Guards.defaults(),
                        new Schedule.ByHand("UTC"))
                .leavers(new Leavers.Stay())
                .firstRun(FirstRun.AlreadyThere.ADOPT, FirstRun.OlderRows.SEND);
        ShapedField shaped =
                value instanceof Shaped.Usable usable && usable.value().isEmpty()
                        ? new ShapedField(
                                rule,
                                field(required),
                                value,
                                Optional.of(new ShapedField.Emptiness("blank", rule.ifEmpty())),
                                Optional.empty(),
                                0,
                                Optional.empty())
                        : new ShapedField(rule, field(required), value);
        return Judge.judge(spec, new ShapedRecord("1", "", "", false, List.of(shaped)), matchResult);
    }

    private static final FieldRule RULE = FieldRule.of("port", new Receives.FromColumn("port"));

    @ParameterizedTest
    @CsvSource({
        "absent, true, false, HOLD_VALUE, HELD",
        "there, true, false, HOLD_VALUE, HELD",
        "absent, false, true, HOLD_VALUE, HELD",
        "absent, false, true, LEAVE, HELD",
        "absent, false, false, HOLD_VALUE, ADDED",
        "absent, false, false, HOLD_RECORD, HELD",
        "there, false, true, LEAVE, UNCHANGED",
        "there, false, false, HOLD_RECORD, HELD",
        "there, false, false, LEAVE, UNCHANGED"
    })
    void aValueThatCannotBeUsed(String where, boolean key, boolean required, IfUnusable choice, Verdict verdict) {
        MatchResult matchResult = where.equals("there") ? there() : ABSENT;
        Decision decision =
                judge(RULE.ifUnusable(choice), key, required, new Shaped.Unusable("no such port"), matchResult);
        assertThat(decision.verdict()).isEqualTo(verdict);
        if (verdict == Verdict.HELD) {
            assertThat(decision.cause()).isEqualTo(Cause.about(CauseKind.UNUSABLE, "port"));
            assertThat(decision.reason()).isEqualTo("no such port");
            assertThat(decision.remoteId().isPresent()).isEqualTo(where.equals("there"));
        }
    }

    @ParameterizedTest
    @CsvSource({
        "absent, true, false, LEAVE, HELD, port is blank and is the key field",
        "there, true, false, LEAVE, HELD, port is blank and is the key field",
        "absent, false, true, LEAVE, HELD, port is blank and is required in the destination",
        "there, false, true, LEAVE, UNCHANGED, ''",
        "absent, false, false, LEAVE, ADDED, ''",
        "absent, false, false, HOLD_RECORD, HELD, port is blank",
        "there, false, false, HOLD_RECORD, HELD, port is blank"
    })
    void noValue(String where, boolean key, boolean required, IfEmpty choice, Verdict verdict, String reason) {
        MatchResult matchResult = where.equals("there") ? there() : ABSENT;
        Decision decision = judge(RULE.ifEmpty(choice), key, required, new Shaped.Usable(Value.EMPTY), matchResult);
        assertThat(decision.verdict()).isEqualTo(verdict);
        assertThat(decision.reason()).isEqualTo(reason);
        if (verdict == Verdict.HELD) {
            assertThat(decision.cause()).isEqualTo(Cause.about(CauseKind.EMPTY, "port"));
        }
    }

    @ParameterizedTest
    @CsvSource({"absent", "there"})
    void aFieldThatIsNeverWrittenHoldsNothing(String where) {
        MatchResult matchResult = where.equals("there") ? there() : ABSENT;
        Decision decision =
                judge(RULE.written(Written.NEVER), false, true, new Shaped.Unusable("no such port"), matchResult);
        assertThat(decision.verdict()).isNotEqualTo(Verdict.HELD);
    }

    /** Nothing else changes, so the record waits for the value; its line says which. */
    @ParameterizedTest
    @CsvSource({"HOLD_VALUE"})
    void aHeldValueAloneHoldsARecordThatIsThere(IfUnusable choice) {
        Decision decision = judge(RULE.ifUnusable(choice), false, false, new Shaped.Unusable("no such port"), there());
        assertThat(decision)
                .extracting(Decision::verdict, Decision::cause, Decision::reason)
                .containsExactly(Verdict.HELD, Cause.of(CauseKind.ONLY_HELD_VALUES), "no such port");
        assertThat(decision.fields()).hasSize(1);
    }
}

package remitto.core.manifest;

import static org.assertj.core.api.Assertions.assertThat;

import java.time.Instant;
import java.util.ArrayList;
import java.util.HashSet;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.OptionalInt;
import java.util.Set;
import java.util.stream.Stream;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.Arguments;
import org.junit.jupiter.params.provider.MethodSource;
import remitto.core.destination.Field;
import remitto.core.destination.FieldKind;
import remitto.core.fieldrule.FieldRule;
import remitto.core.fieldrule.IfEmpty;
import remitto.core.fieldrule.Newer;
import remitto.core.fieldrule.OnDrift;
import remitto.core.fieldrule.Receives;
import remitto.core.fieldrule.Written;
import remitto.core.route.ShapedField;
import remitto.core.shaper.Shaped;
import remitto.core.value.Value;

/**
 * The whole table of written x if empty x drift: what becomes of a field in every situation there, one named row each.
 * In the tables W stands for written, K for kept, H for held, S for the same.
 */
class FieldDecisionTableTest {
    private static final Instant NOW = Instant.parse("2026-11-25T10:00:00Z");
    private static final Instant EDITED = Instant.parse("2026-11-03T09:00:00Z");
    private static final Instant BEFORE_EDIT = EDITED.minusSeconds(3600);
    private static final Instant AFTER_EDIT = EDITED.plusSeconds(3600);
    private static final Field FIELD =
            new Field("port", "Port", FieldKind.TEXT, false, false, false, true, false, OptionalInt.empty(), List.of());

    /** What is there, what we last wrote, and when each side's value appeared. */
    private enum There {
        /** Never written by us, empty there. */
        NEVER_FILLED(Optional.empty(), ""),
        /** Never written by us; somebody filled it. */
        FILLED_BY_OTHERS(Optional.empty(), "Theirs"),
        /** As we wrote it. */
        AS_WRITTEN(Optional.of("Older"), "Older"),
        /** We wrote it, somebody changed it. */
        EDITED_THERE(Optional.of("Older"), "Theirs"),
        /** We wrote it, somebody emptied it. */
        EMPTIED_THERE(Optional.of("Older"), ""),
        /** It holds the very value already. */
        HOLDS_IT(Optional.of("Older"), "Ours");

        private final Optional<String> known;
        private final String live;

        There(Optional<String> known, String live) {
            this.known = known;
            this.live = live;
        }

        MatchResult.Matched matchResult() {
            Value value = live.isEmpty() ? Value.EMPTY : Value.text(live);
            return new MatchResult.Matched(
                    "1",
                    "",
                    Map.of("port", value),
                    NOW,
                    known.map(text -> Map.of("port", Value.text(text))).orElse(Map.of()),
                    Map.of(),
                    Map.of(
                            "port",
                            new FieldPast(
                                    Optional.empty(),
                                    Optional.empty(),
                                    Optional.of(new FieldPast.Stamp(EDITED, "desk:Runa", false)))));
        }
    }

    /** With a value; a column a choice for drift: overwrite, keep theirs, hold. */
    private static final String WITH_A_VALUE = """
            ALWAYS              NEVER_FILLED     W W W
            ALWAYS              FILLED_BY_OTHERS W W W
            ALWAYS              AS_WRITTEN       W W W
            ALWAYS              EDITED_THERE     W K H
            ALWAYS              EMPTIED_THERE    W K H
            ALWAYS              HOLDS_IT         S S S
            WHEN_CREATING       NEVER_FILLED     K K K
            WHEN_CREATING       FILLED_BY_OTHERS K K K
            WHEN_CREATING       AS_WRITTEN       K K K
            WHEN_CREATING       EDITED_THERE     K K K
            WHEN_CREATING       EMPTIED_THERE    K K K
            WHEN_CREATING       HOLDS_IT         S S S
            ONLY_IF_EMPTY_THERE NEVER_FILLED     W W W
            ONLY_IF_EMPTY_THERE FILLED_BY_OTHERS K K K
            ONLY_IF_EMPTY_THERE AS_WRITTEN       K K K
            ONLY_IF_EMPTY_THERE EDITED_THERE     K K K
            ONLY_IF_EMPTY_THERE EMPTIED_THERE    W K H
            ONLY_IF_EMPTY_THERE HOLDS_IT         S S S
            IF_NEWER            NEVER_FILLED     W W W
            IF_NEWER            FILLED_BY_OTHERS W W W
            IF_NEWER            AS_WRITTEN       W W W
            IF_NEWER            EDITED_THERE     W W W
            IF_NEWER            EMPTIED_THERE    W W W
            IF_NEWER            HOLDS_IT         S S S
            DESTINATION_DECIDES NEVER_FILLED     W W W
            DESTINATION_DECIDES FILLED_BY_OTHERS K K K
            DESTINATION_DECIDES AS_WRITTEN       K K K
            DESTINATION_DECIDES EDITED_THERE     K K K
            DESTINATION_DECIDES EMPTIED_THERE    K K K
            DESTINATION_DECIDES HOLDS_IT         S S S
            NEVER               NEVER_FILLED     K K K
            NEVER               FILLED_BY_OTHERS K K K
            NEVER               AS_WRITTEN       K K K
            NEVER               EDITED_THERE     K K K
            NEVER               EMPTIED_THERE    K K K
            NEVER               HOLDS_IT         K K K
            """;

    /** Without a value; a column a choice for empty: leave, clear. Theirs is overwritten where it was edited. */
    private static final String WITHOUT_A_VALUE = """
            ALWAYS              NEVER_FILLED     K S
            ALWAYS              FILLED_BY_OTHERS K W
            ALWAYS              AS_WRITTEN       K W
            ALWAYS              EDITED_THERE     K W
            ALWAYS              EMPTIED_THERE    K S
            WHEN_CREATING       NEVER_FILLED     K S
            WHEN_CREATING       FILLED_BY_OTHERS K K
            WHEN_CREATING       AS_WRITTEN       K K
            WHEN_CREATING       EDITED_THERE     K K
            WHEN_CREATING       EMPTIED_THERE    K S
            ONLY_IF_EMPTY_THERE NEVER_FILLED     K S
            ONLY_IF_EMPTY_THERE FILLED_BY_OTHERS K K
            ONLY_IF_EMPTY_THERE AS_WRITTEN       K K
            ONLY_IF_EMPTY_THERE EDITED_THERE     K K
            ONLY_IF_EMPTY_THERE EMPTIED_THERE    K S
            IF_NEWER            NEVER_FILLED     K S
            IF_NEWER            FILLED_BY_OTHERS K W
            IF_NEWER            AS_WRITTEN       K W
            IF_NEWER            EDITED_THERE     K W
            IF_NEWER            EMPTIED_THERE    K S
            DESTINATION_DECIDES NEVER_FILLED     K S
            DESTINATION_DECIDES FILLED_BY_OTHERS K K
            DESTINATION_DECIDES AS_WRITTEN       K K
            DESTINATION_DECIDES EDITED_THERE     K K
            DESTINATION_DECIDES EMPTIED_THERE    K S
            NEVER               NEVER_FILLED     K K
            NEVER               FILLED_BY_OTHERS K K
            NEVER               AS_WRITTEN       K K
            NEVER               EDITED_THERE     K K
            NEVER               EMPTIED_THERE    K K
            """;

    private static FieldRule rule(Written written) {
        FieldRule rule = FieldRule.of("port", new Receives.FromColumn("port"));
        return written == Written.IF_NEWER ? rule.ifNewer(new Newer("changed_at", 60)) : rule.written(written);
    }

    private static FieldDecision judge(FieldRule rule, Value fresh, Instant changedAt, There there) {
        Optional<ShapedField.Emptiness> emptiness =
                fresh.isEmpty() ? Optional.of(new ShapedField.Emptiness("empty", rule.ifEmpty())) : Optional.empty();
        ShapedField shaped = new ShapedField(
                rule, FIELD, new Shaped.Usable(fresh), emptiness, Optional.of(changedAt), 0, Optional.empty());
        return FieldJudge.onUpdate(shaped, there.matchResult());
    }

    private static String letter(FieldDecision decision) {
        return decision.outcome().name().substring(0, 1);
    }

    static Stream<Arguments> withAValue() {
        return rows(WITH_A_VALUE, List.of(OnDrift.values()));
    }

    static Stream<Arguments> withoutAValue() {
        return rows(WITHOUT_A_VALUE, List.of(IfEmpty.LEAVE, IfEmpty.CLEAR));
    }

    private static Stream<Arguments> rows(String table, List<? extends Enum<?>> choices) {
        List<Arguments> rows = new ArrayList<>();
        for (String line : table.strip().split("\n")) {
            String[] cells = line.strip().split("\\s+");
            for (int i = 0; i < choices.size(); i++) {
                rows.add(Arguments.argumentSet(
                        cells[0] + ", " + cells[1] + ", " + choices.get(i) + ": " + cells[2 + i],
                        Written.valueOf(cells[0]),
                        There.valueOf(cells[1]),
                        choices.get(i),
                        cells[2 + i]));
            }
        }
        return rows.stream();
    }

    @ParameterizedTest
    @MethodSource("withAValue")
    void aValue(Written written, There there, OnDrift drift, String expected) {
        FieldDecision decision = judge(rule(written).onDrift(drift), Value.text("Ours"), AFTER_EDIT, there);
        assertThat(letter(decision)).as(decision.toString()).isEqualTo(expected);
        if (!expected.equals("S") && !expected.equals("W")) {
            assertThat(decision.reason()).isNotBlank();
        }
    }

    @ParameterizedTest
    @MethodSource("withoutAValue")
    void noValue(Written written, There there, IfEmpty choice, String expected) {
        FieldDecision decision = judge(rule(written).ifEmpty(choice), Value.EMPTY, AFTER_EDIT, there);
        assertThat(letter(decision)).as(decision.toString()).isEqualTo(expected);
    }

    @Test
    void theTablesHoldEveryCombination() {
        Set<String> named = new HashSet<>();
        withAValue().forEach(row -> named.add(row.get()[0] + " " + row.get()[1] + " " + row.get()[2]));
        assertThat(named).hasSize(Written.values().length * There.values().length * OnDrift.values().length);
        Set<String> empty = new HashSet<>();
        withoutAValue().forEach(row -> empty.add(row.get()[0] + " " + row.get()[1] + " " + row.get()[2]));
        assertThat(empty).hasSize(Written.values().length * (There.values().length - 1) * 2);
    }

    @Test
    void theOlderValueYieldsAndSaysTheTimes() {
        FieldDecision decision = judge(rule(Written.IF_NEWER), Value.text("Ours"), BEFORE_EDIT, There.FILLED_BY_OTHERS);
        assertThat(decision.outcome()).isEqualTo(FieldOutcome.KEPT);
        assertThat(decision.reason())
                .isEqualTo("kept: the destination's value is newer, from 3 Nov 09:00 UTC against 3 Nov 08:00 UTC");
    }

    @Test
    void withinTheSkewTheirsStands() {
        assertThat(judge(rule(Written.IF_NEWER), Value.text("Ours"), EDITED.plusSeconds(60), There.EDITED_THERE)
                        .outcome())
                .isEqualTo(FieldOutcome.KEPT);
        assertThat(judge(rule(Written.IF_NEWER), Value.text("Ours"), EDITED.plusSeconds(61), There.EDITED_THERE)
                        .outcome())
                .isEqualTo(FieldOutcome.WRITTEN);
    }

    @Test
    void aValueThatWasWrittenBeforeTheEditIsNotNewerThoughItsRowWasTouched() {
        FieldDecision decision = judge(rule(Written.IF_NEWER), Value.text("Older"), AFTER_EDIT, There.EDITED_THERE);
        assertThat(decision.outcome()).isEqualTo(FieldOutcome.KEPT);
        assertThat(decision.reason()).contains("edited in the destination on 3 Nov 09:00 UTC");
    }

    @Test
    void anEditThatIsKeptSaysWhen() {
        FieldDecision decision =
                judge(rule(Written.ALWAYS).onDrift(OnDrift.KEEP_THEIRS), Value.text("Ours"), NOW, There.EDITED_THERE);
        assertThat(decision.reason()).isEqualTo("kept: edited in the destination on 3 Nov 09:00 UTC");
    }
}

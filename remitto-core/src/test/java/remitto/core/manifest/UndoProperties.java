package remitto.core.manifest;

import static org.assertj.core.api.Assertions.assertThat;

import java.time.Instant;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.OptionalInt;
import net.jqwik.api.Arbitraries;
import net.jqwik.api.Arbitrary;
import net.jqwik.api.ForAll;
import net.jqwik.api.Property;
import net.jqwik.api.Provide;
import remitto.core.cause.Cause;
import remitto.core.destination.Field;
import remitto.core.destination.FieldKind;
import remitto.core.destination.ObjectDescription;
import remitto.core.route.Leavers;
import remitto.core.value.Value;

/** Invariant 8: sending a line and then its reverse leaves what was there, but for what others changed in between. */
class UndoProperties {
    private static final Instant NOW = Instant.parse("2026-11-24T09:00:00Z");
    private static final List<String> NAMES = List.of("ref", "port", "note");
    private static final ObjectDescription OBJECT = ObjectDescription.of(
            "contact",
            "Contact",
            false,
            NAMES.stream().map(UndoProperties::field).toList());

    private static Field field(String name) {
        return new Field(name, name, FieldKind.TEXT, false, false, false, true, false, OptionalInt.empty(), List.of());
    }

    @Provide
    Arbitrary<Map<String, String>> records() {
        return Arbitraries.maps(Arbitraries.of(NAMES), Arbitraries.of("", "Tarva", "Brenn", "Lysøy", "Sandvær"));
    }

    private static Map<String, Value> values(Map<String, String> texts) {
        Map<String, Value> values = new HashMap<>();
        NAMES.forEach(name -> {
            String text = texts.getOrDefault(name, "");
            values.put(name, text.isEmpty() ? Value.EMPTY : Value.text(text));
        });
        return values;
    }

    private static Map<String, Value> apply(Map<String, Value> before, Decision decision) {
        Map<String, Value> after = new HashMap<>(before);
        decision.written().forEach(field -> after.put(field.field(), field.fresh()));
        return after;
    }

    private static MatchResult.Matched there(Map<String, Value> live) {
        return MatchResult.Matched.of("1", "", live, NOW, Map.of());
    }

    private static List<FieldDecision> writes(Map<String, Value> before, Map<String, Value> wanted) {
        List<FieldDecision> fields = new ArrayList<>();
        NAMES.stream()
                .filter(name -> !before.get(name).equals(wanted.get(name)))
                .forEach(name -> fields.add(
                        new FieldDecision(name, FieldOutcome.WRITTEN, before.get(name), wanted.get(name), "")));
        return fields;
    }

    @Property
    void aChangeAndItsUndoLeaveWhatWasThere(
            @ForAll("records") Map<String, String> old, @ForAll("records") Map<String, String> wanted) {
        Map<String, Value> before = values(old);
        List<FieldDecision> fields = writes(before, values(wanted));
        Decision sent = new Decision(Verdict.CHANGED, Cause.NONE, "", Optional.of("1"), fields);
        Map<String, Value> after = apply(before, sent);
        Decision undo =
                UndoJudge.judge(new UndoJudge.SentLine(Verdict.CHANGED, fields), OBJECT, Optional.of(there(after)));
        assertThat(apply(after, undo)).isEqualTo(before);
        assertThat(undo.verdict() == Verdict.LEFT_OUT).isEqualTo(fields.isEmpty());
    }

    @Property
    void whatOthersChangedInBetweenIsLeftAlone(
            @ForAll("records") Map<String, String> old,
            @ForAll("records") Map<String, String> wanted,
            @ForAll("records") Map<String, String> theirs) {
        Map<String, Value> before = values(old);
        List<FieldDecision> fields = writes(before, values(wanted));
        Map<String, Value> now = values(theirs);
        Decision undo =
                UndoJudge.judge(new UndoJudge.SentLine(Verdict.CHANGED, fields), OBJECT, Optional.of(there(now)));
        Map<String, Value> undone = apply(now, undo);
        for (FieldDecision field : fields) {
            boolean ours = Judge.same(now.get(field.field()), field.fresh());
            assertThat(undone.get(field.field())).isEqualTo(ours ? field.old() : now.get(field.field()));
        }
    }

    @Property
    void aRemovalAndItsUndoLeaveWhatWasThere(@ForAll("records") Map<String, String> old) {
        Map<String, Value> before = values(old);
        Decision removed = LeaverJudge.judge(new Leavers.Delete(), OBJECT, there(before), "")
                .orElseThrow();
        Decision undo =
                UndoJudge.judge(new UndoJudge.SentLine(Verdict.REMOVED, removed.fields()), OBJECT, Optional.empty());
        assertThat(undo.verdict()).isEqualTo(Verdict.ADDED);
        assertThat(apply(values(Map.of()), undo)).isEqualTo(before);
    }

    @Property
    void leavingTwiceChangesNothingMore(
            @ForAll("records") Map<String, String> old, @ForAll("records") Map<String, String> set) {
        Leavers choice = new Leavers.SetFields(set.entrySet().stream()
                .map(entry -> new Leavers.FieldText(entry.getKey(), entry.getValue()))
                .toList());
        Map<String, Value> before = values(old);
        Decision first = LeaverJudge.judge(choice, OBJECT, there(before), "").orElseThrow();
        Map<String, Value> after = apply(before, first);
        assertThat(LeaverJudge.judge(choice, OBJECT, there(after), "")
                        .orElseThrow()
                        .verdict())
                .isEqualTo(Verdict.UNCHANGED);
    }
}

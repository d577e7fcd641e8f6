package remitto.core.manifest;

import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import remitto.core.cause.Cause;
import remitto.core.cause.CauseKind;
import remitto.core.destination.Field;
import remitto.core.destination.ObjectDescription;
import remitto.core.value.Value;

/**
 * The reverse of one line that was sent, against what is there now. What others changed since is left alone. A pure
 * function of its arguments.
 */
public final class UndoJudge {
    private static final Cause UNDO = Cause.of(CauseKind.UNDO);

    private UndoJudge() {}

    /**
     * A line that took effect.
     *
     * @param fields those it wrote, with the values before and after
     */
    public record SentLine(Verdict verdict, List<FieldDecision> fields) {
        public SentLine {
            fields = fields.stream()
                    .filter(field -> field.outcome() == FieldOutcome.WRITTEN)
                    .toList();
        }
    }

    /** @param there the record now; absent when it is not there */
    public static Decision judge(SentLine sent, ObjectDescription object, Optional<MatchResult.Matched> there) {
        return switch (sent.verdict()) {
            case ADDED -> takeAway(sent, object, there);
            case CHANGED -> putBack(sent, there);
            case REMOVED -> addAgain(sent, object, there);
            default -> throw new IllegalArgumentException("a line that is " + sent.verdict() + " was never sent");
        };
    }

    private static Decision takeAway(SentLine sent, ObjectDescription object, Optional<MatchResult.Matched> there) {
        if (there.isEmpty()) {
            return leftOut("It is no longer in the destination", Optional.empty());
        }
        Optional<String> id = Optional.of(there.get().remoteId());
        if (!object.abilities().removes()) {
            return Judge.held(
                    Cause.of(CauseKind.UNDO_CANNOT), "This destination does not support removing records", id);
        }
        if (object.abilities().reads()) {
            Optional<FieldDecision> edited = sent.fields().stream()
                    .filter(field -> !Judge.same(there.get().live(field.field()), field.fresh()))
                    .findFirst();
            if (edited.isPresent()) {
                return leftOut(
                        edited.get().field() + " was changed in the destination since; the record is left unchanged",
                        id);
            }
        }
        return Judge.removed(there.get(), UNDO, "Removes the record it added");
    }

    private static Decision putBack(SentLine sent, Optional<MatchResult.Matched> there) {
        if (there.isEmpty()) {
            return leftOut("It is no longer in the destination", Optional.empty());
        }
        List<FieldDecision> fields = new ArrayList<>();
        for (FieldDecision field : sent.fields()) {
            fields.add(putBack(field, there.get().live(field.field())));
        }
        boolean writes = fields.stream().anyMatch(field -> field.outcome() == FieldOutcome.WRITTEN);
        return new Decision(
                writes ? Verdict.CHANGED : Verdict.LEFT_OUT,
                UNDO,
                writes ? "Restores the old values" : "Nothing is left to undo",
                Optional.of(there.get().remoteId()),
                fields);
    }

    private static FieldDecision putBack(FieldDecision field, Value now) {
        if (field.old() instanceof Value.Missing) {
            return new FieldDecision(field.field(), FieldOutcome.KEPT, now, now, "the previous value is unknown");
        }
        if (Judge.same(now, field.old())) {
            return new FieldDecision(field.field(), FieldOutcome.SAME, now, field.old(), "");
        }
        return Judge.same(now, field.fresh())
                ? new FieldDecision(field.field(), FieldOutcome.WRITTEN, now, field.old(), "")
                : new FieldDecision(field.field(), FieldOutcome.KEPT, now, field.old(), "changed since, kept");
    }

    private static Decision addAgain(SentLine sent, ObjectDescription object, Optional<MatchResult.Matched> there) {
        if (there.isPresent()) {
            return leftOut(
                    "It is in the destination again already",
                    Optional.of(there.get().remoteId()));
        }
        List<FieldDecision> fields = sent.fields().stream()
                .filter(field ->
                        object.field(field.field()).filter(Field::mayBeWritten).isPresent())
                .map(field -> new FieldDecision(field.field(), FieldOutcome.WRITTEN, Value.MISSING, field.old(), ""))
                .toList();
        return new Decision(Verdict.ADDED, UNDO, "Adds the removed record again", Optional.empty(), fields);
    }

    private static Decision leftOut(String reason, Optional<String> id) {
        return Judge.verdict(Verdict.LEFT_OUT, UNDO, reason, id);
    }
}

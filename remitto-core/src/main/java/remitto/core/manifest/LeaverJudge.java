package remitto.core.manifest;

import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import remitto.core.cause.Cause;
import remitto.core.cause.CauseKind;
import remitto.core.destination.Fit;
import remitto.core.destination.ObjectDescription;
import remitto.core.route.Leavers;
import remitto.core.shaper.Shaped;
import remitto.core.value.Value;

/** The verdict for a record that left the dataset. A pure function of its arguments. */
public final class LeaverJudge {
    private static final Cause LEFT = Cause.of(CauseKind.LEFT);
    private static final String REASON = "Left the dataset";

    private LeaverJudge() {}

    /**
     * @param otherRoute a route that keeps the same record; blank for none
     * @return empty when there is nothing to do: the choice is to let it stay, or it is gone there as well
     */
    public static Optional<Decision> judge(
            Leavers choice, ObjectDescription object, MatchResult.Matched there, String otherRoute) {
        if (choice instanceof Leavers.Stay) {
            return Optional.empty();
        }
        if (choice.removes()) {
            return Optional.of(
                    otherRoute.isEmpty()
                            ? Judge.removed(there, LEFT, REASON)
                            : Judge.held(
                                    Cause.of(CauseKind.SHARED),
                                    REASON + ", but the route " + otherRoute + " keeps the same record",
                                    Optional.of(there.remoteId())));
        }
        List<FieldDecision> fields = new ArrayList<>();
        if (choice instanceof Leavers.SetFields set) {
            set.fields().forEach(one -> fields.add(decide(object, there, one.field(), new Value.Text(one.text()))));
        } else if (choice instanceof Leavers.ClearFields clear) {
            clear.fields().forEach(field -> fields.add(decide(object, there, field, Value.EMPTY)));
        }
        boolean writes = fields.stream().anyMatch(field -> field.outcome() == FieldOutcome.WRITTEN);
        return Optional.of(new Decision(
                writes ? Verdict.CHANGED : Verdict.UNCHANGED, LEFT, REASON, Optional.of(there.remoteId()), fields));
    }

    private static FieldDecision decide(
            ObjectDescription object, MatchResult.Matched there, String field, Value wanted) {
        Value fresh = fit(object, field, wanted);
        Value old = there.live(field);
        return Judge.same(fresh, old)
                ? new FieldDecision(field, FieldOutcome.SAME, old, fresh, "")
                : new FieldDecision(field, FieldOutcome.WRITTEN, old, fresh, "");
    }

    private static Value fit(ObjectDescription object, String name, Value wanted) {
        return object.field(name)
                .map(field -> Fit.into(field, wanted))
                .flatMap(shaped ->
                        shaped instanceof Shaped.Usable usable ? Optional.of(usable.value()) : Optional.empty())
                .orElse(wanted);
    }
}

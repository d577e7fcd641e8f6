package remitto.core.manifest;

import java.util.List;
import java.util.Optional;
import remitto.core.cause.Cause;
import remitto.core.expectation.HeldRows;
import remitto.core.route.Leavers;
import remitto.core.route.ShapedRecord;

/** Which records a destination is asked about before they are judged, and what becomes of the others. */
public final class LookingThere {
    private LookingThere() {}

    /**
     * @param asSent what the rules want to be there is what was sent there last
     * @return true for whoever is meant and may have changed, and for whoever said no and is to be removed
     */
    public static boolean isNeeded(ShapedRecord record, boolean asSent, Leavers leavers) {
        return record.leftOut().isEmpty() && !asSent || record.statedNo() && leavers.removes();
    }

    /**
     * The decision for a record that is there as it was sent.
     *
     * @param remoteId under which
     */
    public static Decision asSent(String remoteId) {
        return new Decision(Verdict.UNCHANGED, Cause.NONE, "", Optional.of(remoteId), List.of());
    }

    /**
     * What is left of a decision where a row does not meet what is expected of it: a no that is carried out passes that.
     *
     * @param reason what it does not meet; empty when it meets everything
     */
    public static Decision expected(Optional<HeldRows.Reason> reason, ShapedRecord record, Decision decision) {
        return reason.isEmpty() || record.statedNo() || MaySend.takesBack(record, decision.fields())
                ? decision
                : decision.unexpected(reason.get().column(), reason.get().reason());
    }

    /**
     * What is left of a decision where somebody has had enough for now: a no that is carried out passes that.
     *
     * @param enough why nothing more is sent to them now; blank when something may be
     */
    public static Decision within(String enough, ShapedRecord record, Decision decision) {
        return enough.isEmpty() || MaySend.takesBack(record, decision.fields()) ? decision : decision.quiet(enough);
    }
}

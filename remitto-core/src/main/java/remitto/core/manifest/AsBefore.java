package remitto.core.manifest;

import remitto.core.cause.CauseKind;
import remitto.core.known.RecordState;

/** What becomes of a row of which nothing changed since it was judged last, so that it is not judged again. */
public enum AsBefore {
    UNCHANGED,
    LEFT_OUT,
    /** Held by what the destination said, or did not say, of this very input. */
    HELD;

    public static AsBefore of(RecordState recordState) {
        if (recordState.held()) {
            return HELD;
        }
        return recordState.leftOut() ? LEFT_OUT : UNCHANGED;
    }

    /** Why a record with such a record state is held. */
    public static CauseKind cause(RecordState recordState) {
        return recordState == RecordState.REFUSED ? CauseKind.REFUSED : CauseKind.OUTCOME_UNKNOWN;
    }

    /**
     * Whether a row is passed over without being judged.
     *
     * @param known the route had it before
     * @param sameInput every cell that the route reads is as it was
     * @param forbiddenSince somebody may be sent nothing now, whatever their row says
     */
    public static boolean isPassedOver(boolean known, boolean sameInput, boolean forbiddenSince) {
        return known && sameInput && !forbiddenSince;
    }
}

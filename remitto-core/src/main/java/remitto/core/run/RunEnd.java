package remitto.core.run;

import java.util.List;
import java.util.Optional;

/**
 * How the work of a server on a run ends.
 *
 * @param state the run is in from then on
 * @param suspension why it stopped with lines left
 * @param message to whoever looks at it; empty when there is nothing to say
 */
public record RunEnd(RunState state, Suspension suspension, String message) {
    /** The end of a run that cannot go on, or is not to. */
    public static RunEnd of(RunState state, String message) {
        return new RunEnd(state, Suspension.NONE, message);
    }

    /** A run that stops with lines left. */
    public static RunEnd suspended(Suspension suspension, String message) {
        return new RunEnd(RunState.SUSPENDED, suspension, message);
    }

    /**
     * Once a manifest is prepared, or what was asked kept it from being.
     *
     * @param stops what guards say against it
     * @param moving lines that go
     * @return nothing when another server is to prepare it
     */
    public static Optional<RunEnd> ofPreparation(Asked asked, List<String> stops, long moving) {
        return switch (asked) {
            case LET_GO -> Optional.empty();
            case PAUSE, CANCEL ->
                Optional.of(of(RunState.CANCELLED, "Cancelled while it was prepared; nothing was sent"));
            case NOTHING -> Optional.of(prepared(stops, moving));
        };
    }

    private static RunEnd prepared(List<String> stops, long moving) {
        if (!stops.isEmpty()) {
            return of(RunState.AWAITING_APPROVAL, String.join(" ", stops));
        }
        return moving == 0 ? of(RunState.SENT, "Nothing to send") : of(RunState.READY, "");
    }

    /**
     * Once sending came to an end.
     *
     * @param suspension why it did not go on; {@link Suspension#NONE} when it was asked to stop, or nothing is left
     * @param message what is said about the halt
     * @param left lines that go and have no outcome
     * @return nothing when another server has the run, or is to have it
     */
    public static Optional<RunEnd> ofSending(Suspension suspension, String message, Asked asked, long left) {
        if (suspension == Suspension.LOST) {
            return Optional.empty();
        }
        if (suspension != Suspension.NONE) {
            return Optional.of(suspended(suspension, message));
        }
        return switch (asked) {
            case LET_GO -> Optional.empty();
            case PAUSE -> Optional.of(suspended(Suspension.PAUSED, "Paused; the calls in flight were finished"));
            case CANCEL -> Optional.of(of(RunState.CANCELLED, "Cancelled; the calls in flight were finished"));
            case NOTHING -> Optional.of(left == 0 ? of(RunState.SENT, "") : suspended(Suspension.FAULT, unsent(left)));
        };
    }

    /**
     * Whether a manifest is over without all of its records being there.
     *
     * @param missed lines that were refused, or of which nobody knows whether they arrived
     */
    public static boolean isInPart(RunState state, RunCounts counts, long missed) {
        return state == RunState.SENT && (counts.held() > 0 || missed > 0);
    }

    private static String unsent(long left) {
        return (left == 1 ? "One line was" : left + " lines were")
                + " not sent, for no known reason. Send the manifest again to go on with what is left";
    }
}

package remitto.core.run;

import java.util.List;
import java.util.Optional;

/**
 * How the work of a server on a run ends.
 *
 * @param state the run is in from then on
 * @param halt why it stopped with lines left
 * @param message to whoever looks at it; empty when there is nothing to say
 */
public record RunEnd(RunState state, Halt halt, String message) {
    /** The end of a run that cannot go on, or is not to. */
    public static RunEnd of(RunState state, String message) {
        return new RunEnd(state, Halt.NONE, message);
    }

    /** A run that stops with lines left. */
    public static RunEnd halted(Halt halt, String message) {
        return new RunEnd(RunState.HALTED, halt, message);
    }

    /**
     * Once a manifest is drawn up, or what was asked kept it from being.
     *
     * @param stops what guards say against it
     * @param moving lines that go
     * @return nothing when another server is to draw it up
     */
    public static Optional<RunEnd> ofDrawing(Asked asked, List<String> stops, long moving) {
        return switch (asked) {
            case LET_GO -> Optional.empty();
            case PAUSE, CANCEL ->
                Optional.of(of(RunState.CANCELLED, "Cancelled while it was drawn up; nothing was sent"));
            case NOTHING -> Optional.of(drawn(stops, moving));
        };
    }

    private static RunEnd drawn(List<String> stops, long moving) {
        if (!stops.isEmpty()) {
            return of(RunState.STOPPED, String.join(" ", stops));
        }
        return moving == 0 ? of(RunState.SENT, "Nothing to send") : of(RunState.DRAWN, "");
    }

    /**
     * Once sending came to an end.
     *
     * @param halt why it did not go on; {@link Halt#NONE} when it was asked to stop, or nothing is left
     * @param message what is said about the halt
     * @param left lines that go and have no outcome
     * @return nothing when another server has the run, or is to have it
     */
    public static Optional<RunEnd> ofSending(Halt halt, String message, Asked asked, long left) {
        if (halt == Halt.LOST) {
            return Optional.empty();
        }
        if (halt != Halt.NONE) {
            return Optional.of(halted(halt, message));
        }
        return switch (asked) {
            case LET_GO -> Optional.empty();
            case PAUSE -> Optional.of(halted(Halt.PAUSED, "Paused; the calls in flight were finished"));
            case CANCEL -> Optional.of(of(RunState.CANCELLED, "Cancelled; the calls in flight were finished"));
            case NOTHING -> Optional.of(left == 0 ? of(RunState.SENT, "") : halted(Halt.FAULT, unsent(left)));
        };
    }

    /**
     * Whether a manifest is over without all of its records being there.
     *
     * @param missed lines that were refused, or of which nobody knows whether they arrived
     */
    public static boolean isInPart(RunState state, Sums sums, long missed) {
        return state == RunState.SENT && (sums.held() > 0 || missed > 0);
    }

    private static String unsent(long left) {
        return (left == 1 ? "One line was" : left + " lines were")
                + " not sent, and nothing says why. This is our fault; Send goes on with what is left";
    }
}

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
    /**
     * Somebody's wish about a run under way.
     *
     * @param paused whether the rest is kept
     * @param cancelled whether no more is to be done; a pause is that too
     * @param serverEnds whether it is the server that ends, which decides nothing about the run
     */
    public record Asked(boolean paused, boolean cancelled, boolean serverEnds) {}

    /** The end of a run that cannot go on, or is not to. */
    public static RunEnd of(RunState state, String message) {
        return new RunEnd(state, Halt.NONE, message);
    }

    /** A run that stops with lines left. */
    public static RunEnd halted(Halt halt, String message) {
        return new RunEnd(RunState.HALTED, halt, message);
    }

    /**
     * Once a manifest is drawn up.
     *
     * @param stops what guards say against it
     * @param moving lines that go
     * @return nothing when another server is to draw it up
     */
    public static Optional<RunEnd> ofDrawing(Asked asked, List<String> stops, long moving) {
        if (asked.cancelled()) {
            return asked.serverEnds()
                    ? Optional.empty()
                    : Optional.of(of(RunState.CANCELLED, "Cancelled while it was drawn up; nothing was sent"));
        }
        if (!stops.isEmpty()) {
            return Optional.of(of(RunState.STOPPED, String.join(" ", stops)));
        }
        return Optional.of(moving == 0 ? of(RunState.SENT, "Nothing to send") : of(RunState.DRAWN, ""));
    }

    /**
     * Once sending came to an end.
     *
     * @param halt why it did not go on; {@link Halt#NONE} when it was asked to stop, or nothing is left
     * @param message what is said about the halt
     * @return nothing when another server has the run, or is to have it
     */
    public static Optional<RunEnd> ofSending(Halt halt, String message, Asked asked) {
        if (halt == Halt.LOST) {
            return Optional.empty();
        }
        if (halt != Halt.NONE) {
            return Optional.of(halted(halt, message));
        }
        if (asked.paused()) {
            return Optional.of(halted(Halt.PAUSED, "Paused; the calls in flight were finished"));
        }
        if (!asked.cancelled()) {
            return Optional.of(of(RunState.SENT, ""));
        }
        return asked.serverEnds()
                ? Optional.empty()
                : Optional.of(of(RunState.CANCELLED, "Cancelled; the calls in flight were finished"));
    }
}

package remitto.core.delivery;

import java.time.Duration;
import java.util.Optional;
import remitto.core.run.Suspension;

/** What follows after a call that did not bring an answer for each of its records. */
public sealed interface AfterCall {
    /** The same lines go in a call made so much later; nobody holds the tool's attention meanwhile. */
    record Later(Duration length) implements AfterCall {}

    /** The same call is made again after a pause. */
    record Again(Duration pause) implements AfterCall {}

    /** Nothing more of the run goes now. */
    record Stop(Suspension suspension, String message) implements AfterCall {}

    /** Each half is a call of its own, until the bad record stands alone. */
    record Split() implements AfterCall {}

    /** The record that stands alone was refused. */
    record RefusedAlone(String reason) implements AfterCall {}

    /**
     * Where the sending stands.
     *
     * @param attempt tries of this call so far, from 1; one that was asked to wait is none
     * @param waits how often in a row the tool asked to wait, this time among them
     * @param lines of the call
     * @param circuitOpen whether the tool is known not to answer by now
     */
    record At(int attempt, int waits, int lines, boolean circuitOpen) {}

    /**
     * Whom it is sent to.
     *
     * @param tool its name
     * @param what it was to take, such as "a call"
     */
    record Words(String tool, String what) {}

    /** A tool that asks to wait so often in a row takes nothing at all; our choice. */
    int MOST_WAITS = 60;

    /** @param random from 0 to 1, for the jitter of a pause */
    static AfterCall of(CallEnd end, At at, Words words, Backoff backoff, double random) {
        if (end instanceof CallEnd.AskedToWait asked) {
            return at.waits() > MOST_WAITS
                    ? new Stop(Suspension.FAULT, words.tool() + " asked to wait " + MOST_WAITS + " times in a row")
                    : new Later(asked.length());
        }
        if (end instanceof CallEnd.Refused refused) {
            return refused(refused, at, words);
        }
        return stops(end, at, words, backoff).orElseGet(() -> new Again(backoff.pause(at.attempt(), random)));
    }

    private static AfterCall refused(CallEnd.Refused refused, At at, Words words) {
        if (refused.status() == 401 || refused.status() == 403) {
            return new Stop(
                    Suspension.FAULT,
                    words.tool() + " refused to sign in (" + refused.status() + "): " + refused.reason());
        }
        return at.lines() == 1 ? new RefusedAlone(refused.why()) : new Split();
    }

    private static Optional<AfterCall> stops(CallEnd end, At at, Words words, Backoff backoff) {
        if (at.circuitOpen()) {
            return Optional.of(new Stop(Suspension.CIRCUIT, words.tool() + " does not answer: " + end.why()));
        }
        return at.attempt() >= backoff.tries()
                ? Optional.of(new Stop(
                        Suspension.FAULT,
                        words.tool() + " did not take " + words.what() + " in " + at.attempt() + " tries: "
                                + end.why()))
                : Optional.empty();
    }
}

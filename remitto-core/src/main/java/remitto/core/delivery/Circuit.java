package remitto.core.delivery;

import java.time.Duration;
import java.time.Instant;
import java.util.Optional;

/**
 * Whether a destination may be called: closed while it answers, open after several failures in a row, and tried again
 * with one call after a wait that doubles with every opening. A value; time is handed in.
 *
 * @param failures calls in a row that failed
 * @param openings times it opened since a call of real work was last answered
 * @param openSince absent while it is closed
 * @param tryAt when one call may be made to find out; absent while it is closed
 * @param reason what the last failing call met; blank while nothing failed
 */
public record Circuit(int failures, int openings, Optional<Instant> openSince, Optional<Instant> tryAt, String reason) {
    private static final int OPENS_AFTER = 5;
    private static final Duration FIRST_WAIT = Duration.ofSeconds(5);
    /** No wait is longer; one that seems so was counted by a clock that has been set back since. */
    public static final Duration LONGEST_WAIT = Duration.ofMinutes(5);

    public static Circuit closed() {
        return new Circuit(0, 0, Optional.empty(), Optional.empty(), "");
    }

    public boolean isOpen() {
        return openSince.isPresent();
    }

    /** True when a call may be made: it is closed, or its wait is over. */
    public boolean allows(Instant now) {
        return tryAt.filter(at -> now.isBefore(at) && !at.isAfter(now.plus(LONGEST_WAIT)))
                .isEmpty();
    }

    /** After a call that got no answer, or one that says the destination is broken. */
    public Circuit failed(Instant now, String why) {
        int more = failures + 1;
        if (!isOpen() && more < OPENS_AFTER && openings == 0) {
            return new Circuit(more, openings, openSince, tryAt, why);
        }
        if (isOpen() && !allows(now)) {
            return new Circuit(more, openings, openSince, tryAt, why);
        }
        return triedInVain(now, why);
    }

    /** The one call that was to find out was answered: closed, but the next failure opens it again for longer. */
    public Circuit triedWell() {
        return new Circuit(0, openings, Optional.empty(), Optional.empty(), reason);
    }

    /** After the one call that was to find out whether it answers again: open for longer. */
    public Circuit triedInVain(Instant now, String why) {
        return new Circuit(
                failures + 1,
                openings + 1,
                Optional.of(openSince.orElse(now)),
                Optional.of(now.plus(wait(openings))),
                why);
    }

    private static Duration wait(int openings) {
        Duration doubled = FIRST_WAIT.multipliedBy(1L << Math.min(openings, 10));
        return doubled.compareTo(LONGEST_WAIT) > 0 ? LONGEST_WAIT : doubled;
    }
}

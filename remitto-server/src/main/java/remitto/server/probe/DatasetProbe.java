package remitto.server.probe;

import java.time.Duration;
import java.time.Instant;
import java.util.Optional;
import remitto.connect.source.RowSource;

/**
 * What was seen of a dataset.
 *
 * @param means how a change is told; absent before the first look
 * @param mark what was seen, the same while nothing changed; blank before the first look
 * @param lookedAt absent before the first look
 * @param changedAt when a change was last seen
 * @param millis how long the last look took
 * @param problem why the last look failed; blank if it went well
 */
record DatasetProbe(
        long dataset,
        Optional<RowSource.Means> means,
        String mark,
        Optional<Instant> lookedAt,
        Optional<Instant> changedAt,
        long millis,
        String problem) {
    /** Between two looks that cost next to nothing. */
    static final Duration BETWEEN = Duration.ofMinutes(1);
    /** What no look notices is read all the same after so long. */
    static final Duration AT_LEAST = Duration.ofDays(1);
    /** A source is looked at for one twentieth of the time at most. */
    private static final int SHARE = 20;

    /** Between two looks. */
    Duration between() {
        Duration wait = Duration.ofMillis(millis * SHARE);
        return wait.compareTo(BETWEEN) > 0 ? wait : BETWEEN;
    }

    /** Whether it is looked at again. */
    boolean isDue(Instant now) {
        return lookedAt.filter(at -> at.plus(between()).isAfter(now)).isEmpty();
    }

    /** Whether something changed, as far as can be told, or has not been read for so long that it may have. */
    boolean isChanged(String now, Instant at) {
        return !now.equals(mark)
                || changedAt.filter(before -> before.plus(AT_LEAST).isAfter(at)).isEmpty();
    }
}

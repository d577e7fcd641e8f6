package remitto.core.consent;

import java.time.Duration;
import java.time.Instant;
import java.util.Collection;
import java.util.List;
import java.util.Optional;

/**
 * How often a person is written to, over all routes that send messages: at most so many within so many days, each of 24 hours.
 *
 * @param most messages within the days, at least 1
 * @param days 1 to 365
 */
public record FrequencyCap(int most, int days) {
    private static final int YEAR = 365;

    public FrequencyCap {
        if (most < 1 || days < 1 || days > YEAR) {
            throw new IllegalArgumentException("At least 1 message, in 1 to 365 days.");
        }
    }

    /** The earliest moment that still counts. A message exactly so many days ago does not count any more. */
    public Instant since(Instant now) {
        return now.minus(Duration.ofDays(days));
    }

    /**
     * @param sent when messages went to the person
     * @return when the next may go; empty if it may go now
     */
    public Optional<Instant> until(Collection<Instant> sent, Instant now) {
        List<Instant> counting =
                sent.stream().filter(at -> at.isAfter(since(now))).sorted().toList();
        return counting.size() < most
                ? Optional.empty()
                : Optional.of(counting.get(counting.size() - most).plus(Duration.ofDays(days)));
    }
}

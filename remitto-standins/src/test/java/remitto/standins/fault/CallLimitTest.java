package remitto.standins.fault;

import static org.assertj.core.api.Assertions.assertThat;

import java.time.Duration;
import java.util.ArrayList;
import java.util.List;
import net.jqwik.api.ForAll;
import net.jqwik.api.Property;
import net.jqwik.api.constraints.IntRange;
import net.jqwik.api.constraints.LongRange;
import net.jqwik.api.constraints.Size;
import org.junit.jupiter.api.Test;

class CallLimitTest {
    private static final long SECOND = 1_000_000_000L;

    @Test
    void aWindowTakesSoManyAndSaysHowLongToWait() {
        CallLimit limit = new CallLimit(3, Duration.ofSeconds(12));
        assertThat(limit.words()).isEqualTo("3 calls in 12 seconds");
        assertThat(limit.take(0)).isEmpty();
        assertThat(limit.take(SECOND)).isEmpty();
        assertThat(limit.take(2 * SECOND)).isEmpty();
        assertThat(limit.take(3 * SECOND)).contains(Duration.ofSeconds(9));
        assertThat(limit.take(12 * SECOND - 1)).contains(Duration.ofNanos(1));
        assertThat(limit.take(12 * SECOND)).as("the first is out of the window").isEmpty();
        assertThat(limit.take(12 * SECOND)).contains(Duration.ofSeconds(1));
    }

    @Test
    void switchedOffItTakesEverythingAndForgets() {
        CallLimit limit = new CallLimit(1, Duration.ofSeconds(12));
        limit.take(0);
        limit.switchTo(false);
        assertThat(limit.isOn()).isFalse();
        assertThat(limit.take(1)).isEmpty();
        assertThat(limit.take(2)).isEmpty();
        limit.switchTo(true);
        assertThat(limit.take(3)).isEmpty();
        assertThat(limit.take(4)).isPresent();
    }

    /** No window of the length, wherever it begins, holds more calls than are allowed. */
    @Property(tries = 200)
    void noWindowHoldsMoreThanIsAllowed(
            @ForAll @IntRange(min = 1, max = 6) int calls,
            @ForAll @Size(max = 60) List<@LongRange(max = 3) Long> gaps) {
        Duration window = Duration.ofSeconds(5);
        CallLimit limit = new CallLimit(calls, window);
        List<Long> taken = new ArrayList<>();
        long now = 0;
        for (long gap : gaps) {
            now += gap * SECOND;
            long at = now;
            limit.take(at)
                    .ifPresentOrElse(
                            wait -> assertThat(wait).isPositive().isLessThanOrEqualTo(window), () -> taken.add(at));
        }
        for (long begin : taken) {
            assertThat(taken.stream().filter(at -> at >= begin && at < begin + window.toNanos()))
                    .hasSizeLessThanOrEqualTo(calls);
        }
    }
}

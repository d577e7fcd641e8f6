package remitto.core.delivery;

import static org.assertj.core.api.Assertions.assertThat;

import java.time.Duration;
import org.junit.jupiter.api.Test;

class BackoffTest {
    @Test
    void doublesUpToTheCapAllOfItAtRandom() {
        Backoff backoff = new Backoff(Duration.ofMillis(500), Duration.ofSeconds(30), 6);
        assertThat(backoff.pause(1, 0)).isEqualTo(Duration.ZERO);
        assertThat(backoff.pause(2, 0.5)).isEqualTo(Duration.ofMillis(500));
        assertThat(backoff.pause(1, 1)).isEqualTo(Duration.ofMillis(500));
        assertThat(backoff.pause(3, 1)).isEqualTo(Duration.ofSeconds(2));
        assertThat(backoff.pause(60, 1)).isEqualTo(Duration.ofSeconds(30));
    }
}

package remitto.server.probe;

import static org.assertj.core.api.Assertions.assertThat;

import java.time.Duration;
import java.time.Instant;
import java.util.Optional;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;
import remitto.connect.source.RowSource;

/** When a dataset is looked at again, and what counts as a change of it. */
class DatasetProbeTest {
    private static final Instant NOON = Instant.parse("2026-12-02T12:00:00Z");

    private static DatasetProbe probe(Optional<Instant> looked, Optional<Instant> changed, long millis) {
        return new DatasetProbe(1, Optional.of(RowSource.Means.COUNT), "1 40 ", looked, changed, millis, "");
    }

    @ParameterizedTest
    @CsvSource({"0, 60", "3000, 60", "3001, 60", "6000, 120", "120000, 2400"})
    void aLookTakesATwentiethOfTheTimeAtMost(long millis, long seconds) {
        DatasetProbe probe = probe(Optional.of(NOON), Optional.of(NOON), millis);
        assertThat(probe.between()).isBetween(Duration.ofSeconds(seconds), Duration.ofMillis(seconds * 1000 + 20));
        assertThat(probe.isDue(NOON.plusSeconds(seconds - 1))).isFalse();
        assertThat(probe.isDue(NOON.plusSeconds(seconds + 1))).isTrue();
    }

    @Test
    void whatNobodyLookedAtIsDueAndChanged() {
        DatasetProbe probe = new DatasetProbe(1, Optional.empty(), "", Optional.empty(), Optional.empty(), 0, "");
        assertThat(probe.isDue(NOON)).isTrue();
        assertThat(probe.isChanged("1 ", NOON)).isTrue();
    }

    @Test
    void whatIsTheSameForADayIsReadAllTheSame() {
        DatasetProbe probe = probe(Optional.of(NOON), Optional.of(NOON), 1);
        assertThat(probe.isChanged("1 41 ", NOON)).isTrue();
        assertThat(probe.isChanged("1 40 ", NOON.plus(Duration.ofHours(23)))).isFalse();
        assertThat(probe.isChanged("1 40 ", NOON.plus(Duration.ofHours(24)))).isTrue();
    }
}

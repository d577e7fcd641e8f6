package remitto.core.delivery;

import static org.assertj.core.api.Assertions.assertThat;

import java.time.Instant;
import org.junit.jupiter.api.Test;

class CircuitTest {
    private static final Instant NOW = Instant.parse("2026-11-24T09:00:00Z");

    private static Circuit failedTimes(int times) {
        Circuit circuit = Circuit.closed();
        for (int i = 0; i < times; i++) {
            circuit = circuit.failed(NOW, "no answer");
        }
        return circuit;
    }

    @Test
    void opensAfterFiveFailuresInARow() {
        assertThat(failedTimes(4).isOpen()).isFalse();
        Circuit open = failedTimes(5);
        assertThat(open.isOpen()).isTrue();
        assertThat(open.allows(NOW)).isFalse();
        assertThat(open.allows(NOW.plusSeconds(5))).isTrue();
        assertThat(open.reason()).isEqualTo("no answer");
    }

    @Test
    void everyFailureIsCounted() {
        assertThat(failedTimes(3).failures()).isEqualTo(3);
        assertThat(failedTimes(5).failures()).isEqualTo(5);
        assertThat(failedTimes(5).triedInVain(NOW, "still none").failures()).isEqualTo(6);
    }

    @Test
    void aClockThatIsSetBackMakesNobodyWaitLongerThanTheLongestWait() {
        Circuit open = failedTimes(5);
        assertThat(open.allows(NOW.minusSeconds(100))).isFalse();
        assertThat(open.allows(NOW.minusSeconds(3600))).isTrue();
    }

    @Test
    void callsThatWereUnderWayWhenItOpenedDoNotLengthenTheWait() {
        assertThat(failedTimes(9).tryAt()).isEqualTo(failedTimes(5).tryAt());
    }

    @Test
    void waitsTwiceAsLongAfterEveryTryThatFailsUpToFiveMinutes() {
        Circuit circuit = failedTimes(5);
        Instant opened = circuit.openSince().orElseThrow();
        long last = 5;
        for (int i = 0; i < 12; i++) {
            Instant tried = circuit.tryAt().orElseThrow();
            circuit = circuit.failed(tried, "still none");
            long wait = circuit.tryAt().orElseThrow().getEpochSecond() - tried.getEpochSecond();
            assertThat(wait).isEqualTo(Math.min(300, last * 2));
            last = wait;
            assertThat(circuit.openSince()).contains(opened);
        }
    }

    @Test
    void afterATryThatWasAnsweredTheNextFailureOpensItAgainForLonger() {
        Circuit tried = failedTimes(5).triedWell();
        assertThat(tried.isOpen()).isFalse();
        Circuit again = tried.failed(NOW, "no answer");
        assertThat(again.isOpen()).isTrue();
        assertThat(again.tryAt()).contains(NOW.plusSeconds(10));
    }
}

package remitto.server.run;

import static org.assertj.core.api.Assertions.assertThat;

import java.time.Duration;
import java.util.concurrent.atomic.AtomicBoolean;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.EnumSource;
import remitto.core.run.Asked;
import remitto.core.run.Suspension;

class StopTest {
    private final Progress progress = new Progress();
    private final Stop stop = new Stop(progress);

    @Test
    void theFirstReasonCounts() {
        stop.suspension(Suspension.CIRCUIT, "it does not answer");
        stop.suspension(Suspension.FAULT, "and something else");
        assertThat(stop.goesOn()).isFalse();
        assertThat(stop.suspension()).isEqualTo(Suspension.CIRCUIT);
        assertThat(stop.message()).isEqualTo("it does not answer");
    }

    /** That its threads are to end is no reason, so one that is met while they do still counts. */
    @Test
    void whatIsMetWhileItEndsIsTold() {
        stop.end();
        assertThat(stop.goesOn()).isFalse();
        assertThat(stop.suspension()).isEqualTo(Suspension.NONE);
        stop.suspension(Suspension.LOST, "another has it");
        assertThat(stop.suspension()).isEqualTo(Suspension.LOST);
    }

    @ParameterizedTest
    @EnumSource(value = Asked.class, names = "NOTHING", mode = EnumSource.Mode.EXCLUDE)
    void whateverIsAskedStopsIt(Asked asked) {
        assertThat(stop.goesOn()).isTrue();
        progress.ask(asked);
        assertThat(stop.goesOn()).isFalse();
        assertThat(stop.suspension()).isEqualTo(Suspension.NONE);
    }

    @Test
    void aPauseEndsWhenItIsToStop() {
        progress.ask(Asked.CANCEL);
        long begun = System.nanoTime();
        stop.pause(Duration.ofMinutes(5));
        assertThat(Duration.ofNanos(System.nanoTime() - begun)).isLessThan(Duration.ofMinutes(2));
    }

    /** A call that may still land is left open, for whoever takes the run up. */
    @Test
    void aServerThatEndsDoesNotSayThatItWaited() throws InterruptedException {
        AtomicBoolean waited = new AtomicBoolean(true);
        Thread thread = new Thread(() -> waited.set(stop.waitOut(Duration.ofMinutes(5))));
        thread.start();
        thread.interrupt();
        thread.join();
        assertThat(waited).isFalse();
        assertThat(stop.suspension()).isEqualTo(Suspension.LOST);
        assertThat(new Stop(progress).waitOut(Duration.ofSeconds(-1))).isTrue();
    }
}

package remitto.e2e;

import static org.assertj.core.api.Assertions.assertThat;

import java.nio.file.Path;
import org.junit.jupiter.api.Test;
import remitto.bench.crash.CrashRun;

/** Invariant 2, the short form: tools, PostgreSQL and a server are each killed once, and a server is stopped, while faults are on. */
class CrashTest {
    @Test
    void killsLoseNothingAndDoubleNothing() throws Exception {
        CrashRun.Verdict verdict = new CrashRun(
                        Path.of("..", "remitto-bench", "target", "remitto-bench-0.1.0-app.jar"),
                        Path.of("..", "remitto-standins", "target", "remitto-standins-0.1.0-app.jar"),
                        CrashRun.Plan.kills(4, 2_500, 7))
                .run();
        assertThat(verdict.received()).isGreaterThan(2_000);
        assertThat(verdict.faults())
                .as("lost, doubled, wrong, repeated, helped")
                .isEmpty();
    }
}

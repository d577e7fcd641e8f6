package remitto.e2e;

import static org.assertj.core.api.Assertions.assertThat;

import java.nio.file.Path;
import org.junit.jupiter.api.Test;
import remitto.bench.crash.CrashRun;

/** Invariant 2, the short form: the stand-in, PostgreSQL and the server are each killed once while faults are on. */
class CrashTest {
    @Test
    void killsLoseNothingAndDoubleNothing() throws Exception {
        CrashRun.Verdict verdict = new CrashRun(
                        CrashRun.jars(
                                Path.of("..", "remitto-server", "target", "remitto-server-0.1.0-app.jar"),
                                Path.of("..", "remitto-standins", "target", "remitto-standins-0.1.0-app.jar")),
                        3,
                        2_500,
                        7)
                .run();
        assertThat(verdict.sent()).isGreaterThan(1_000);
        assertThat(verdict.lost()).as("lost").isZero();
        assertThat(verdict.doubled()).as("doubled").isZero();
        assertThat(verdict.wrong()).as("wrong").isZero();
    }
}

package remitto.server.destination;

import static org.assertj.core.api.Assertions.assertThat;

import java.time.Clock;
import java.time.Duration;
import java.util.concurrent.locks.LockSupport;
import org.junit.jupiter.api.Test;
import org.springframework.jdbc.core.simple.JdbcClient;
import remitto.connect.profile.Profile;
import remitto.connect.profile.ProfileReader;
import remitto.server.harness.TestRoute;
import remitto.server.harness.TestServer;

/** Calls are apart by what the tool allows, whatever the threads that make them went through before. */
class SharedPaceTest {
    private static final int CALLS = 6;

    @Test
    void aThreadThatWasWokenOnceTooOftenWaitsAllTheSame() {
        try (TestServer server = TestServer.start()) {
            long destination = new TestRoute(server, server.user("EDITOR")).connect(server.user("EDITOR"));
            Profile.Limits limits = new ProfileReader()
                    .read(ProfileReader.resource("purser-crm.yaml").replace("calls: 120", "calls: 60"))
                    .limits();
            Duration apart = Duration.ofSeconds(limits.periodSeconds()).dividedBy(limits.calls());
            SharedPace pace = new SharedPace(server.bean(JdbcClient.class), Clock.systemUTC(), destination, limits);
            pace.await();
            long start = System.nanoTime();
            for (int call = 0; call < CALLS; call++) {
                LockSupport.unpark(Thread.currentThread());
                pace.await();
            }
            assertThat(Duration.ofNanos(System.nanoTime() - start)).isGreaterThan(apart.multipliedBy(CALLS - 1));
        }
    }
}

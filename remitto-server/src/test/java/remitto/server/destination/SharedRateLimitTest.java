package remitto.server.destination;

import static org.assertj.core.api.Assertions.assertThat;

import java.time.Clock;
import java.time.Duration;
import java.util.ArrayList;
import java.util.List;
import java.util.Queue;
import java.util.concurrent.ConcurrentLinkedQueue;
import java.util.concurrent.ExecutorService;
import java.util.concurrent.Executors;
import java.util.concurrent.Future;
import java.util.concurrent.locks.LockSupport;
import org.junit.jupiter.api.Test;
import org.springframework.jdbc.core.simple.JdbcClient;
import remitto.connect.profile.Profile;
import remitto.connect.profile.ProfileReader;
import remitto.server.harness.TestRoute;
import remitto.server.harness.TestServer;

/** Calls are apart by what the tool allows, whatever the threads that make them went through before. */
class SharedRateLimitTest {
    private static final int CALLS = 6;

    @Test
    void aThreadThatWasWokenOnceTooOftenWaitsAllTheSame() {
        try (TestServer server = TestServer.start()) {
            long destination = new TestRoute(server, server.user("EDITOR")).connect(server.user("EDITOR"));
            Profile.Limits limits = limits();
            Duration apart = apart(limits);
            SharedRateLimit rateLimit =
                    new SharedRateLimit(server.bean(JdbcClient.class), Clock.systemUTC(), destination, limits);
            rateLimit.await();
            long start = System.nanoTime();
            for (int call = 0; call < CALLS; call++) {
                LockSupport.unpark(Thread.currentThread());
                rateLimit.await();
            }
            assertThat(Duration.ofNanos(System.nanoTime() - start)).isGreaterThan(apart.multipliedBy(CALLS - 1));
        }
    }

    /** Whoever is late makes nobody else early: the times are handed out by the database, and nothing here goes by when one wakes up. */
    @Test
    void thoseOfTwoProcessesAreApartAsIfTheyWereOne() throws Exception {
        try (TestServer server = TestServer.start()) {
            long destination = new TestRoute(server, server.user("EDITOR")).connect(server.user("EDITOR"));
            Profile.Limits limits = limits();
            List<SharedRateLimit> both = List.of(
                    new SharedRateLimit(server.bean(JdbcClient.class), Clock.systemUTC(), destination, limits),
                    new SharedRateLimit(server.bean(JdbcClient.class), Clock.systemUTC(), destination, limits));
            long start = System.nanoTime();
            Queue<Long> letGo = new ConcurrentLinkedQueue<>();
            ExecutorService callers = Executors.newFixedThreadPool(2 * both.size());
            try {
                List<Future<?>> made = new ArrayList<>();
                for (int call = 0; call < 5 * CALLS; call++) {
                    SharedRateLimit rateLimit = both.get(call % both.size());
                    made.add(callers.submit(() -> {
                        rateLimit.await();
                        letGo.add(System.nanoTime());
                    }));
                }
                for (Future<?> call : made) {
                    call.get();
                }
            } finally {
                callers.shutdownNow();
            }
            List<Long> inOrder = letGo.stream().sorted().toList();
            long apart = apart(limits).toNanos();
            for (int call = 1; call < inOrder.size(); call++) {
                // From the beginning, since a thread may be woken late, but never early; the two clocks differ by
                // little.
                assertThat(inOrder.get(call) - start)
                        .as("call " + call)
                        .isGreaterThan(call * apart - Duration.ofMillis(5).toNanos());
            }
        }
    }

    private static Profile.Limits limits() {
        return new ProfileReader()
                .read(ProfileReader.resource("purser-crm.yaml").replace("calls: 120", "calls: 60"))
                .limits();
    }

    private static Duration apart(Profile.Limits limits) {
        return Duration.ofSeconds(limits.periodSeconds()).dividedBy(limits.calls());
    }
}

package remitto.server.destination;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import java.time.Clock;
import java.time.Instant;
import java.util.Optional;
import java.util.concurrent.CompletableFuture;
import java.util.concurrent.CountDownLatch;
import java.util.concurrent.TimeUnit;
import java.util.concurrent.atomic.AtomicInteger;
import org.junit.jupiter.api.Test;
import remitto.connect.destination.DestinationProblem;
import remitto.connect.signin.Grant.Tokens;

class RenewedGrantTest {
    private static final Tokens OLD = new Tokens("old", "r1");
    private static final Tokens FRESH = new Tokens("fresh", "r2");
    /** Long enough for another thread to come in between, where nothing keeps it from that. */
    private static final long A_WHILE = 400;

    private final Memory store = new Memory();
    private final RenewedGrant grant = new RenewedGrant(store, Clock.systemUTC());

    /** One row in memory; the first to read it can be kept waiting with what it read. */
    private static final class Memory implements RenewedGrant.Store {
        private Optional<RenewedGrant.Kept> kept = Optional.of(new RenewedGrant.Kept(OLD, 1));
        private boolean claimed;
        private final AtomicInteger reads = new AtomicInteger();
        private final CountDownLatch hasRead = new CountDownLatch(1);
        private final CountDownLatch goesOn = new CountDownLatch(1);
        private volatile boolean firstWaits;

        @Override
        public Optional<RenewedGrant.Kept> read() {
            Optional<RenewedGrant.Kept> read;
            synchronized (this) {
                read = kept;
            }
            if (firstWaits && reads.getAndIncrement() == 0) {
                hasRead.countDown();
                waitFor(goesOn);
            }
            return read;
        }

        private static void waitFor(CountDownLatch latch) {
            try {
                latch.await(A_WHILE, TimeUnit.MILLISECONDS);
            } catch (InterruptedException e) {
                throw new IllegalStateException(e);
            }
        }

        @Override
        public synchronized boolean claim(int revision, Instant until) {
            if (claimed || kept.filter(one -> one.revision() == revision).isEmpty()) {
                return false;
            }
            claimed = true;
            return true;
        }

        @Override
        public synchronized void replace(int revision, Tokens fresh) {
            kept = Optional.of(new RenewedGrant.Kept(fresh, revision + 1));
            claimed = false;
        }

        @Override
        public synchronized void letGo(int revision) {
            claimed = false;
        }
    }

    @Test
    void aSlowReaderDoesNotBringOldTokensBack() throws Exception {
        store.firstWaits = true;
        CompletableFuture<Optional<Tokens>> slow = CompletableFuture.supplyAsync(grant::current);
        store.hasRead.await();
        CompletableFuture<Void> renewal = CompletableFuture.runAsync(() -> {
            assertThat(grant.renewed(OLD, old -> FRESH)).isEqualTo(FRESH);
            store.goesOn.countDown();
        });
        slow.get();
        renewal.get();
        assertThat(grant.current()).contains(FRESH);
    }

    @Test
    void whoComesSecondToARenewalDoesNotBringOldTokensBackForAMoment() throws Exception {
        store.firstWaits = true;
        CompletableFuture<Tokens> second = CompletableFuture.supplyAsync(() -> grant.renewed(OLD, old -> FRESH));
        store.hasRead.await();
        CompletableFuture<Void> first = CompletableFuture.runAsync(() -> {
            grant.renewed(OLD, old -> FRESH);
            store.goesOn.countDown();
            while (!second.isDone()) {
                assertThat(grant.current()).contains(FRESH);
            }
        });
        assertThat(second.get()).isEqualTo(FRESH);
        first.get();
    }

    @Test
    void onlyOneOfManyAsksTheTool() {
        AtomicInteger asked = new AtomicInteger();
        RenewedGrant otherProcess = new RenewedGrant(store, Clock.systemUTC());
        CompletableFuture<?>[] all = new CompletableFuture<?>[8];
        for (int i = 0; i < all.length; i++) {
            RenewedGrant one = i % 2 == 0 ? grant : otherProcess;
            all[i] = CompletableFuture.runAsync(() -> assertThat(one.renewed(OLD, old -> {
                        asked.incrementAndGet();
                        return FRESH;
                    }))
                    .isEqualTo(FRESH));
        }
        CompletableFuture.allOf(all).join();
        assertThat(asked).hasValue(1);
    }

    @Test
    void aRenewalThatFailsCanBeTriedAgain() {
        assertThatThrownBy(() -> grant.renewed(OLD, old -> {
                    throw new DestinationProblem(DestinationProblem.Kind.UNREACHABLE, "nobody answers");
                }))
                .hasMessage("nobody answers");
        assertThat(grant.renewed(OLD, old -> FRESH)).isEqualTo(FRESH);
        assertThat(grant.current()).contains(FRESH);
    }

    @Test
    void nobodySignedInIsNotMadeUp() {
        store.kept = Optional.empty();
        assertThat(grant.current()).isEmpty();
        assertThat(grant.renewed(OLD, old -> FRESH)).isEqualTo(OLD);
        assertThat(grant.current()).isEmpty();
    }
}

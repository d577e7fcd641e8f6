package remitto.server.destination;

import java.time.Clock;
import java.time.Duration;
import java.time.Instant;
import java.util.Optional;
import java.util.function.UnaryOperator;
import remitto.connect.destination.DestinationProblem;
import remitto.connect.signin.Grant;
import remitto.connect.signin.Grant.Tokens;

/**
 * A grant that many threads and processes use and one of them renews. What was read last is kept, since every call asks for
 * it. Tokens are read by one thread at a time: what one read before a renewal would otherwise take the place of what came of
 * it. Safe to share between threads.
 */
final class RenewedGrant implements Grant {
    private static final Duration RENEWING = Duration.ofSeconds(40);
    private static final Duration LOOK_AGAIN = Duration.ofMillis(200);

    private final Store store;
    private final Clock clock;
    private volatile Optional<Tokens> known = Optional.empty();

    RenewedGrant(Store store, Clock clock) {
        this.store = store;
        this.clock = clock;
    }

    /** @param revision counts the renewals */
    record Kept(Tokens tokens, int revision) {}

    /** Where the tokens are kept for all processes. */
    interface Store {
        Optional<Kept> read();

        /** @return false when the tokens are no longer of this revision, or somebody else renews them */
        boolean claim(int revision, Instant until);

        /** Puts other tokens in place of those of a revision, and ends the claim. */
        void replace(int revision, Tokens fresh);

        /** Ends the claim. */
        void letGo(int revision);
    }

    @Override
    public Optional<Tokens> current() {
        Optional<Tokens> kept = known;
        return kept.isPresent() ? kept : read();
    }

    private synchronized Optional<Tokens> read() {
        if (known.isEmpty()) {
            known = store.read().map(Kept::tokens);
        }
        return known;
    }

    @Override
    public synchronized Tokens renewed(Tokens used, UnaryOperator<Tokens> how) {
        Instant until = clock.instant().plus(RENEWING);
        while (clock.instant().isBefore(until)) {
            Optional<Kept> kept = store.read();
            known = kept.map(Kept::tokens);
            if (kept.isEmpty() || !kept.get().tokens().equals(used)) {
                return known.orElse(used);
            }
            if (store.claim(kept.get().revision(), clock.instant().plus(RENEWING))) {
                return renew(kept.get(), how);
            }
            pause();
        }
        throw new DestinationProblem(
                DestinationProblem.Kind.UNREACHABLE, "The sign-in is being renewed by another process for too long.");
    }

    private Tokens renew(Kept old, UnaryOperator<Tokens> how) {
        try {
            Tokens fresh = how.apply(old.tokens());
            store.replace(old.revision(), fresh);
            known = Optional.of(fresh);
            return fresh;
        } catch (RuntimeException e) {
            store.letGo(old.revision());
            throw e;
        }
    }

    private static void pause() {
        try {
            Thread.sleep(LOOK_AGAIN.toMillis());
        } catch (InterruptedException e) {
            Thread.currentThread().interrupt();
            throw new DestinationProblem(
                    DestinationProblem.Kind.UNREACHABLE, "stopped while the sign-in was being renewed");
        }
    }
}

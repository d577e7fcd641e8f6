package remitto.server.access;

import java.nio.charset.StandardCharsets;
import java.security.MessageDigest;
import java.security.NoSuchAlgorithmException;
import java.time.Clock;
import java.time.Duration;
import java.time.Instant;
import java.util.HexFormat;
import java.util.List;
import java.util.Locale;
import java.util.Optional;
import org.springframework.jdbc.core.simple.JdbcClient;
import org.springframework.stereotype.Component;
import remitto.server.platform.Rows;

/**
 * Slows down whoever guesses passwords. Failures are counted by account and address together, by account, and by address; each
 * count allows some, then locks for a time that doubles with each further failure. A lock is looked up before any password is
 * hashed. The count by account alone locks briefly only, so that nobody can be kept out of their own account by others.
 */
@Component
class SignInLock {
    private static final Duration FORGOTTEN_AFTER = Duration.ofHours(24);

    private final JdbcClient jdbc;
    private final Clock clock;

    SignInLock(JdbcClient jdbc, Clock clock) {
        this.jdbc = jdbc;
        this.clock = clock;
    }

    /**
     * One of the three counts.
     *
     * @param allowed failures without any lock
     * @param longest lock
     */
    private record Count(String subject, int allowed, Duration longest) {
        Optional<Duration> lock(int failures) {
            int beyond = failures - allowed;
            return beyond < 0
                    ? Optional.empty()
                    : Optional.of(Duration.ofSeconds(Math.min(longest.toSeconds(), 1L << Math.min(beyond, 20))));
        }
    }

    /** Who tries to sign in, from where. */
    record Attempt(String email, String address) {
        private List<Count> counts() {
            String account = email.strip().toLowerCase(Locale.ROOT);
            return List.of(
                    new Count(hash("pair " + account + " " + address), 5, Duration.ofMinutes(15)),
                    new Count(hash("account " + account), 50, Duration.ofMinutes(1)),
                    new Count(hash("address " + address), 30, Duration.ofMinutes(15)));
        }

        private static String hash(String text) {
            try {
                byte[] digest = MessageDigest.getInstance("SHA-256").digest(text.getBytes(StandardCharsets.UTF_8));
                return HexFormat.of().formatHex(digest);
            } catch (NoSuchAlgorithmException e) {
                throw new IllegalStateException("SHA-256 is part of every Java runtime", e);
            }
        }
    }

    /** How long an attempt has to wait; empty when it may go on. */
    Optional<Duration> wait(Attempt attempt) {
        Instant now = clock.instant();
        return jdbc.sql("select max(locked_until) as until from sign_in_failure where subject = any (?)")
                .param(attempt.counts().stream().map(Count::subject).toArray(String[]::new))
                .query((row, number) -> Rows.optionalTime(row, "until"))
                .single()
                .filter(until -> until.isAfter(now))
                .map(until -> Duration.between(now, until));
    }

    /**
     * Counts a failure.
     *
     * @return the lock that it led to
     */
    Optional<Duration> failed(Attempt attempt) {
        Instant now = clock.instant();
        Optional<Duration> longest = Optional.empty();
        for (Count count : attempt.counts()) {
            int failures = jdbc.sql("""
                            insert into sign_in_failure (subject, failures, last_at) values (:subject, 1, :now)
                            on conflict (subject) do update set last_at = :now,
                              failures = case when sign_in_failure.last_at < :forgotten then 1
                                              else sign_in_failure.failures + 1 end
                            returning failures
                            """)
                    .param("subject", count.subject())
                    .param("now", Rows.time(now))
                    .param("forgotten", Rows.time(now.minus(FORGOTTEN_AFTER)))
                    .query(Integer.class)
                    .single();
            Optional<Duration> lock = count.lock(failures);
            jdbc.sql("update sign_in_failure set locked_until = ? where subject = ?")
                    .params(lock.map(time -> Rows.time(now.plus(time))).orElse(null), count.subject())
                    .update();
            if (lock.isPresent() && (longest.isEmpty() || lock.get().compareTo(longest.get()) > 0)) {
                longest = lock;
            }
        }
        jdbc.sql("delete from sign_in_failure where last_at < ?")
                .param(Rows.time(now.minus(FORGOTTEN_AFTER)))
                .update();
        return longest;
    }

    /** Forgets failures of the account, not those of the address: others may be guessed from there. */
    void succeeded(Attempt attempt) {
        jdbc.sql("delete from sign_in_failure where subject = any (?)")
                .param(attempt.counts().stream().limit(2).map(Count::subject).toArray(String[]::new))
                .update();
    }
}

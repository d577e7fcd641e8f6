package remitto.server.destination;

import java.time.Clock;
import java.time.Duration;
import java.time.Instant;
import java.util.Map;
import java.util.Optional;
import java.util.function.UnaryOperator;
import org.springframework.jdbc.core.simple.JdbcClient;
import org.springframework.stereotype.Component;
import remitto.connect.destination.DestinationProblem;
import remitto.connect.signin.Grant;
import remitto.connect.signin.Grant.Tokens;
import remitto.server.platform.Rows;
import remitto.server.secret.Secrets;

/** What people allowed by signing in at the tools, sealed, and renewed by one process at a time. */
@Component
class Grants {
    private static final Duration RENEWING = Duration.ofSeconds(40);
    private static final Duration LOOK_AGAIN = Duration.ofMillis(200);

    private final JdbcClient jdbc;
    private final Secrets secrets;
    private final Clock clock;

    Grants(JdbcClient jdbc, Secrets secrets, Clock clock) {
        this.jdbc = jdbc;
        this.secrets = secrets;
        this.clock = clock;
    }

    /** Who signed in, and when the sign-in was renewed last. */
    record SignedIn(String by, Instant at, Optional<Instant> renewedAt) {}

    Optional<SignedIn> signedIn(long destinationId) {
        return jdbc.sql("""
                        select signed_in_by, signed_in_at, renewed_at from destination_grant where destination_id = ?
                        """)
                .param(destinationId)
                .query((row, number) -> new SignedIn(
                        row.getString("signed_in_by"),
                        Rows.time(row, "signed_in_at"),
                        Rows.optionalTime(row, "renewed_at")))
                .optional();
    }

    void keep(long destinationId, Tokens tokens, String who) {
        jdbc.sql("""
                        insert into destination_grant (destination_id, sealed, revision, signed_in_by, signed_in_at)
                        values (:id, :sealed, 1, :who, :now)
                        on conflict (destination_id) do update
                        set sealed = excluded.sealed, revision = destination_grant.revision + 1,
                            signed_in_by = excluded.signed_in_by, signed_in_at = excluded.signed_in_at,
                            renewed_at = null, renewing_until = null
                        """)
                .param("id", destinationId)
                .param("sealed", seal(tokens))
                .param("who", who)
                .param("now", Rows.time(clock.instant()))
                .update();
    }

    void forget(long destinationId) {
        jdbc.sql("delete from destination_grant where destination_id = ?")
                .param(destinationId)
                .update();
    }

    Grant of(long destinationId) {
        return new KeptGrant(destinationId);
    }

    private record Row(Tokens tokens, int revision) {}

    private Optional<Row> row(long destinationId) {
        return jdbc.sql("select sealed, revision from destination_grant where destination_id = ?")
                .param(destinationId)
                .query((row, number) -> new Row(open(row.getBytes("sealed")), row.getInt("revision")))
                .optional();
    }

    private byte[] seal(Tokens tokens) {
        return secrets.seal(Map.of("access", tokens.access(), "refresh", tokens.refresh()));
    }

    private Tokens open(byte[] sealed) {
        Map<String, String> kept = secrets.open(sealed);
        return new Tokens(kept.getOrDefault("access", ""), kept.getOrDefault("refresh", ""));
    }

    /** One destination's grant; what was read last is kept, since every call asks for it. */
    private final class KeptGrant implements Grant {
        private final long destinationId;
        private volatile Optional<Tokens> known = Optional.empty();

        KeptGrant(long destinationId) {
            this.destinationId = destinationId;
        }

        @Override
        public Optional<Tokens> current() {
            if (known.isEmpty()) {
                known = row(destinationId).map(Row::tokens);
            }
            return known;
        }

        @Override
        public Tokens renewed(Tokens used, UnaryOperator<Tokens> how) {
            Instant until = clock.instant().plus(RENEWING);
            while (clock.instant().isBefore(until)) {
                Optional<Row> row = row(destinationId);
                known = row.map(Row::tokens);
                if (row.isEmpty() || !row.get().tokens().equals(used)) {
                    return known.orElse(used);
                }
                if (claimed(row.get().revision())) {
                    return renew(row.get(), how);
                }
                pause();
            }
            throw new DestinationProblem(
                    DestinationProblem.Kind.UNREACHABLE,
                    "The sign-in is being renewed by another process for too long.");
        }

        private boolean claimed(int revision) {
            Instant now = clock.instant();
            return jdbc.sql("""
                            update destination_grant set renewing_until = :until
                            where destination_id = :id and revision = :revision
                              and (renewing_until is null or renewing_until < :now)
                            """)
                            .param("until", Rows.time(now.plus(RENEWING)))
                            .param("id", destinationId)
                            .param("revision", revision)
                            .param("now", Rows.time(now))
                            .update()
                    == 1;
        }

        private Tokens renew(Row row, UnaryOperator<Tokens> how) {
            try {
                Tokens fresh = how.apply(row.tokens());
                jdbc.sql("""
                                update destination_grant
                                set sealed = :sealed, revision = revision + 1, renewed_at = :now, renewing_until = null
                                where destination_id = :id and revision = :revision
                                """)
                        .param("sealed", seal(fresh))
                        .param("now", Rows.time(clock.instant()))
                        .param("id", destinationId)
                        .param("revision", row.revision())
                        .update();
                known = Optional.of(fresh);
                return fresh;
            } catch (RuntimeException e) {
                jdbc.sql("update destination_grant set renewing_until = null where destination_id = ? and revision = ?")
                        .params(destinationId, row.revision())
                        .update();
                throw e;
            }
        }

        private void pause() {
            try {
                Thread.sleep(LOOK_AGAIN.toMillis());
            } catch (InterruptedException e) {
                Thread.currentThread().interrupt();
                throw new DestinationProblem(
                        DestinationProblem.Kind.UNREACHABLE, "stopped while the sign-in was being renewed");
            }
        }
    }
}

package remitto.server.destination;

import java.time.Clock;
import java.time.Instant;
import java.util.Map;
import java.util.Optional;
import org.springframework.jdbc.core.simple.JdbcClient;
import org.springframework.stereotype.Component;
import remitto.connect.signin.Grant;
import remitto.connect.signin.Grant.Tokens;
import remitto.server.platform.Rows;
import remitto.server.secret.Place;
import remitto.server.secret.Secrets;

/** What people allowed by signing in at the tools, sealed, and renewed by one process at a time. */
@Component
class Grants {
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
                .param("sealed", seal(destinationId, tokens))
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
        return new RenewedGrant(new Row(destinationId), clock);
    }

    private byte[] seal(long destinationId, Tokens tokens) {
        return secrets.seal(place(destinationId), Map.of("access", tokens.access(), "refresh", tokens.refresh()));
    }

    private static Place place(long destinationId) {
        return Place.of("destination_grant", destinationId);
    }

    private Tokens open(long destinationId, byte[] sealed) {
        Map<String, String> kept = secrets.open(place(destinationId), sealed);
        return new Tokens(kept.getOrDefault("access", ""), kept.getOrDefault("refresh", ""));
    }

    /** The row of one destination. */
    private final class Row implements RenewedGrant.Store {
        private final long destinationId;

        Row(long destinationId) {
            this.destinationId = destinationId;
        }

        @Override
        public Optional<RenewedGrant.Kept> read() {
            return jdbc.sql("select sealed, revision from destination_grant where destination_id = ?")
                    .param(destinationId)
                    .query((row, number) ->
                            new RenewedGrant.Kept(open(destinationId, row.getBytes("sealed")), row.getInt("revision")))
                    .optional();
        }

        @Override
        public boolean claim(int revision, Instant until) {
            return jdbc.sql("""
                            update destination_grant set renewing_until = :until
                            where destination_id = :id and revision = :revision
                              and (renewing_until is null or renewing_until < :now)
                            """)
                            .param("until", Rows.time(until))
                            .param("id", destinationId)
                            .param("revision", revision)
                            .param("now", Rows.time(clock.instant()))
                            .update()
                    == 1;
        }

        @Override
        public void replace(int revision, Tokens fresh) {
            jdbc.sql("""
                            update destination_grant
                            set sealed = :sealed, revision = revision + 1, renewed_at = :now, renewing_until = null
                            where destination_id = :id and revision = :revision
                            """)
                    .param("sealed", seal(destinationId, fresh))
                    .param("now", Rows.time(clock.instant()))
                    .param("id", destinationId)
                    .param("revision", revision)
                    .update();
        }

        @Override
        public void letGo(int revision) {
            jdbc.sql("update destination_grant set renewing_until = null where destination_id = ? and revision = ?")
                    .params(destinationId, revision)
                    .update();
        }
    }
}

package remitto.server.destination;

import java.net.URI;
import java.security.SecureRandom;
import java.time.Clock;
import java.time.Duration;
import java.time.Instant;
import java.util.HexFormat;
import java.util.Map;
import java.util.Optional;
import org.apache.commons.codec.digest.DigestUtils;
import org.springframework.jdbc.core.simple.JdbcClient;
import org.springframework.stereotype.Component;
import remitto.server.platform.Rows;
import remitto.server.secret.Place;
import remitto.server.secret.Secrets;

/** Sign-ins that were begun here and have not come back from the tool. Each serves once, for who began it. */
@Component
class SignInAttempts {
    private static final Duration LIFE = Duration.ofMinutes(10);

    private final JdbcClient jdbc;
    private final Secrets secrets;
    private final Clock clock;
    private final SecureRandom random = new SecureRandom();

    SignInAttempts(JdbcClient jdbc, Secrets secrets, Clock clock) {
        this.jdbc = jdbc;
        this.secrets = secrets;
        this.clock = clock;
    }

    /** @param back the address the tool was told to come back to */
    record Attempt(long destinationId, String verifier, URI back) {}

    /** @return the state that comes back with the person */
    String begin(long destinationId, String verifier, URI back, String who) {
        byte[] bytes = new byte[24];
        random.nextBytes(bytes);
        String state = HexFormat.of().formatHex(bytes);
        String hash = DigestUtils.sha256Hex(state);
        Instant now = clock.instant();
        jdbc.sql("delete from sign_in_attempt where asked_at < ?")
                .param(Rows.time(now.minus(LIFE)))
                .update();
        jdbc.sql("""
                        insert into sign_in_attempt (state_hash, destination_id, sealed, back, asked_by, asked_at)
                        values (?, ?, ?, ?, ?, ?)
                        """)
                .params(
                        hash,
                        destinationId,
                        secrets.seal(place(hash), Map.of("verifier", verifier)),
                        back.toString(),
                        who,
                        Rows.time(now))
                .update();
        return state;
    }

    private static Place place(String stateHash) {
        return new Place("sign_in_attempt", stateHash);
    }

    Optional<Attempt> end(String state, String who) {
        return jdbc.sql("""
                        delete from sign_in_attempt where state_hash = ? and asked_by = ? and asked_at >= ?
                        returning destination_id, sealed, back
                        """)
                .params(
                        DigestUtils.sha256Hex(state),
                        who,
                        Rows.time(clock.instant().minus(LIFE)))
                .query((row, number) -> new Attempt(
                        row.getLong("destination_id"),
                        secrets.open(place(DigestUtils.sha256Hex(state)), row.getBytes("sealed"))
                                .getOrDefault("verifier", ""),
                        URI.create(row.getString("back"))))
                .optional();
    }
}

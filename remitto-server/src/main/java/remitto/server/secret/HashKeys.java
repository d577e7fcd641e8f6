package remitto.server.secret;

import java.security.SecureRandom;
import java.time.Clock;
import java.time.Instant;
import java.util.Base64;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import org.springframework.dao.DuplicateKeyException;
import org.springframework.jdbc.core.simple.JdbcClient;
import org.springframework.stereotype.Component;
import remitto.server.platform.ActorName;
import remitto.server.platform.Problem;
import remitto.server.platform.Rows;

/** Keys of keyed hashes, by name. A key is made here, kept sealed, never shown, and never changes. */
@Component
public class HashKeys {
    private static final int BYTES = 32;
    private static final String SEALED = "key";

    private final JdbcClient jdbc;
    private final Secrets secrets;
    private final Clock clock;
    private final SecureRandom random = new SecureRandom();

    HashKeys(JdbcClient jdbc, Secrets secrets, Clock clock) {
        this.jdbc = jdbc;
        this.secrets = secrets;
        this.clock = clock;
    }

    /** Who made a key, and when. */
    record HashKey(String name, @ActorName String madeBy, Instant madeAt) {}

    List<HashKey> all() {
        return jdbc.sql("select name, made_by, made_at from hash_key order by name")
                .query((row, at) ->
                        new HashKey(row.getString("name"), row.getString("made_by"), Rows.time(row, "made_at")))
                .list();
    }

    /** @param given the key as others know it, in Base64; absent for one at random */
    void make(String name, Optional<String> given, String who) {
        byte[] bytes = new byte[BYTES];
        random.nextBytes(bytes);
        String text = given.orElseGet(() -> Base64.getEncoder().encodeToString(bytes));
        try {
            if (Base64.getDecoder().decode(text).length < BYTES / 2) {
                throw Problem.invalid("A key has at least " + BYTES / 2 + " bytes.");
            }
            jdbc.sql("insert into hash_key (name, sealed, made_by, made_at) values (?, ?, ?, ?)")
                    .params(name, secrets.seal(place(name), Map.of(SEALED, text)), who, Rows.time(clock.instant()))
                    .update();
        } catch (DuplicateKeyException e) {
            throw Problem.conflict("There is a key " + name + " already; hashes made with it would no longer agree.");
        } catch (IllegalArgumentException e) {
            throw Problem.invalid("The key is given in Base64 (RFC 4648).");
        }
    }

    private static Place place(String name) {
        return new Place("hash_key", name);
    }

    public Optional<byte[]> find(String name) {
        return jdbc.sql("select sealed from hash_key where name = ?")
                .param(name)
                .query((row, at) -> row.getBytes("sealed"))
                .optional()
                .map(kept -> Base64.getDecoder()
                        .decode(secrets.open(place(name), kept).get(SEALED)));
    }
}

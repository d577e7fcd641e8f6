package remitto.server.rights.mark;

import java.security.SecureRandom;
import java.util.Base64;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.concurrent.atomic.AtomicReference;
import org.springframework.jdbc.core.simple.JdbcClient;
import org.springframework.stereotype.Component;
import remitto.core.consent.ErasureMark;
import remitto.server.secret.Place;
import remitto.server.secret.Secrets;

/** Keyed hashes of the records and addresses of people who were erased. The key is made at the first one, and kept sealed. */
@Component
public class ErasedMarks {
    private static final int BYTES = 32;
    private static final Place KEY = new Place("erasure_key", "true");

    private final JdbcClient jdbc;
    private final Secrets secrets;
    private final AtomicReference<Known> known = new AtomicReference<>(new Known("none", Map.of(), new byte[0]));
    private final SecureRandom random = new SecureRandom();

    ErasedMarks(JdbcClient jdbc, Secrets secrets) {
        this.jdbc = jdbc;
        this.secrets = secrets;
    }

    /** The marks of a version, and the key they were made with. */
    private record Known(String version, Map<String, Long> erasures, byte[] key) {}

    /** As they are now. They are read again only when an erasure came, went on, or was taken back. */
    public Marks now() {
        String version = jdbc.sql(
                        "select concat_ws(' ', max(id), count(forgotten_at), count(*) filter (where let_back_in <> ''))"
                                + " from erasure")
                .query(String.class)
                .single();
        Known now = known.updateAndGet(before -> before.version().equals(version) ? before : read(version));
        return now.erasures().isEmpty() ? Marks.NONE : new Marks(now.erasures(), now.key());
    }

    private Known read(String version) {
        Map<String, Long> erasures = new HashMap<>();
        jdbc.sql("select mark, erasure_id from erased_mark").query(row -> {
            erasures.put(row.getString("mark"), row.getLong("erasure_id"));
        });
        return new Known(version, Map.copyOf(erasures), erasures.isEmpty() ? new byte[0] : key());
    }

    /** A record by its dataset and key. */
    public record Record(long dataset, String key) {}

    /**
     * Marks what is to be turned away from now on. Part of the caller's transaction.
     *
     * @param addresses hashes of them
     */
    public void add(long erasure, List<Record> records, List<String> addresses) {
        ErasureMark mark = new ErasureMark(key());
        records.forEach(record -> add(erasure, mark.ofRecord(record.dataset(), record.key())));
        addresses.forEach(hash -> add(erasure, mark.ofAddress(hash)));
    }

    private void add(long erasure, String mark) {
        jdbc.sql("insert into erased_mark (mark, erasure_id) values (?, ?) on conflict do nothing")
                .params(mark, erasure)
                .update();
    }

    /** Lets what an erasure turned away come in again. */
    public int take(long erasure) {
        return jdbc.sql("delete from erased_mark where erasure_id = ?")
                .param(erasure)
                .update();
    }

    private byte[] key() {
        byte[] fresh = new byte[BYTES];
        random.nextBytes(fresh);
        jdbc.sql("insert into erasure_key (sealed) values (?) on conflict do nothing")
                .param(secrets.seal(KEY, Map.of("key", Base64.getEncoder().encodeToString(fresh))))
                .update();
        byte[] sealed = jdbc.sql("select sealed from erasure_key")
                .query((row, number) -> row.getBytes("sealed"))
                .single();
        return Base64.getDecoder().decode(secrets.open(KEY, sealed).get("key"));
    }
}

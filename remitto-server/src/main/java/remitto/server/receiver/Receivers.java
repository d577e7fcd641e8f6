package remitto.server.receiver;

import java.sql.ResultSet;
import java.sql.SQLException;
import java.time.Clock;
import java.time.Duration;
import java.time.Instant;
import java.util.List;
import java.util.Optional;
import org.springframework.jdbc.core.simple.JdbcClient;
import org.springframework.stereotype.Component;
import remitto.core.receiver.ReceiverDefinition;
import remitto.server.platform.ActorName;
import remitto.server.platform.Json;
import remitto.server.platform.Problem;
import remitto.server.platform.Rows;

/** Receivers and how far their calls have come. */
@Component
public class Receivers {
    /** Counting goes so far and no further. */
    private static final int MOST_COUNTED = 10_000;

    private static final String SELECT = """
            select r.id, r.source_id, s.name as source, r.name, r.table_name, r.definition, r.revision, r.shown_revision,
              r.author, r.saved_at, r.paused, r.problem,
              (select c.received_at from received_call c where c.receiver_id = r.id order by c.id desc limit 1) as last_at,
              (select count(*) from (select from received_call c where c.receiver_id = r.id and c.received_at > :since
                 and c.verdict <> 'REFUSED' limit :most) n) as lately,
              (select count(*) from (select from received_call c where c.receiver_id = r.id and c.revision < r.revision
                 and c.verdict <> 'REFUSED' limit :most) n) as waiting,
              (select count(*) from (select from received_call c where c.receiver_id = r.id and c.verdict = 'HELD'
                 limit :most) n) as held
            from receiver r join source s on s.id = r.source_id
            """;

    private final JdbcClient jdbc;
    private final Json json;
    private final Clock clock;

    Receivers(JdbcClient jdbc, Json json, Clock clock) {
        this.jdbc = jdbc;
        this.json = json;
        this.clock = clock;
    }

    /**
     * How many calls there are. Each is counted up to 10,000.
     *
     * @param lastDay that came in within 24 hours and were not refused
     * @param waiting that are kept and not laid out in columns yet
     * @param held that do not fit
     * @param lastAt when the latest call came in, a refused one too; absent before the first
     */
    public record CallCounts(long lastDay, long waiting, long held, Optional<Instant> lastAt) {}

    /**
     * Takes calls of one tool and keeps them in one table.
     *
     * @param table of the schema {@code landed}, which datasets are read from
     * @param revision of the definition; each change of what rows are is another
     * @param shownRevision whose rows the table shows; 0 before there is a table
     * @param catching whether calls are caught as samples, of which nothing is made yet
     * @param layingOut whether calls are being laid out anew by a changed definition, while the table shows the rows as they were before
     * @param problem why calls could not be laid out; blank when they could
     */
    public record Receiver(
            long id,
            long sourceId,
            String source,
            String name,
            String table,
            ReceiverDefinition definition,
            int revision,
            int shownRevision,
            boolean catching,
            boolean layingOut,
            @ActorName String author,
            Instant savedAt,
            boolean paused,
            String problem,
            CallCounts counts) {}

    private JdbcClient.StatementSpec select(String where) {
        return jdbc.sql(SELECT + where)
                .param("since", Rows.time(clock.instant().minus(Duration.ofDays(1))))
                .param("most", MOST_COUNTED);
    }

    /** By name. */
    public List<Receiver> all() {
        return select(" where r.archived_at is null order by r.name")
                .query((row, number) -> receiver(row))
                .list();
    }

    /** Also those that were archived, whose rows are still there. */
    List<Receiver> withArchived() {
        return select("").query((row, number) -> receiver(row)).list();
    }

    /** @throws Problem if there is none, or none any more */
    public Receiver get(long id) {
        return select(" where r.id = :id and r.archived_at is null")
                .param("id", id)
                .query((row, number) -> receiver(row))
                .optional()
                .orElseThrow(() -> Problem.notFound("receiver " + id));
    }

    /** Those whose calls are laid out in columns. */
    List<Long> due() {
        return jdbc.sql("""
                        select r.id from receiver r join source s on s.id = r.source_id
                        where r.archived_at is null and s.archived_at is null and not r.paused order by r.id
                        """).query(Long.class).list();
    }

    /** Which other receiver has a name. */
    Optional<String> takenBy(String name, long but) {
        return jdbc.sql("select name from receiver where name = ? and id <> ? and archived_at is null")
                .params(name, but)
                .query(String.class)
                .optional();
    }

    /** Its id is known first, since secrets are sealed for the row that they are kept in. */
    long nextId() {
        return jdbc.sql("select nextval(pg_get_serial_sequence('receiver', 'id'))")
                .query(Long.class)
                .single();
    }

    void add(long id, ReceiverKeeping.Wanted wanted, int revision, byte[] codeHash, byte[] secret, String author) {
        jdbc.sql("""
                        insert into receiver (id, source_id, name, table_name, definition, revision, code_hash, secret,
                          author, saved_at, created_at)
                        overriding system value values (?, ?, ?, ?, ?::jsonb, ?, ?, ?, ?, ?, ?)
                        """)
                .params(
                        id,
                        wanted.sourceId(),
                        wanted.name(),
                        wanted.table(),
                        json.write(wanted.definition()),
                        revision,
                        codeHash,
                        secret,
                        author,
                        Rows.time(clock.instant()),
                        Rows.time(clock.instant()))
                .update();
    }

    /** @throws Problem if somebody saved another revision since {@code basedOn} */
    void save(long id, int basedOn, int revision, ReceiverKeeping.Wanted wanted, String author) {
        int saved = jdbc.sql("""
                        update receiver set name = ?, definition = ?::jsonb, revision = ?, author = ?, saved_at = ?
                        where id = ? and revision = ?
                        """)
                .params(
                        wanted.name(),
                        json.write(wanted.definition()),
                        revision,
                        author,
                        Rows.time(clock.instant()),
                        id,
                        basedOn)
                .update();
        if (saved == 0) {
            throw Problem.conflict("Someone saved this receiver meanwhile. Reload to see it.");
        }
    }

    void pause(long id, boolean paused) {
        jdbc.sql("update receiver set paused = ? where id = ?")
                .params(paused, id)
                .update();
    }

    void problem(long id, String problem) {
        jdbc.sql("update receiver set problem = ? where id = ? and problem <> ?")
                .params(problem, id, problem)
                .update();
    }

    private Receiver receiver(ResultSet row) throws SQLException {
        ReceiverDefinition definition = json.read(row.getString("definition"), ReceiverDefinition.class);
        return new Receiver(
                row.getLong("id"),
                row.getLong("source_id"),
                row.getString("source"),
                row.getString("name"),
                row.getString("table_name"),
                definition,
                row.getInt("revision"),
                row.getInt("shown_revision"),
                definition.isCatching(),
                !definition.isCatching() && row.getInt("revision") != row.getInt("shown_revision"),
                row.getString("author"),
                Rows.time(row, "saved_at"),
                row.getBoolean("paused"),
                row.getString("problem"),
                new CallCounts(
                        row.getLong("lately"),
                        row.getLong("waiting"),
                        row.getLong("held"),
                        Rows.optionalTime(row, "last_at")));
    }
}

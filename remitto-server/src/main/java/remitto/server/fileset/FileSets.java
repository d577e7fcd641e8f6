package remitto.server.fileset;

import java.sql.ResultSet;
import java.sql.SQLException;
import java.time.Clock;
import java.time.Instant;
import java.util.List;
import java.util.Optional;
import org.springframework.jdbc.core.simple.JdbcClient;
import org.springframework.stereotype.Component;
import remitto.core.fileset.FileSetDefinition;
import remitto.server.platform.ActorName;
import remitto.server.platform.Json;
import remitto.server.platform.Problem;
import remitto.server.platform.Rows;

/** Sets of files and how far their reading has come. */
@Component
public class FileSets {
    private static final String SELECT = """
            select f.id, f.source_id, s.name as source, f.name, f.table_name, f.definition, f.revision, f.shown_revision,
              f.author, f.saved_at, f.paused, f.looked_at, f.problem, l.*
            from file_set f join source s on s.id = f.source_id
            cross join lateral (
              select count(*) filter (where state = 'READ') as files_read, count(*) filter (where state = 'FAILED') as failed,
                count(*) filter (where state = 'SEEN') as waiting, coalesce(sum(held), 0) as held,
                max(read_at) as read_at
              from landed_file where file_set_id = f.id) l
            """;

    private final JdbcClient jdbc;
    private final Json json;
    private final Clock clock;

    FileSets(JdbcClient jdbc, Json json, Clock clock) {
        this.jdbc = jdbc;
        this.json = json;
        this.clock = clock;
    }

    /**
     * How many files of a set there are.
     *
     * @param read whose rows are kept
     * @param failed that cannot be read as they are
     * @param waiting that may still be written to, or could not be reached
     * @param heldRows that do not fit
     */
    public record FileCounts(long read, long failed, long waiting, long heldRows) {}

    /**
     * A set of files whose rows are kept in one table.
     *
     * @param table of the schema {@code landed}, which datasets are read from
     * @param revision of the definition; each change of what rows are is another
     * @param reading whether files are being read again by a changed definition, while the table shows the rows as they were before
     * @param lookedAt when its source was last looked at for files
     * @param readAt when a file was last read
     * @param problem why the latest look failed; blank when it went well
     */
    public record FileSet(
            long id,
            long sourceId,
            String source,
            String name,
            String table,
            FileSetDefinition definition,
            int revision,
            int shownRevision,
            boolean reading,
            @ActorName String author,
            Instant savedAt,
            boolean paused,
            Optional<Instant> lookedAt,
            Optional<Instant> readAt,
            String problem,
            FileCounts counts) {}

    public List<FileSet> all() {
        return jdbc.sql(SELECT + " where f.archived_at is null order by f.name")
                .query((row, number) -> set(row))
                .list();
    }

    /** Also those that were archived, whose rows are still there. */
    List<FileSet> withArchived() {
        return jdbc.sql(SELECT).query((row, number) -> set(row)).list();
    }

    public FileSet get(long id) {
        return jdbc.sql(SELECT + " where f.id = ? and f.archived_at is null")
                .param(id)
                .query((row, number) -> set(row))
                .optional()
                .orElseThrow(() -> Problem.notFound("file set " + id));
    }

    /** Those that are looked after by themselves. */
    List<Long> due() {
        return jdbc.sql("""
                        select f.id from file_set f join source s on s.id = f.source_id
                        where f.archived_at is null and s.archived_at is null and not f.paused order by f.id
                        """).query(Long.class).list();
    }

    /** Which other set has a name. */
    Optional<String> takenBy(String name, long but) {
        return jdbc.sql("select name from file_set where name = ? and id <> ? and archived_at is null")
                .params(name, but)
                .query(String.class)
                .optional();
    }

    /** Frees the name of a table whose set was archived. */
    void retire(String table) {
        jdbc.sql("""
                        update file_set set table_name = 'archived_' || id where table_name = ? and archived_at is not null
                        """).param(table).update();
    }

    long add(long source, String name, String table, FileSetDefinition definition, String author) {
        return jdbc.sql("""
                        insert into file_set (source_id, name, table_name, definition, revision, shown_revision, author,
                          saved_at, created_at)
                        values (?, ?, ?, ?::jsonb, 1, 1, ?, ?, ?) returning id
                        """)
                .params(
                        source,
                        name,
                        table,
                        json.write(definition),
                        author,
                        Rows.time(clock.instant()),
                        Rows.time(clock.instant()))
                .query(Long.class)
                .single();
    }

    /** @throws Problem if somebody saved another revision since {@code basedOn} */
    void save(long id, int basedOn, int revision, String name, FileSetDefinition definition, String author) {
        int saved = jdbc.sql("""
                        update file_set set name = ?, definition = ?::jsonb, revision = ?, author = ?, saved_at = ?
                        where id = ? and revision = ?
                        """)
                .params(name, json.write(definition), revision, author, Rows.time(clock.instant()), id, basedOn)
                .update();
        if (saved == 0) {
            throw Problem.conflict("Someone saved this file set meanwhile. Reload to see it.");
        }
    }

    void shown(long id, int revision) {
        jdbc.sql("update file_set set shown_revision = ? where id = ?")
                .params(revision, id)
                .update();
    }

    void pause(long id, boolean paused) {
        jdbc.sql("update file_set set paused = ? where id = ?")
                .params(paused, id)
                .update();
    }

    void looked(long id, String problem) {
        jdbc.sql("update file_set set looked_at = ?, problem = ? where id = ?")
                .params(Rows.time(clock.instant()), problem, id)
                .update();
    }

    private FileSet set(ResultSet row) throws SQLException {
        return new FileSet(
                row.getLong("id"),
                row.getLong("source_id"),
                row.getString("source"),
                row.getString("name"),
                row.getString("table_name"),
                json.read(row.getString("definition"), FileSetDefinition.class),
                row.getInt("revision"),
                row.getInt("shown_revision"),
                row.getInt("revision") != row.getInt("shown_revision"),
                row.getString("author"),
                Rows.time(row, "saved_at"),
                row.getBoolean("paused"),
                Rows.optionalTime(row, "looked_at"),
                Rows.optionalTime(row, "read_at"),
                row.getString("problem"),
                new FileCounts(
                        row.getLong("files_read"), row.getLong("failed"), row.getLong("waiting"), row.getLong("held")));
    }
}

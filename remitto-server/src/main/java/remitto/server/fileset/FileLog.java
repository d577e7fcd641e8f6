package remitto.server.fileset;

import java.sql.ResultSet;
import java.sql.SQLException;
import java.time.Clock;
import java.time.Instant;
import java.util.List;
import java.util.Optional;
import org.springframework.jdbc.core.JdbcTemplate;
import org.springframework.jdbc.core.simple.JdbcClient;
import org.springframework.stereotype.Component;
import remitto.core.fileset.KnownFile;
import remitto.core.fileset.ListedFile;
import remitto.server.platform.Personal;
import remitto.server.platform.Problem;
import remitto.server.platform.Rows;

/** What is known of every file of a set, and its rows that are held. */
@Component
class FileLog {
    private final JdbcClient jdbc;
    private final JdbcTemplate template;
    private final Clock clock;

    FileLog(JdbcClient jdbc, JdbcTemplate template, Clock clock) {
        this.jdbc = jdbc;
        this.template = template;
        this.clock = clock;
    }

    /**
     * A file of a set.
     *
     * @param size in bytes
     * @param state SUPERSEDED where a newer file is the whole
     * @param readAt absent while it was not read
     * @param rows of it that are kept
     * @param held rows of it that do not fit
     * @param problem why it failed, or what else is to be said of it; blank for nothing
     */
    record LandedFile(
            long id,
            String path,
            long size,
            Instant modifiedAt,
            KnownFile.State state,
            Optional<Instant> readAt,
            long rows,
            long held,
            String problem) {}

    /**
     * A row of a file that does not fit.
     *
     * @param line at which it begins in the unpacked file
     * @param content as it stands in the file, perhaps cut after 100,000 characters
     */
    record HeldFileRow(
            long line,
            @Personal(Personal.Part.IN_TEXT) String problem,
            @Personal String content) {}

    /** What reading a file came to. */
    record Outcome(KnownFile.State state, int revision, String sha256, long rows, long held, String problem) {}

    /** A known file with what it was read as. */
    record Known(long id, KnownFile file, String sha256, long rows) {}

    List<Known> known(long set) {
        return jdbc.sql("select * from landed_file where file_set_id = ?")
                .param(set)
                .query((row, number) -> new Known(
                        row.getLong("id"),
                        new KnownFile(
                                new ListedFile(
                                        row.getString("path"),
                                        row.getLong("size"),
                                        Rows.time(row, "modified_at"),
                                        row.getString("tag")),
                                KnownFile.State.valueOf(row.getString("state")),
                                row.getInt("revision"),
                                Rows.time(row, "seen_at")),
                        row.getString("sha256"),
                        row.getLong("rows")))
                .list();
    }

    /** Notes that a file is listed like this. What is known of its rows stays. */
    long seen(long set, ListedFile file) {
        return jdbc.sql("""
                        insert into landed_file (file_set_id, path, size, modified_at, tag, state, revision, seen_at)
                        values (?, ?, ?, ?, ?, 'SEEN', 0, ?)
                        on conflict (file_set_id, path) do update set size = excluded.size,
                          modified_at = excluded.modified_at, tag = excluded.tag, state = 'SEEN',
                          seen_at = case when (landed_file.size, landed_file.modified_at, landed_file.tag, landed_file.state)
                            = (excluded.size, excluded.modified_at, excluded.tag, 'SEEN')
                            then landed_file.seen_at else excluded.seen_at end
                        returning id
                        """)
                .params(
                        set,
                        file.path(),
                        file.size(),
                        Rows.time(file.modifiedAt()),
                        file.tag(),
                        Rows.time(clock.instant()))
                .query(Long.class)
                .single();
    }

    /** What was read of it before stays, with the rows that are held. */
    void failed(long file, int revision, String problem) {
        jdbc.sql("""
                        update landed_file set state = 'FAILED', revision = ?, sha256 = '', problem = ?, read_at = ? where id = ?
                        """)
                .params(revision, problem, Rows.time(clock.instant()), file)
                .update();
    }

    void settled(long file, Outcome outcome) {
        jdbc.sql("""
                        update landed_file set state = ?, revision = ?, sha256 = ?, rows = ?, held = ?, problem = ?, read_at = ?
                        where id = ?
                        """)
                .params(
                        outcome.state().name(),
                        outcome.revision(),
                        outcome.sha256(),
                        outcome.rows(),
                        outcome.held(),
                        outcome.problem(),
                        Rows.time(clock.instant()),
                        file)
                .update();
    }

    /** The place says that it changed, and its content is what was read. */
    void listedAnew(long file, ListedFile listed, int revision) {
        jdbc.sql("""
                        update landed_file set size = ?, modified_at = ?, tag = ?, state = 'READ', revision = ? where id = ?
                        """)
                .params(listed.size(), Rows.time(listed.modifiedAt()), listed.tag(), revision, file)
                .update();
    }

    void passedOver(long file) {
        jdbc.sql("update landed_file set state = 'SUPERSEDED' where id = ?")
                .param(file)
                .update();
    }

    void note(long file, String problem) {
        jdbc.sql("update landed_file set problem = ? where id = ?")
                .params(problem, file)
                .update();
    }

    /** Other files than the one that is the whole have no rows any more. */
    void superseded(long set, long but) {
        jdbc.sql("""
                        delete from held_file_row where file_id in (
                          select id from landed_file where file_set_id = ? and id <> ?)
                        """).params(set, but).update();
        jdbc.sql("""
                        update landed_file set state = 'SUPERSEDED', rows = 0, held = 0, sha256 = ''
                        where file_set_id = ? and id <> ? and state = 'READ'
                        """).params(set, but).update();
    }

    void hold(long file, List<HeldFileRow> rows) {
        jdbc.sql("delete from held_file_row where file_id = ?").param(file).update();
        template.batchUpdate(
                "insert into held_file_row (file_id, line, problem, content) values (?, ?, ?, ?)",
                rows,
                1_000,
                (statement, row) -> {
                    statement.setLong(1, file);
                    statement.setLong(2, row.line());
                    statement.setString(3, row.problem());
                    statement.setString(4, row.content().replace('\0', '\uFFFD'));
                });
    }

    List<LandedFile> files(long set, int most, int from) {
        return jdbc.sql("""
                        select * from landed_file where file_set_id = ?
                        order by modified_at desc, path desc limit ? offset ?
                        """)
                .params(set, most, from)
                .query((row, number) -> file(row))
                .list();
    }

    LandedFile file(long set, long id) {
        return jdbc.sql("select * from landed_file where file_set_id = ? and id = ?")
                .params(set, id)
                .query((row, number) -> file(row))
                .optional()
                .orElseThrow(() -> Problem.notFound("file " + id + " of file set " + set));
    }

    List<HeldFileRow> held(long file, int most) {
        return jdbc.sql("select line, problem, content from held_file_row where file_id = ? order by line limit ?")
                .params(file, most)
                .query((row, number) ->
                        new HeldFileRow(row.getLong("line"), row.getString("problem"), row.getString("content")))
                .list();
    }

    private static LandedFile file(ResultSet row) throws SQLException {
        return new LandedFile(
                row.getLong("id"),
                row.getString("path"),
                row.getLong("size"),
                Rows.time(row, "modified_at"),
                KnownFile.State.valueOf(row.getString("state")),
                Rows.optionalTime(row, "read_at"),
                row.getLong("rows"),
                row.getLong("held"),
                row.getString("problem"));
    }
}

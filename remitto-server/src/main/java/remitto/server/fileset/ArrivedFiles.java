package remitto.server.fileset;

import java.sql.ResultSet;
import java.sql.SQLException;
import java.time.Instant;
import java.util.List;
import java.util.Optional;
import org.springframework.jdbc.core.simple.JdbcClient;
import org.springframework.stereotype.Component;
import remitto.core.fileset.KnownFile;
import remitto.server.arrival.Arrival;
import remitto.server.arrival.Arriving;
import remitto.server.landing.LandedSchema;
import remitto.server.platform.Rows;

/** Files among all that comes in. */
@Component
class ArrivedFiles implements Arriving {
    private static final String SELECT = """
            select l.id, coalesce(l.read_at, l.seen_at) as at, l.path, l.state, l.rows, l.held, l.problem,
              f.id as file_set, f.name, f.source_id, s.name as source
            from landed_file l join file_set f on f.id = l.file_set_id join source s on s.id = f.source_id
            """;

    private final FileSets sets;
    private final LandedSchema schema;
    private final JdbcClient jdbc;

    ArrivedFiles(FileSets sets, LandedSchema schema, JdbcClient jdbc) {
        this.sets = sets;
        this.schema = schema;
        this.jdbc = jdbc;
    }

    @Override
    public Arrival.Kind kind() {
        return Arrival.Kind.FILE;
    }

    @Override
    public List<Arrival> latest(Wanted wanted) {
        return jdbc.sql(SELECT + """
                        where f.archived_at is null and (:source = 0 or f.source_id = :source)
                          and (not :troubled or l.state = 'FAILED' or l.held > 0)
                          and coalesce(l.read_at, l.seen_at) < :before
                        order by coalesce(l.read_at, l.seen_at) desc, l.id desc limit :most
                        """)
                .param("source", wanted.source().orElse(0L))
                .param("troubled", wanted.troubled())
                .param("before", Rows.time(wanted.before().orElse(Instant.parse("9999-01-01T00:00:00Z"))))
                .param("most", wanted.most())
                .query((row, number) -> arrival(row))
                .list();
    }

    private static Arrival arrival(ResultSet row) throws SQLException {
        KnownFile.State state = KnownFile.State.valueOf(row.getString("state"));
        long held = row.getLong("held");
        String problem = row.getString("problem");
        return new Arrival(
                Arrival.Kind.FILE,
                row.getLong("id"),
                Rows.time(row, "at"),
                subject(row),
                row.getString("path"),
                row.getLong("rows"),
                List.of(),
                mark(state, held),
                held > 0 && problem.isEmpty() ? held + (held == 1 ? " row is held" : " rows are held") : problem);
    }

    private static Arrival.Subject subject(ResultSet row) throws SQLException {
        return new Arrival.Subject(
                row.getLong("file_set"), row.getString("name"), row.getLong("source_id"), row.getString("source"));
    }

    private static Arrival.Mark mark(KnownFile.State state, long held) {
        return switch (state) {
            case SEEN -> Arrival.Mark.WAITING;
            case FAILED -> Arrival.Mark.FAILED;
            case READ, SUPERSEDED -> held > 0 ? Arrival.Mark.HELD : Arrival.Mark.FITS;
        };
    }

    @Override
    public List<HourOfSubject> hours(Instant since) {
        return jdbc.sql("""
                        select f.id as file_set, f.name, f.source_id, s.name as source,
                          date_trunc('hour', coalesce(l.read_at, l.seen_at), 'UTC') as hour, count(*) as files
                        from landed_file l join file_set f on f.id = l.file_set_id join source s on s.id = f.source_id
                        where f.archived_at is null and coalesce(l.read_at, l.seen_at) >= ?
                        group by 1, 2, 3, 4, 5
                        """)
                .param(Rows.time(since))
                .query((row, number) -> new HourOfSubject(subject(row), Rows.time(row, "hour"), row.getLong("files")))
                .list();
    }

    @Override
    public Optional<ArrivedRows> rows(long id, int most) {
        return jdbc.sql(SELECT + " where l.id = ? and f.archived_at is null")
                .param(id)
                .query((row, number) -> arrival(row))
                .optional()
                .map(arrival -> rows(arrival, sets.get(arrival.subject().id()), most));
    }

    private ArrivedRows rows(Arrival arrival, FileSets.FileSet set, int most) {
        String table = LandedTables.table(set.id(), set.shownRevision());
        List<String> there = schema.columns(table);
        List<String> columns =
                set.definition().names().stream().filter(there::contains).toList();
        if (columns.isEmpty()) {
            return new ArrivedRows(arrival, "", List.of(), List.of());
        }
        List<List<Optional<String>>> rows = jdbc.sql("select " + LandedSchema.list(columns) + " from " + table
                        + " where _file = ? order by _line limit ?")
                .params(arrival.id(), most)
                .query((row, number) -> LandedSchema.cells(row, columns))
                .list();
        return new ArrivedRows(arrival, set.table(), columns, rows);
    }
}

package remitto.server.expectation;

import java.sql.ResultSet;
import java.sql.SQLException;
import java.time.Instant;
import java.util.List;
import java.util.Optional;
import org.springframework.jdbc.core.simple.JdbcClient;
import org.springframework.stereotype.Component;
import remitto.core.expectation.Finding;
import remitto.server.arrival.Arrival;
import remitto.server.arrival.Arriving;
import remitto.server.platform.Json;
import remitto.server.platform.Rows;

/** Reads of datasets from end to end, among all that comes in. Those of what matching and counting make are not: nothing comes in by them. */
@Component
class ArrivedReads implements Arriving {
    private static final String SELECT = """
            select r.id, r.read_at, r.reader, r.reader_name, r.rows, r.findings, d.id as dataset, d.name, d.source_id,
              s.name as source
            from dataset_read r join dataset d on d.id = r.dataset_id join source s on s.id = d.source_id
            """;
    private static final String COMES_IN = " d.archived_at is null and s.kind <> 'people' ";

    private final JdbcClient jdbc;
    private final Json json;

    ArrivedReads(JdbcClient jdbc, Json json) {
        this.jdbc = jdbc;
        this.json = json;
    }

    @Override
    public Arrival.Kind kind() {
        return Arrival.Kind.READ;
    }

    @Override
    public List<Arrival> latest(Wanted wanted) {
        return jdbc.sql(SELECT + " where " + COMES_IN + """
                        and (:source = 0 or d.source_id = :source)
                          and (not :troubled or r.findings @> '[{"met": false}]')
                          and r.read_at < :before
                        order by r.read_at desc, r.id desc limit :most
                        """)
                .param("source", wanted.source().orElse(0L))
                .param("troubled", wanted.troubled())
                .param("before", Rows.time(wanted.before().orElse(Instant.parse("9999-01-01T00:00:00Z"))))
                .param("most", wanted.most())
                .query((row, number) -> arrival(row))
                .list();
    }

    private Arrival arrival(ResultSet row) throws SQLException {
        Optional<Finding> broken = List.of(json.read(row.getString("findings"), Finding[].class)).stream()
                .filter(one -> !one.met())
                .findFirst();
        return new Arrival(
                Arrival.Kind.READ,
                row.getLong("id"),
                Rows.time(row, "read_at"),
                subject(row),
                readFor(ReadFor.Reader.valueOf(row.getString("reader")), row.getString("reader_name")),
                row.getLong("rows"),
                List.of(),
                broken.isPresent() ? Arrival.Mark.UNEXPECTED : Arrival.Mark.FITS,
                broken.map(Finding::sentence).orElse(""));
    }

    private static String readFor(ReadFor.Reader reader, String name) {
        return switch (reader) {
            case ROUTE -> "read for route " + name;
            case MATCHING -> "read for matching";
            case CHECK -> "read for a check";
        };
    }

    private static Arrival.Subject subject(ResultSet row) throws SQLException {
        return new Arrival.Subject(
                row.getLong("dataset"), row.getString("name"), row.getLong("source_id"), row.getString("source"));
    }

    @Override
    public List<HourOfSubject> hours(Instant since) {
        return jdbc.sql("""
                        select d.id as dataset, d.name, d.source_id, s.name as source,
                          date_trunc('hour', r.read_at, 'UTC') as hour, count(*) as reads
                        from dataset_read r join dataset d on d.id = r.dataset_id join source s on s.id = d.source_id
                        where r.read_at >= ? and""" + COMES_IN + "group by 1, 2, 3, 4, 5")
                .param(Rows.time(since))
                .query((row, number) -> new HourOfSubject(subject(row), Rows.time(row, "hour"), row.getLong("reads")))
                .list();
    }

    /** Which of its rows are new is not known. */
    @Override
    public Optional<ArrivedRows> rows(long id, int most) {
        return jdbc.sql(SELECT + " where r.id = ? and" + COMES_IN)
                .param(id)
                .query((row, number) -> new ArrivedRows(arrival(row), "", List.of(), List.of()))
                .optional();
    }
}

package remitto.server.expectation;

import java.sql.ResultSet;
import java.sql.SQLException;
import java.time.Instant;
import java.util.List;
import java.util.Optional;
import org.springframework.jdbc.core.simple.JdbcClient;
import org.springframework.stereotype.Component;
import org.springframework.transaction.annotation.Transactional;
import remitto.core.columnprofile.ReadProfile;
import remitto.core.expectation.Finding;
import remitto.server.platform.Json;
import remitto.server.platform.Rows;

/** Reads of datasets from end to end, and what was found. The last {@value #KEPT} of each dataset are kept. */
@Component
class DatasetReads {
    static final int KEPT = 200;
    private static final int COMPARED = 7;

    private final JdbcClient jdbc;
    private final Json json;

    DatasetReads(JdbcClient jdbc, Json json) {
        this.jdbc = jdbc;
        this.json = json;
    }

    /**
     * A read that was kept.
     *
     * @param profile absent where the columns were profiled shortly before
     */
    record KeptRead(
            long id,
            int version,
            Instant at,
            ReadFor reader,
            long rows,
            Optional<ReadProfile> profile,
            List<Finding> findings) {}

    /** Rows of the last reads. */
    List<Long> lastCounts(long dataset) {
        return jdbc.sql("select rows from dataset_read where dataset_id = ? order by id desc limit ?")
                .params(dataset, COMPARED)
                .query(Long.class)
                .list();
    }

    @Transactional
    void keep(ReadWatch watch, ReadWatch.Seen seen, ReadFor reader, Instant now) {
        jdbc.sql("""
                        insert into dataset_read (dataset_id, version, read_at, reader, reader_name, rows, profile, findings)
                        values (?, ?, ?, ?, ?, ?, ?::jsonb, ?::jsonb)
                        """)
                .params(
                        watch.dataset(),
                        watch.version(),
                        Rows.time(now),
                        reader.reader().name(),
                        reader.name(),
                        seen.rows(),
                        seen.profile().map(json::write).orElse(null),
                        json.write(seen.findings()))
                .update();
        jdbc.sql("""
                        delete from dataset_read where dataset_id = :dataset and id <= (
                          select id from dataset_read where dataset_id = :dataset order by id desc offset :kept limit 1)
                        """).param("dataset", watch.dataset()).param("kept", KEPT).update();
        found(watch.dataset(), seen.findings(), now);
    }

    /** Notes which expectations are not met, since when, and which are met again. */
    @Transactional
    void found(long dataset, List<Finding> findings, Instant now) {
        for (Finding one : findings) {
            if (one.met()) {
                jdbc.sql("delete from broken_expectation where dataset_id = ? and expectation = ?")
                        .params(dataset, one.expectation().sentence())
                        .update();
            } else {
                jdbc.sql("""
                                insert into broken_expectation (dataset_id, expectation, response, since, rows, detail)
                                values (?, ?, ?, ?, ?, ?) on conflict (dataset_id, expectation)
                                do update set response = excluded.response, rows = excluded.rows, detail = excluded.detail
                                """)
                        .params(
                                dataset,
                                one.expectation().sentence(),
                                one.expectation().response().name(),
                                Rows.time(now),
                                one.rows(),
                                one.detail())
                        .update();
            }
        }
    }

    /** What is not expected any more is not broken. */
    void expectedNow(long dataset, List<String> sentences) {
        jdbc.sql("delete from broken_expectation where dataset_id = ? and not expectation = any(?)")
                .params(dataset, sentences.toArray(String[]::new))
                .update();
    }

    /** The last reads, the newest first. */
    List<KeptRead> last(long dataset, int most) {
        return jdbc.sql("select * from dataset_read where dataset_id = ? order by id desc limit ?")
                .params(dataset, most)
                .query((row, number) -> read(row))
                .list();
    }

    /** The last reads whose columns were profiled, the newest first. */
    List<KeptRead> lastProfiled(long dataset, int most) {
        return jdbc.sql(
                        "select * from dataset_read where dataset_id = ? and profile is not null order by id desc limit ?")
                .params(dataset, most)
                .query((row, number) -> read(row))
                .list();
    }

    /** Whether the columns of a version were profiled since. */
    boolean isProfiledSince(ReadWatch.Of of, Instant since) {
        return jdbc.sql("""
                        select exists (select from dataset_read
                          where dataset_id = ? and version = ? and profile is not null and read_at > ?)
                        """)
                .params(of.dataset(), of.version(), Rows.time(since))
                .query(Boolean.class)
                .single();
    }

    Optional<Instant> lastAt(long dataset) {
        return jdbc.sql("select max(read_at) as at from dataset_read where dataset_id = ?")
                .param(dataset)
                .query((row, number) -> Rows.optionalTime(row, "at"))
                .single();
    }

    private KeptRead read(ResultSet row) throws SQLException {
        return new KeptRead(
                row.getLong("id"),
                row.getInt("version"),
                Rows.time(row, "read_at"),
                new ReadFor(ReadFor.Reader.valueOf(row.getString("reader")), row.getString("reader_name")),
                row.getLong("rows"),
                Rows.optionalText(row, "profile").map(text -> json.read(text, ReadProfile.class)),
                List.of(json.read(row.getString("findings"), Finding[].class)));
    }
}

package remitto.server.dataset;

import java.sql.ResultSet;
import java.sql.SQLException;
import java.time.Clock;
import java.time.Instant;
import java.util.List;
import java.util.Optional;
import org.springframework.jdbc.core.simple.JdbcClient;
import org.springframework.stereotype.Component;
import org.springframework.transaction.annotation.Transactional;
import remitto.server.platform.ActorName;
import remitto.server.platform.Json;
import remitto.server.platform.Problem;
import remitto.server.platform.Rows;
import remitto.server.platform.VersionNote;

/** Datasets and their versions, which never change once saved. */
@Component
public class Datasets {
    private static final String SELECT = """
            select d.id, d.name, d.description, d.source_id, s.name as source, d.latest_version, d.live_version,
                   d.newest_row_at, d.row_count, d.seen_at, v.definition, v.author, v.saved_at,
                   (select count(*) from route r where r.dataset_id = d.id and r.archived_at is null) as routes
            from dataset d
            join source s on s.id = d.source_id
            join dataset_version v on v.dataset_id = d.id and v.number = d.latest_version
            """;

    private final JdbcClient jdbc;
    private final Json json;
    private final Clock clock;

    Datasets(JdbcClient jdbc, Json json, Clock clock) {
        this.jdbc = jdbc;
        this.json = json;
        this.clock = clock;
    }

    /** How new the data is: the newest updated-at, and when that was seen. */
    public record Freshness(Optional<Instant> newestRow, long rows, Instant seenAt) {}

    /**
     * A dataset with its latest definition.
     *
     * @param definition of the latest saved version, which need not be the one in service
     */
    public record Dataset(
            long id,
            String name,
            String description,
            long sourceId,
            String source,
            int latestVersion,
            Optional<Integer> liveVersion,
            @ActorName String author,
            Instant savedAt,
            long routes,
            Optional<Freshness> freshness,
            DatasetDefinition definition) {}

    public List<Dataset> all() {
        return jdbc.sql(SELECT + " where d.archived_at is null order by d.name")
                .query((row, number) -> dataset(row))
                .list();
    }

    public Optional<Dataset> find(long id) {
        return jdbc.sql(SELECT + " where d.id = ?")
                .param(id)
                .query((row, number) -> dataset(row))
                .optional();
    }

    /** Names of columns that some version of a dataset of the source calls sensitive. */
    public List<String> sensitiveColumns(long sourceId) {
        return jdbc.sql("""
                        select distinct jsonb_path_query(v.definition, '$.columns[*] ? (@.role == "SENSITIVE").name') #>> '{}'
                        from dataset_version v join dataset d on d.id = v.dataset_id where d.source_id = ?
                        """).param(sourceId).query(String.class).list();
    }

    public Dataset get(long id) {
        return find(id).orElseThrow(() -> Problem.notFound("dataset " + id));
    }

    public DatasetDefinition version(long id, int number) {
        return jdbc.sql("select definition from dataset_version where dataset_id = ? and number = ?")
                .params(id, number)
                .query((row, index) -> json.read(row.getString("definition"), DatasetDefinition.class))
                .optional()
                .orElseThrow(() -> Problem.notFound("version " + number + " of dataset " + id));
    }

    /** Who saved a version. */
    String author(long id, int number) {
        return jdbc.sql("select author from dataset_version where dataset_id = ? and number = ?")
                .params(id, number)
                .query(String.class)
                .single();
    }

    /** Who saves, and what they say of it. */
    record Saving(String author, String note) {}

    List<VersionNote> versions(long id) {
        return jdbc.sql("""
                        select number, author, saved_at, note from dataset_version where dataset_id = ? order by number desc
                        """).param(id).query(VersionNote::read).list();
    }

    @Transactional
    long add(String name, String description, long sourceId, DatasetDefinition definition, String author) {
        long id = jdbc.sql("""
                        insert into dataset (name, description, source_id, latest_version, created_at)
                        values (?, ?, ?, 1, ?) returning id
                        """)
                .params(name, description, sourceId, Rows.time(clock.instant()))
                .query(Long.class)
                .single();
        saveVersion(id, 1, definition, new Saving(author, ""));
        return id;
    }

    /** @throws Problem if somebody saved another version since {@code basedOn} */
    @Transactional
    int save(long id, int basedOn, String name, String description, DatasetDefinition definition, Saving saving) {
        int changed = jdbc.sql("""
                        update dataset set name = ?, description = ?, latest_version = latest_version + 1
                        where id = ? and latest_version = ?
                        """).params(name, description, id, basedOn).update();
        if (changed == 0) {
            throw Problem.conflict("Someone saved another version meanwhile. Reload to see it.");
        }
        saveVersion(id, basedOn + 1, definition, saving);
        return basedOn + 1;
    }

    void putInService(long id, int version) {
        jdbc.sql("update dataset set live_version = ? where id = ?")
                .params(version, id)
                .update();
    }

    /** Names of the routes that a switch of version touches. */
    List<String> routes(long id) {
        return jdbc.sql("select name from route where dataset_id = ? order by name")
                .param(id)
                .query(String.class)
                .list();
    }

    public void seen(long id, Freshness freshness) {
        jdbc.sql("update dataset set newest_row_at = ?, row_count = ?, seen_at = ? where id = ?")
                .params(
                        freshness.newestRow().map(Rows::time).orElse(null),
                        freshness.rows(),
                        Rows.time(freshness.seenAt()),
                        id)
                .update();
    }

    /** The dataset that a route reads. */
    public Dataset ofRoute(long routeId) {
        return jdbc.sql(SELECT + " where d.id = (select dataset_id from route where id = ?)")
                .param(routeId)
                .query((row, number) -> dataset(row))
                .optional()
                .orElseThrow(() -> Problem.notFound("dataset of route " + routeId));
    }

    private void saveVersion(long id, int number, DatasetDefinition definition, Saving saving) {
        jdbc.sql("""
                        insert into dataset_version (dataset_id, number, definition, author, saved_at, note)
                        values (?, ?, ?::jsonb, ?, ?, ?)
                        """)
                .params(id, number, json.write(definition), saving.author(), Rows.time(clock.instant()), saving.note())
                .update();
    }

    private Dataset dataset(ResultSet row) throws SQLException {
        Optional<Instant> seen = Rows.optionalTime(row, "seen_at");
        Optional<Instant> newest = Rows.optionalTime(row, "newest_row_at");
        long rows = row.getLong("row_count");
        return new Dataset(
                row.getLong("id"),
                row.getString("name"),
                row.getString("description"),
                row.getLong("source_id"),
                row.getString("source"),
                row.getInt("latest_version"),
                Rows.optionalInt(row, "live_version"),
                row.getString("author"),
                Rows.time(row, "saved_at"),
                row.getLong("routes"),
                seen.map(at -> new Freshness(newest, rows, at)),
                json.read(row.getString("definition"), DatasetDefinition.class));
    }
}

package remitto.server.crosswalk;

import java.sql.ResultSet;
import java.sql.SQLException;
import java.time.Clock;
import java.time.Instant;
import java.util.List;
import java.util.Optional;
import org.springframework.jdbc.core.simple.JdbcClient;
import org.springframework.stereotype.Component;
import org.springframework.transaction.annotation.Transactional;
import remitto.core.shaper.CrosswalkTable;
import remitto.server.platform.ActorName;
import remitto.server.platform.Json;
import remitto.server.platform.Problem;
import remitto.server.platform.Rows;

/** Crosswalk tables and their versions, which never change once saved. */
@Component
public class Crosswalks {
    private static final String SELECT = """
            select c.id, c.name, c.description, c.latest_version, c.live_version, v.entries, v.author, v.saved_at, v.note
            from crosswalk c join crosswalk_version v on v.crosswalk_id = c.id and v.number = c.latest_version
            """;

    private final JdbcClient jdbc;
    private final Json json;
    private final Clock clock;

    Crosswalks(JdbcClient jdbc, Json json, Clock clock) {
        this.jdbc = jdbc;
        this.json = json;
        this.clock = clock;
    }

    /**
     * A crosswalk with the entries of its latest version.
     *
     * @param entries of the latest saved version, which need not be the one in service
     */
    public record Crosswalk(
            long id,
            String name,
            String description,
            int latestVersion,
            Optional<Integer> liveVersion,
            @ActorName String author,
            Instant savedAt,
            List<CrosswalkTable.Pair> entries) {}

    /** Who saved a version, and when. */
    record CrosswalkVersion(int number, @ActorName String author, Instant savedAt, String note, int entries) {}

    public List<Crosswalk> all() {
        return jdbc.sql(SELECT + " where c.archived_at is null order by c.name")
                .query((row, number) -> crosswalk(row))
                .list();
    }

    public Crosswalk get(long id) {
        return jdbc.sql(SELECT + " where c.id = ?")
                .param(id)
                .query((row, number) -> crosswalk(row))
                .optional()
                .orElseThrow(() -> Problem.notFound("crosswalk " + id));
    }

    /** The table as it is in service; empty when there is none. */
    public Optional<CrosswalkTable> live(long id) {
        return jdbc.sql("""
                        select c.name, v.number, v.entries from crosswalk c
                        join crosswalk_version v on v.crosswalk_id = c.id and v.number = c.live_version where c.id = ?
                        """)
                .param(id)
                .query((row, number) -> CrosswalkTable.of(
                        id, row.getString("name"), row.getInt("number"), entries(row.getString("entries"))))
                .optional();
    }

    List<CrosswalkTable.Pair> version(long id, int number) {
        return jdbc.sql("select entries from crosswalk_version where crosswalk_id = ? and number = ?")
                .params(id, number)
                .query((row, at) -> entries(row.getString("entries")))
                .optional()
                .orElseThrow(() -> Problem.notFound("version " + number + " of crosswalk " + id));
    }

    List<CrosswalkVersion> versions(long id) {
        return jdbc.sql("""
                        select number, author, saved_at, note, jsonb_array_length(entries) as entries
                        from crosswalk_version where crosswalk_id = ? order by number desc
                        """)
                .param(id)
                .query((row, at) -> new CrosswalkVersion(
                        row.getInt("number"),
                        row.getString("author"),
                        Rows.time(row, "saved_at"),
                        row.getString("note"),
                        row.getInt("entries")))
                .list();
    }

    @Transactional
    long add(String name, String description, List<CrosswalkTable.Pair> entries, String author) {
        check(entries);
        long id = jdbc.sql("""
                        insert into crosswalk (name, description, latest_version, created_at) values (?, ?, 1, ?) returning id
                        """)
                .params(name, description, Rows.time(clock.instant()))
                .query(Long.class)
                .single();
        saveVersion(id, 1, entries, author, "");
        return id;
    }

    /** @throws Problem if somebody saved another version since {@code basedOn} */
    @Transactional
    int save(
            long id,
            int basedOn,
            String name,
            String description,
            List<CrosswalkTable.Pair> entries,
            String author,
            String note) {
        check(entries);
        int changed = jdbc.sql("""
                        update crosswalk set name = ?, description = ?, latest_version = latest_version + 1
                        where id = ? and latest_version = ?
                        """).params(name, description, id, basedOn).update();
        if (changed == 0) {
            throw Problem.conflict("Someone saved another version meanwhile. Reload to see it.");
        }
        saveVersion(id, basedOn + 1, entries, author, note);
        return basedOn + 1;
    }

    void putInService(long id, int version) {
        version(id, version);
        jdbc.sql("update crosswalk set live_version = ? where id = ?")
                .params(version, id)
                .update();
    }

    private static void check(List<CrosswalkTable.Pair> entries) {
        if (entries.stream().anyMatch(entry -> entry.from().isBlank())) {
            throw Problem.invalid("Every row needs a value on the left.");
        }
        try {
            CrosswalkTable.of(0, "", 0, entries);
        } catch (IllegalArgumentException e) {
            throw Problem.invalid("The word " + e.getMessage() + "; every value can be mapped only once.");
        }
    }

    private void saveVersion(long id, int number, List<CrosswalkTable.Pair> entries, String author, String note) {
        jdbc.sql("""
                        insert into crosswalk_version (crosswalk_id, number, entries, author, saved_at, note)
                        values (?, ?, ?::jsonb, ?, ?, ?)
                        """)
                .params(id, number, json.write(entries), author, Rows.time(clock.instant()), note)
                .update();
    }

    private List<CrosswalkTable.Pair> entries(String text) {
        return List.of(json.read(text, CrosswalkTable.Pair[].class));
    }

    private Crosswalk crosswalk(ResultSet row) throws SQLException {
        return new Crosswalk(
                row.getLong("id"),
                row.getString("name"),
                row.getString("description"),
                row.getInt("latest_version"),
                Rows.optionalInt(row, "live_version"),
                row.getString("author"),
                Rows.time(row, "saved_at"),
                entries(row.getString("entries")));
    }
}

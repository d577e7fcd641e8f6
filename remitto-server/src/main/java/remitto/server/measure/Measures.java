package remitto.server.measure;

import java.sql.ResultSet;
import java.sql.SQLException;
import java.time.Clock;
import java.time.Instant;
import java.util.List;
import java.util.Optional;
import org.springframework.jdbc.core.JdbcTemplate;
import org.springframework.jdbc.core.simple.JdbcClient;
import org.springframework.stereotype.Component;
import org.springframework.transaction.annotation.Transactional;
import remitto.core.audience.Derivation;
import remitto.server.people.EntityType;
import remitto.server.platform.Json;
import remitto.server.platform.Problem;
import remitto.server.platform.Rows;

/** Measures and how they are worked out. Each has a table of its own, so that keeping one fresh rewrites no other. */
@Component
public class Measures {
    private final JdbcClient jdbc;
    private final JdbcTemplate template;
    private final Json json;
    private final Clock clock;

    Measures(JdbcClient jdbc, JdbcTemplate template, Json json, Clock clock) {
        this.jdbc = jdbc;
        this.template = template;
        this.json = json;
        this.clock = clock;
    }

    /**
     * A measure with its definition and its latest computation.
     *
     * @param people who have a value
     * @param millis that working it out took last
     * @param problem why that failed last; blank when it went well
     */
    public record PersonMeasure(
            long id,
            String name,
            EntityType entityType,
            Derivation derivation,
            long people,
            Optional<Instant> refreshedAt,
            long millis,
            String problem) {
        public String table() {
            return "audience.measure_" + id;
        }
    }

    /** A measure to be created or changed. */
    public record MeasureRequest(String name, EntityType entityType, Derivation derivation) {}

    /** In the order they came about, which is the order they are worked out in. */
    public List<PersonMeasure> all() {
        return jdbc.sql("select * from measure order by id")
                .query((row, number) -> read(row))
                .list();
    }

    public List<PersonMeasure> all(EntityType entityType) {
        return all().stream().filter(one -> one.entityType() == entityType).toList();
    }

    public PersonMeasure get(long id) {
        return all().stream()
                .filter(one -> one.id() == id)
                .findFirst()
                .orElseThrow(() -> Problem.notFound("measure " + id));
    }

    private PersonMeasure read(ResultSet row) throws SQLException {
        return new PersonMeasure(
                row.getLong("id"),
                row.getString("name"),
                EntityType.valueOf(row.getString("about")),
                json.read(row.getString("definition"), Derivation.class),
                row.getLong("people"),
                Rows.optionalTime(row, "refreshed_at"),
                row.getLong("millis"),
                row.getString("problem"));
    }

    /** @param sqlType of its values */
    @Transactional
    long add(MeasureRequest request, String sqlType, String who) {
        if (!request.name().matches("[a-z][a-z0-9_]*")) {
            throw Problem.invalid("Name it in lower-case letters, digits and underscores, such as crossings_90d.");
        }
        long id = jdbc.sql("""
                        insert into measure (name, about, definition, saved_by, saved_at) values (?, ?, ?::jsonb, ?, ?)
                        returning id
                        """)
                .params(
                        request.name(),
                        request.entityType().name(),
                        json.write(request.derivation()),
                        who,
                        Rows.time(clock.instant()))
                .query(Long.class)
                .single();
        template.execute(
                "create table audience.measure_" + id + " (person_id bigint primary key, value " + sqlType + ")");
        return id;
    }

    /** Its values are worked out again after this. */
    @Transactional
    void change(long id, Derivation derivation, String sqlType, String who) {
        jdbc.sql(
                        "update measure set definition = ?::jsonb, refreshed_at = null, saved_by = ?, saved_at = ? where id = ?")
                .params(json.write(derivation), who, Rows.time(clock.instant()), id)
                .update();
        template.execute("delete from audience.measure_" + id);
        template.execute("alter table audience.measure_" + id + " alter column value type " + sqlType + " using null");
    }

    void remove(long id) {
        jdbc.sql("delete from measure where id = ?").param(id).update();
        template.execute("drop table audience.measure_" + id);
    }

    void refreshed(long id, long people, Instant at, long millis) {
        jdbc.sql("update measure set people = ?, refreshed_at = ?, millis = ?, problem = '' where id = ?")
                .params(people, Rows.time(at), millis, id)
                .update();
    }

    void failed(long id, String problem) {
        // Worked out whole next time: what changed since is not known by then.
        jdbc.sql("update measure set problem = ?, refreshed_at = null where id = ?")
                .params(problem, id)
                .update();
    }
}

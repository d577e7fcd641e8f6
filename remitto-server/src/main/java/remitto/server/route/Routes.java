package remitto.server.route;

import java.sql.ResultSet;
import java.sql.SQLException;
import java.time.Clock;
import java.time.Instant;
import java.util.List;
import java.util.Optional;
import org.springframework.jdbc.core.simple.JdbcClient;
import org.springframework.stereotype.Component;
import org.springframework.transaction.annotation.Transactional;
import remitto.core.route.RouteSpec;
import remitto.server.platform.ActorName;
import remitto.server.platform.Json;
import remitto.server.platform.Problem;
import remitto.server.platform.Rows;
import remitto.server.platform.VersionNote;

/** Routes and their versions, which never change once saved. */
@Component
public class Routes {
    private static final String SELECT = """
            select r.id, r.name, r.dataset_id, d.name as dataset, d.row_count, r.destination_id, t.name as destination,
                   r.object, r.latest_version, r.live_version, r.paused, r.next_departure,
                   v.definition, v.author, v.saved_at, l.definition as live_definition
            from route r
            join dataset d on d.id = r.dataset_id
            join destination t on t.id = r.destination_id
            join route_version v on v.route_id = r.id and v.number = r.latest_version
            left join route_version l on l.route_id = r.id and l.number = r.live_version
            """;

    private final JdbcClient jdbc;
    private final Json json;
    private final Clock clock;

    Routes(JdbcClient jdbc, Json json, Clock clock) {
        this.jdbc = jdbc;
        this.json = json;
        this.clock = clock;
    }

    /**
     * A route with its latest version.
     *
     * @param spec of the latest saved version
     * @param liveSpec of the one in service
     */
    public record Route(
            long id,
            String name,
            long datasetId,
            String dataset,
            Optional<Long> rows,
            long destinationId,
            String destination,
            String object,
            int latestVersion,
            Optional<Integer> liveVersion,
            boolean paused,
            Optional<Instant> nextDeparture,
            @ActorName String author,
            Instant savedAt,
            RouteSpec spec,
            Optional<RouteSpec> liveSpec) {}

    public List<Route> all() {
        return jdbc.sql(SELECT + " where r.archived_at is null order by r.name")
                .query((row, number) -> route(row))
                .list();
    }

    public Route get(long id) {
        return jdbc.sql(SELECT + " where r.id = ?")
                .param(id)
                .query((row, number) -> route(row))
                .optional()
                .orElseThrow(() -> Problem.notFound("route " + id));
    }

    public RouteSpec version(long id, int number) {
        return jdbc.sql("select definition from route_version where route_id = ? and number = ?")
                .params(id, number)
                .query((row, index) -> json.read(row.getString("definition"), RouteSpec.class))
                .optional()
                .orElseThrow(() -> Problem.notFound("version " + number + " of route " + id));
    }

    /** Who saved a version, by the id of their account. */
    String author(long id, int number) {
        return jdbc.sql("select author from route_version where route_id = ? and number = ?")
                .params(id, number)
                .query(String.class)
                .optional()
                .orElseThrow(() -> Problem.notFound("version " + number + " of route " + id));
    }

    List<VersionNote> versions(long id) {
        return jdbc.sql(
                        "select number, author, saved_at, note from route_version where route_id = ? order by number desc")
                .param(id)
                .query(VersionNote::read)
                .list();
    }

    @Transactional
    long add(String name, long datasetId, long destinationId, String object, RouteSpec spec, String author) {
        long id = jdbc.sql("""
                        insert into route (name, dataset_id, destination_id, object, latest_version, paused, created_at)
                        values (?, ?, ?, ?, 1, false, ?) returning id
                        """)
                .params(name, datasetId, destinationId, object, Rows.time(clock.instant()))
                .query(Long.class)
                .single();
        saveVersion(id, 1, spec, author, "");
        return id;
    }

    /** @throws Problem if somebody saved another version since {@code basedOn} */
    @Transactional
    int save(long id, int basedOn, String name, RouteSpec spec, String author, String note) {
        int changed = jdbc.sql("""
                        update route set name = ?, latest_version = latest_version + 1
                        where id = ? and latest_version = ?
                        """).params(name, id, basedOn).update();
        if (changed == 0) {
            throw Problem.conflict("Someone saved another version meanwhile. Reload to see it.");
        }
        saveVersion(id, basedOn + 1, spec, author, note);
        return basedOn + 1;
    }

    void putInService(long id, int version, Optional<Instant> nextDeparture) {
        boolean archived = jdbc.sql("select archived_at is not null from route where id = ?")
                .param(id)
                .query(Boolean.class)
                .single();
        if (archived) {
            throw Problem.conflict("This route is archived.");
        }
        jdbc.sql("update route set live_version = ?, next_departure = ? where id = ?")
                .params(version, nextDeparture.map(Rows::time).orElse(null), id)
                .update();
    }

    public void pause(long id, boolean paused, Optional<Instant> nextDeparture) {
        jdbc.sql("update route set paused = ?, next_departure = ? where id = ?")
                .params(paused, nextDeparture.map(Rows::time).orElse(null), id)
                .update();
    }

    /** Makes a route due that departs when its data changes. One that was given another timetable meanwhile keeps that. */
    public void dataChanged(long id, Instant at) {
        jdbc.sql("""
                        update route set next_departure = ? where id = ? and not paused and exists (
                          select from route_version v where v.route_id = route.id and v.number = route.live_version
                            and v.definition -> 'schedule' ->> 'kind' = 'on-change')
                        """).params(Rows.time(at), id).update();
    }

    /** Moves a due departure on; true for the one caller that got to do it. */
    public boolean departed(long id, Instant due, Optional<Instant> next) {
        return jdbc.sql("update route set next_departure = ? where id = ? and next_departure = ?")
                        .params(next.map(Rows::time).orElse(null), id, Rows.time(due))
                        .update()
                == 1;
    }

    private void saveVersion(long id, int number, RouteSpec spec, String author, String note) {
        jdbc.sql("""
                        insert into route_version (route_id, number, definition, author, saved_at, note)
                        values (?, ?, ?::jsonb, ?, ?, ?)
                        """)
                .params(id, number, json.write(spec), author, Rows.time(clock.instant()), note)
                .update();
    }

    private Route route(ResultSet row) throws SQLException {
        return new Route(
                row.getLong("id"),
                row.getString("name"),
                row.getLong("dataset_id"),
                row.getString("dataset"),
                Rows.optionalLong(row, "row_count"),
                row.getLong("destination_id"),
                row.getString("destination"),
                row.getString("object"),
                row.getInt("latest_version"),
                Rows.optionalInt(row, "live_version"),
                row.getBoolean("paused"),
                Rows.optionalTime(row, "next_departure"),
                row.getString("author"),
                Rows.time(row, "saved_at"),
                json.read(row.getString("definition"), RouteSpec.class),
                Rows.optionalText(row, "live_definition").map(text -> json.read(text, RouteSpec.class)));
    }
}

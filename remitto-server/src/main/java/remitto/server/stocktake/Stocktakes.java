package remitto.server.stocktake;

import java.sql.ResultSet;
import java.sql.SQLException;
import java.sql.Types;
import java.time.Clock;
import java.time.Duration;
import java.time.Instant;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import org.springframework.jdbc.core.simple.JdbcClient;
import org.springframework.stereotype.Component;
import remitto.server.platform.Json;
import remitto.server.platform.Problem;
import remitto.server.platform.Rows;

/** Stocktakes and what they found. */
@Component
class Stocktakes {
    private static final Duration SILENCE = Duration.ofMinutes(1);

    /** The tool's clock need not be ours; what is read twice is compared twice, and that is all. */
    private static final Duration OVERLAP = Duration.ofMinutes(5);

    private final JdbcClient jdbc;
    private final Json json;
    private final Clock clock;

    Stocktakes(JdbcClient jdbc, Json json, Clock clock) {
        this.jdbc = jdbc;
        this.json = json;
        this.clock = clock;
    }

    /** The stocktake that a reading of changes goes on from: the last that came to its end. */
    Optional<Base> base(long destinationId, String object) {
        return jdbc.sql("""
                        select id, started_at from stocktake
                        where destination_id = ? and object = ? and state = 'DONE' order by id desc limit 1
                        """)
                .params(destinationId, object)
                .query((row, number) ->
                        new Base(row.getLong("id"), Rows.time(row, "started_at").minus(OVERLAP)))
                .optional();
    }

    /** @param since from when on changes are read */
    record Base(long id, Instant since) {}

    long start(long destinationId, String object, String who, Optional<Base> base) {
        closeSilent();
        long counting = jdbc.sql(
                        "select count(*) from stocktake where destination_id = ? and object = ? and state = 'COUNTING'")
                .params(destinationId, object)
                .query(Long.class)
                .single();
        if (counting > 0) {
            throw Problem.conflict("A stocktake of this object is under way.");
        }
        return jdbc.sql("""
                        insert into stocktake
                          (destination_id, object, state, started_by, started_at, beat_at, since, base_id)
                        values (:destination, :object, 'COUNTING', :who, :now, :now, :since, :base) returning id
                        """)
                .param("destination", destinationId)
                .param("object", object)
                .param("who", who)
                .param("now", Rows.time(clock.instant()))
                .param("since", base.map(one -> Rows.time(one.since())).orElse(null), Types.TIMESTAMP_WITH_TIMEZONE)
                .param("base", base.map(Base::id).orElse(null), Types.BIGINT)
                .query(Long.class)
                .single();
    }

    /** Closes stocktakes whose process is gone. */
    private void closeSilent() {
        jdbc.sql("""
                        update stocktake set state = 'INTERRUPTED', finished_at = ?, message = 'The server stopped meanwhile'
                        where state = 'COUNTING' and beat_at < ?
                        """)
                .params(Rows.time(clock.instant()), Rows.time(clock.instant().minus(SILENCE)))
                .update();
    }

    void beat(long id, long there) {
        jdbc.sql("update stocktake set beat_at = ?, there = ? where id = ?")
                .params(Rows.time(clock.instant()), there, id)
                .update();
    }

    void done(long id, long there, long known, Map<String, Long> fill, WriterCount writers) {
        Map<FindingKind, Long> counts = new HashMap<>();
        jdbc.sql("select kind, count(*) as found from stocktake_finding where stocktake_id = ? group by kind")
                .param(id)
                .query(row -> {
                    counts.put(FindingKind.valueOf(row.getString("kind")), row.getLong("found"));
                });
        jdbc.sql("""
                        update stocktake set state = 'DONE', finished_at = ?, there = ?, known = ?, counts = ?::jsonb,
                          fill = ?::jsonb, writers = ?::jsonb
                        where id = ?
                        """)
                .params(
                        Rows.time(clock.instant()),
                        there,
                        known,
                        json.write(counts),
                        json.write(fill),
                        json.write(writers.clients()),
                        id)
                .update();
        jdbc.sql("delete from stocktake_seen where stocktake_id = ?").param(id).update();
        jdbc.sql("delete from stocktake_alike where stocktake_id = ?").param(id).update();
    }

    void failed(long id, String why) {
        jdbc.sql("update stocktake set state = 'FAILED', finished_at = ?, message = ? where id = ?")
                .params(Rows.time(clock.instant()), why, id)
                .update();
    }

    List<Stocktake> of(long destinationId) {
        closeSilent();
        return jdbc.sql("""
                        select s.*, d.name as destination from stocktake s join destination d on d.id = s.destination_id
                        where s.destination_id = ? order by s.id desc limit 20
                        """)
                .param(destinationId)
                .query((row, number) -> stocktake(row))
                .list();
    }

    Stocktake get(long id) {
        return jdbc.sql("""
                        select s.*, d.name as destination from stocktake s join destination d on d.id = s.destination_id
                        where s.id = ?
                        """)
                .param(id)
                .query((row, number) -> stocktake(row))
                .optional()
                .orElseThrow(() -> Problem.notFound("stocktake " + id));
    }

    List<Stocktake.Finding> findings(long id, Optional<FindingKind> kind, int after, int limit) {
        return jdbc.sql("""
                        select f.*, coalesce(r.name, '') as route from stocktake_finding f
                        left join route r on r.id = f.route_id
                        where f.stocktake_id = :id and (:kind = '' or f.kind = :kind) and f.number > :after
                        order by f.number limit :limit
                        """)
                .param("id", id)
                .param("kind", kind.map(Enum::name).orElse(""))
                .param("after", after)
                .param("limit", limit)
                .query((row, number) -> new Stocktake.Finding(
                        row.getInt("number"),
                        FindingKind.valueOf(row.getString("kind")),
                        row.getString("remote_id"),
                        row.getString("field"),
                        text(row, "known"),
                        text(row, "there"),
                        row.getString("route"),
                        row.getString("source_key"),
                        row.getString("label"),
                        row.getString("settled")))
                .list();
    }

    private String text(ResultSet row, String column) throws SQLException {
        return Rows.optionalText(row, column)
                .map(value -> json.tree(value).asString(""))
                .orElse("");
    }

    private Stocktake stocktake(ResultSet row) throws SQLException {
        long id = row.getLong("id");
        return new Stocktake(
                id,
                row.getLong("destination_id"),
                row.getString("destination"),
                row.getString("object"),
                Stocktake.State.valueOf(row.getString("state")),
                row.getString("started_by"),
                Rows.time(row, "started_at"),
                Rows.optionalTime(row, "finished_at"),
                Rows.optionalTime(row, "since"),
                Optional.of(row.getLong("base_id")).filter(base -> base > 0),
                false,
                row.getLong("there"),
                row.getLong("known"),
                groups(id),
                fill(id, row.getLong("destination_id"), row.getString("object"), row.getString("fill")),
                row.getString("message"));
    }

    private List<Stocktake.Group> groups(long id) {
        Map<FindingKind, Stocktake.Group> found = new HashMap<>();
        jdbc.sql("""
                        select kind, count(*) as found, count(*) filter (where settled = '') as open
                        from stocktake_finding where stocktake_id = ? group by kind
                        """).param(id).query(row -> {
            FindingKind kind = FindingKind.valueOf(row.getString("kind"));
            found.put(kind, new Stocktake.Group(kind, row.getLong("found"), row.getLong("open")));
        });
        List<Stocktake.Group> groups = new ArrayList<>();
        for (FindingKind kind : FindingKind.values()) {
            groups.add(found.getOrDefault(kind, new Stocktake.Group(kind, 0, 0)));
        }
        return groups;
    }

    private record Earlier(long there, Map<String, Long> fill) {}

    private List<Stocktake.FillRate> fill(long id, long destinationId, String object, String text) {
        Optional<Earlier> earlier = jdbc.sql("""
                        select there, fill from stocktake
                        where destination_id = ? and object = ? and id < ? and state = 'DONE' and since is null
                        order by id desc limit 1
                        """)
                .params(destinationId, object, id)
                .query((row, number) -> new Earlier(row.getLong("there"), counts(row.getString("fill"))))
                .optional();
        List<Stocktake.FillRate> fill = new ArrayList<>();
        counts(text)
                .forEach((field, filled) -> fill.add(new Stocktake.FillRate(
                        field,
                        filled,
                        earlier.map(before -> before.fill().getOrDefault(field, 0L)),
                        earlier.map(Earlier::there))));
        fill.sort((one, other) -> Long.compare(other.filled(), one.filled()));
        return fill;
    }

    private Map<String, Long> counts(String text) {
        Map<String, Long> counts = new HashMap<>();
        json.tree(text)
                .properties()
                .forEach(entry -> counts.put(entry.getKey(), entry.getValue().asLong()));
        return counts;
    }
}

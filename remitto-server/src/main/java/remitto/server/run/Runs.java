package remitto.server.run;

import java.io.ByteArrayInputStream;
import java.io.ByteArrayOutputStream;
import java.io.DataInputStream;
import java.io.DataOutputStream;
import java.io.IOException;
import java.io.UncheckedIOException;
import java.sql.ResultSet;
import java.sql.SQLException;
import java.time.Clock;
import java.time.Duration;
import java.util.ArrayList;
import java.util.Collection;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import org.roaringbitmap.RoaringBitmap;
import org.springframework.dao.DuplicateKeyException;
import org.springframework.jdbc.core.simple.JdbcClient;
import org.springframework.stereotype.Component;
import remitto.core.manifest.Sums;
import remitto.server.platform.Json;
import remitto.server.platform.Problem;
import remitto.server.platform.Rows;

/** Runs, and who owns them. A run is worked on only by the process whose epoch it carries. */
@Component
public class Runs {
    private static final String SELECT = """
            select r.*, t.name as route, t.object, d.name as destination
            from run r join route t on t.id = r.route_id join destination d on d.id = t.destination_id
            """;
    private static final int PARTITION = 500;

    private final JdbcClient jdbc;
    private final Json json;
    private final Clock clock;

    Runs(JdbcClient jdbc, Json json, Clock clock) {
        this.jdbc = jdbc;
        this.json = json;
        this.clock = clock;
    }

    /** What a run is pinned to. */
    record Pins(int routeVersion, int datasetVersion, int profileVersion, long objectFingerprint) {}

    /** @throws Problem if another run of the route is under way */
    long start(long routeId, RunTrigger trigger, Pins pins, String who, String owner) {
        try {
            long id = jdbc.sql("""
                            insert into run (route_id, trigger, state, route_version, dataset_version, profile_version,
                              object_fingerprint, started_by, started_at, owner, epoch, beat_at)
                            values (?, ?, 'DRAWING', ?, ?, ?, ?, ?, ?, ?, 1, ?) returning id
                            """)
                    .params(
                            routeId,
                            trigger.name(),
                            pins.routeVersion(),
                            pins.datasetVersion(),
                            pins.profileVersion(),
                            pins.objectFingerprint(),
                            who,
                            Rows.time(clock.instant()),
                            owner,
                            Rows.time(clock.instant()))
                    .query(Long.class)
                    .single();
            makePartition(id);
            return id;
        } catch (DuplicateKeyException e) {
            throw Problem.conflict("A run of this route is under way; runs of one route never overlap.");
        }
    }

    /** A departure that did not take place. */
    void skip(long routeId, Pins pins, String why, String owner) {
        jdbc.sql("""
                        insert into run (route_id, trigger, state, route_version, dataset_version, profile_version,
                          object_fingerprint, started_by, started_at, finished_at, message, owner, epoch, beat_at)
                        values (:route, 'TIMETABLE', 'SKIPPED', :version, :dataset, :profile, :object, 'timetable',
                          :now, :now, :why, :owner, 1, :now)
                        """)
                .param("route", routeId)
                .param("version", pins.routeVersion())
                .param("dataset", pins.datasetVersion())
                .param("profile", pins.profileVersion())
                .param("object", pins.objectFingerprint())
                .param("now", Rows.time(clock.instant()))
                .param("why", why)
                .param("owner", owner)
                .update();
    }

    /** Number of the first run whose lines share a partition with this one's. */
    static long partition(long runId) {
        return runId / PARTITION * PARTITION;
    }

    private void makePartition(long runId) {
        long from = partition(runId);
        // Names and bounds take no parameters; both are numbers of ours.
        jdbc.sql("create table if not exists manifest_line_" + from + " partition of manifest_line for values from ("
                        + from + ") to (" + (from + PARTITION) + ") with (fillfactor = 50)")
                .update();
    }

    public Run get(long id) {
        return jdbc.sql(SELECT + " where r.id = ?")
                .param(id)
                .query((row, number) -> run(row))
                .optional()
                .map(this::withOutcomes)
                .orElseThrow(() -> Problem.notFound("manifest " + id));
    }

    /** Newest first; of every route when {@code routeId} is 0. */
    List<Run> list(long routeId, long before, int limit) {
        return jdbc.sql(SELECT + """
                         where (:route = 0 or r.route_id = :route) and (:before = 0 or r.id < :before)
                         order by r.id desc limit :limit
                        """)
                .param("route", routeId)
                .param("before", before)
                .param("limit", limit)
                .query((row, number) -> run(row))
                .list();
    }

    /** The newest run of each route that is not a trial. */
    public List<Run> latestPerRoute() {
        return jdbc.sql("""
                        select distinct on (r.route_id) r.*, t.name as route, t.object, d.name as destination
                        from run r join route t on t.id = r.route_id join destination d on d.id = t.destination_id
                        where r.trigger <> 'TRIAL'
                        order by r.route_id, r.id desc
                        """).query((row, number) -> withOutcomes(run(row))).list();
    }

    /** Manifests of a route that wait for a person. */
    List<Long> waiting(long routeId) {
        return jdbc.sql("select id from run where route_id = ? and state in ('DRAWN', 'STOPPED', 'HALTED') order by id")
                .param(routeId)
                .query(Long.class)
                .list();
    }

    /** @param ordinals of the unchanged records */
    void drawn(
            long id,
            RunState state,
            Sums sums,
            long knownBefore,
            long missing,
            RoaringBitmap ordinals,
            String fieldCounts,
            String message) {
        jdbc.sql("""
                        update run set state = ?, drawn_at = ?, read_count = ?, added = ?, changed = ?, removed = ?,
                          unchanged = ?, held = ?, left_out = ?, known_before = ?, missing_rows = ?,
                          unchanged_ordinals = ?, field_counts = ?::jsonb, message = ?
                        where id = ?
                        """)
                .params(
                        state.name(),
                        Rows.time(clock.instant()),
                        sums.read(),
                        sums.added(),
                        sums.changed(),
                        sums.removed(),
                        sums.unchanged(),
                        sums.held(),
                        sums.leftOut(),
                        knownBefore,
                        missing,
                        bytes(ordinals),
                        fieldCounts,
                        message,
                        id)
                .update();
    }

    /**
     * Takes a waiting manifest for sending.
     *
     * @return false if it no longer waits
     */
    boolean beginSending(long id, String who, String owner) {
        try {
            return jdbc.sql("""
                            update run set state = 'SENDING', approved_by = ?, sent_at = ?, owner = ?, epoch = epoch + 1,
                              beat_at = ?, message = ''
                            where id = ? and state in ('DRAWN', 'STOPPED', 'HALTED')
                            """)
                            .params(who, Rows.time(clock.instant()), owner, Rows.time(clock.instant()), id)
                            .update()
                    == 1;
        } catch (DuplicateKeyException e) {
            throw Problem.conflict("A run of this route is under way; runs of one route never overlap.");
        }
    }

    RunState state(long id) {
        return jdbc.sql("select state from run where id = ?")
                .param(id)
                .query((row, number) -> RunState.valueOf(row.getString("state")))
                .optional()
                .orElseThrow(() -> Problem.notFound("manifest " + id));
    }

    int epoch(long id) {
        return jdbc.sql("select epoch from run where id = ?")
                .param(id)
                .query(Integer.class)
                .single();
    }

    void finish(long id, RunState state, String message) {
        jdbc.sql("update run set state = ?, finished_at = ?, message = ? where id = ? and state <> ?")
                .params(state.name(), Rows.time(clock.instant()), message, id, state.name())
                .update();
    }

    void beat(String owner, Collection<Long> ids) {
        if (!ids.isEmpty()) {
            jdbc.sql("update run set beat_at = ? where owner = ? and id = any (?)")
                    .params(Rows.time(clock.instant()), owner, ids.toArray(Long[]::new))
                    .update();
        }
    }

    /** A run whose owner has not been heard of. */
    record Orphan(long id, RunState state) {}

    List<Orphan> takeOver(String owner, Duration silence) {
        return jdbc.sql("""
                        update run set owner = :owner, epoch = epoch + 1, beat_at = :now
                        where state in ('DRAWING', 'SENDING') and owner <> :owner and beat_at < :silent
                        returning id, state
                        """)
                .param("owner", owner)
                .param("now", Rows.time(clock.instant()))
                .param("silent", Rows.time(clock.instant().minus(silence)))
                .query((row, number) -> new Orphan(row.getLong("id"), RunState.valueOf(row.getString("state"))))
                .list();
    }

    RoaringBitmap unchanged(long id) {
        return jdbc.sql("select unchanged_ordinals from run where id = ?")
                .param(id)
                .query(byte[].class)
                .optional()
                .map(Runs::bitmap)
                .orElseGet(RoaringBitmap::new);
    }

    /** Counting while a run is under way would cost it more than it tells; its progress comes by events. */
    private Run withOutcomes(Run run) {
        if (run.state() == RunState.DRAWING || run.state() == RunState.SENDING) {
            return run;
        }
        Map<String, Long> outcomes = new HashMap<>();
        jdbc.sql(
                        "select state, count(*) as lines from manifest_line where run_id = ? and state <> 'NONE' group by state")
                .param(run.id())
                .query(row -> {
                    outcomes.put(row.getString("state"), row.getLong("lines"));
                });
        return new Run(
                run.id(),
                run.routeId(),
                run.route(),
                run.destination(),
                run.object(),
                run.trigger(),
                run.state(),
                run.routeVersion(),
                run.datasetVersion(),
                run.profileVersion(),
                run.startedBy(),
                run.startedAt(),
                run.drawnAt(),
                run.approvedBy(),
                run.sentAt(),
                run.finishedAt(),
                run.sums(),
                run.knownBefore(),
                run.missingRows(),
                run.fieldCounts(),
                outcomes,
                run.message());
    }

    private Run run(ResultSet row) throws SQLException {
        List<Run.FieldCount> counts = new ArrayList<>();
        json.tree(row.getString("field_counts"))
                .properties()
                .forEach(entry -> counts.add(new Run.FieldCount(
                        entry.getKey(),
                        entry.getValue().path("written").asLong(0),
                        entry.getValue().path("held").asLong(0))));
        counts.sort(java.util.Comparator.comparingLong(Run.FieldCount::written)
                .thenComparingLong(Run.FieldCount::held)
                .reversed());
        return new Run(
                row.getLong("id"),
                row.getLong("route_id"),
                row.getString("route"),
                row.getString("destination"),
                row.getString("object"),
                RunTrigger.valueOf(row.getString("trigger")),
                RunState.valueOf(row.getString("state")),
                row.getInt("route_version"),
                row.getInt("dataset_version"),
                row.getInt("profile_version"),
                row.getString("started_by"),
                Rows.time(row, "started_at"),
                Rows.optionalTime(row, "drawn_at"),
                Rows.optionalText(row, "approved_by").orElse(""),
                Rows.optionalTime(row, "sent_at"),
                Rows.optionalTime(row, "finished_at"),
                new Sums(
                        row.getLong("read_count"),
                        row.getLong("added"),
                        row.getLong("changed"),
                        row.getLong("removed"),
                        row.getLong("unchanged"),
                        row.getLong("held"),
                        row.getLong("left_out")),
                row.getLong("known_before"),
                row.getLong("missing_rows"),
                counts,
                Map.of(),
                row.getString("message"));
    }

    private static byte[] bytes(RoaringBitmap bitmap) {
        try (ByteArrayOutputStream out = new ByteArrayOutputStream()) {
            bitmap.runOptimize();
            bitmap.serialize(new DataOutputStream(out));
            return out.toByteArray();
        } catch (IOException e) {
            throw new UncheckedIOException(e);
        }
    }

    private static RoaringBitmap bitmap(byte[] bytes) {
        try {
            RoaringBitmap bitmap = new RoaringBitmap();
            bitmap.deserialize(new DataInputStream(new ByteArrayInputStream(bytes)));
            return bitmap;
        } catch (IOException e) {
            throw new UncheckedIOException(e);
        }
    }
}

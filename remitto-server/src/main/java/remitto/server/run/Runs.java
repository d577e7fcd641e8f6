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
import java.util.ArrayList;
import java.util.Collection;
import java.util.EnumSet;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import org.jspecify.annotations.Nullable;
import org.roaringbitmap.RoaringBitmap;
import org.slf4j.Logger;
import org.slf4j.LoggerFactory;
import org.springframework.dao.DuplicateKeyException;
import org.springframework.jdbc.core.simple.JdbcClient;
import org.springframework.stereotype.Component;
import remitto.core.manifest.LineState;
import remitto.core.run.NeedsPerson;
import remitto.core.run.RunCounts;
import remitto.core.run.RunEnd;
import remitto.core.run.RunMoves;
import remitto.core.run.RunState;
import remitto.core.run.RunTrigger;
import remitto.core.run.Suspension;
import remitto.server.manifest.LinePartitions;
import remitto.server.platform.Json;
import remitto.server.platform.Problem;
import remitto.server.platform.Rows;

/** Runs, and who owns them. A run is worked on only by the process whose epoch it carries. */
@Component
public class Runs {
    private static final Logger LOG = LoggerFactory.getLogger(Runs.class);
    private static final String SELECT = """
            select r.*, t.name as route, t.object, t.destination_id, d.name as destination
            from run r join route t on t.id = r.route_id join destination d on d.id = t.destination_id
            """;

    private final LinePartitions partitions;
    private final JdbcClient jdbc;
    private final Json json;
    private final Clock clock;

    Runs(LinePartitions partitions, JdbcClient jdbc, Json json, Clock clock) {
        this.partitions = partitions;
        this.jdbc = jdbc;
        this.json = json;
        this.clock = clock;
    }

    /** What a run is pinned to. */
    public record VersionSnapshot(int routeVersion, int datasetVersion, int profileVersion, long objectFingerprint) {}

    /** @throws Problem if another run of the route is under way */
    public Tenure start(
            long routeId,
            RunTrigger trigger,
            VersionSnapshot versions,
            Optional<Long> undoOf,
            String who,
            String owner) {
        try {
            long id = jdbc.sql("""
                            insert into run (route_id, trigger, state, route_version, dataset_version, profile_version,
                              object_fingerprint, undo_of, started_by, started_at, owner, epoch, beat_at)
                            values (?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?, 1, clock_timestamp()) returning id
                            """)
                    .params(
                            routeId,
                            trigger.name(),
                            RunState.PREPARING.name(),
                            versions.routeVersion(),
                            versions.datasetVersion(),
                            versions.profileVersion(),
                            versions.objectFingerprint(),
                            undoOf.orElse(null),
                            who,
                            Rows.time(clock.instant()),
                            owner)
                    .query(Long.class)
                    .single();
            partitions.ensure(id);
            return new Tenure(id, owner, 1);
        } catch (DuplicateKeyException e) {
            throw Problem.conflict("A run of this route is under way; runs of one route never overlap.");
        }
    }

    /** A departure that did not take place. */
    public void skip(long routeId, VersionSnapshot versions, String why) {
        jdbc.sql("""
                        insert into run (route_id, trigger, state, route_version, dataset_version, profile_version,
                          object_fingerprint, started_by, started_at, finished_at, message, owner, epoch, beat_at)
                        values (:route, 'TIMETABLE', 'SKIPPED', :version, :dataset, :profile, :object, 'timetable',
                          :now, :now, :why, '', 1, :now)
                        """)
                .param("route", routeId)
                .param("version", versions.routeVersion())
                .param("dataset", versions.datasetVersion())
                .param("profile", versions.profileVersion())
                .param("object", versions.objectFingerprint())
                .param("now", Rows.time(clock.instant()))
                .param("why", why)
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
    public List<Run> list(long routeId, long before, int limit) {
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
                        select distinct on (r.route_id) r.*, t.name as route, t.object, t.destination_id, d.name as destination
                        from run r join route t on t.id = r.route_id join destination d on d.id = t.destination_id
                        where r.trigger <> 'TRIAL'
                        order by r.route_id, r.id desc
                        """).query((row, number) -> withOutcomes(run(row))).list();
    }

    /** Runs that somebody has to settle, the oldest first, whatever their routes did since. */
    public List<Run> unsettled() {
        return jdbc.sql("""
                        select r.*, t.name as route, t.object, t.destination_id, d.name as destination from (
                          select id from run where state in ('AWAITING_APPROVAL', 'SUSPENDED', 'INTERRUPTED')
                          union all (select distinct on (route_id, trigger) id from run where state = 'FAILED'
                            order by route_id, trigger, id desc)) as open
                        join run r using (id)
                        join route t on t.id = r.route_id and t.archived_at is null
                        join destination d on d.id = t.destination_id order by r.id
                        """).query((row, number) -> run(row)).list().stream()
                .filter(run -> NeedsPerson.isOpen(run.state(), run.trigger()))
                .filter(run -> run.state() != RunState.FAILED || !isSettled(run))
                .map(this::withOutcomes)
                .toList();
    }

    private boolean isSettled(Run failed) {
        return jdbc.sql("select distinct trigger, state from run where route_id = ? and id > ?")
                .params(failed.routeId(), failed.id())
                .query((row, number) -> NeedsPerson.settles(
                        failed.trigger(),
                        RunTrigger.valueOf(row.getString("trigger")),
                        RunState.valueOf(row.getString("state"))))
                .list()
                .contains(true);
    }

    /** Manifests of a route that wait for a person. */
    public List<Long> waiting(long routeId) {
        return jdbc.sql(
                        "select id from run where route_id = ? and state in ('READY', 'AWAITING_APPROVAL', 'SUSPENDED') order by id")
                .param(routeId)
                .query(Long.class)
                .list();
    }

    /**
     * A manifest is prepared.
     *
     * @return false if somebody else has the run by now
     */
    public boolean prepared(Tenure tenure, RunEnd end, Prepared prepared, String fieldCounts) {
        var counts = prepared.counts();
        return jdbc.sql("""
                        update run set state = ?, prepared_at = ?, finished_at = case when ? then ?::timestamptz end, read_count = ?, leaving = ?, added = ?, changed = ?,
                          removed = ?, unchanged = ?, held = ?, left_out = ?, known_before = ?, missing_rows = ?,
                          adopted = ?, unchanged_ordinals = ?, left_out_ordinals = ?, field_counts = ?::jsonb, message = ?
                        where id = ? and owner = ? and epoch = ? and state = any (?)
                        """)
                        .params(
                                end.state().name(),
                                Rows.time(clock.instant()),
                                end.state().isOver(),
                                Rows.time(clock.instant()),
                                counts.read(),
                                counts.leaving(),
                                counts.added(),
                                counts.changed(),
                                counts.removed(),
                                counts.unchanged(),
                                counts.held(),
                                counts.leftOut(),
                                prepared.knownBefore(),
                                prepared.missing(),
                                prepared.adopted(),
                                bytes(prepared.unchanged()),
                                bytes(prepared.leftOut()),
                                fieldCounts,
                                end.message(),
                                tenure.runId(),
                                tenure.owner(),
                                tenure.epoch(),
                                names(RunMoves.before(end.state())))
                        .update()
                == 1;
    }

    /**
     * Takes a waiting manifest for sending.
     *
     * @return nothing if it no longer waits
     */
    public Optional<Tenure> beginSending(long id, String who, String owner) {
        try {
            return jdbc.sql("""
                            update run set state = ?, approved_by = ?, sent_at = ?, owner = ?, epoch = epoch + 1,
                              beat_at = clock_timestamp(), message = '', wave_passed = suspension = 'WAVE', suspension = '', request = '',
                              answered_at = null, finished_at = null
                            where id = ? and state = any (?) returning epoch
                            """)
                    .params(
                            RunState.SENDING.name(),
                            who,
                            Rows.time(clock.instant()),
                            owner,
                            id,
                            names(RunMoves.before(RunState.SENDING)))
                    .query(Integer.class)
                    .optional()
                    .map(epoch -> new Tenure(id, owner, epoch));
        } catch (DuplicateKeyException e) {
            throw Problem.conflict("A run of this route is under way; runs of one route never overlap.");
        }
    }

    /** Gives up a manifest that waits; false if it no longer does. */
    public boolean giveUp(long id, RunState state, String message) {
        return jdbc.sql("""
                        update run set state = ?, suspension = '', finished_at = ?, message = ?
                        where id = ? and state = any (?)
                        """)
                        .params(
                                state.name(),
                                Rows.time(clock.instant()),
                                message,
                                id,
                                names(EnumSet.copyOf(RunMoves.before(state).stream()
                                        .filter(RunState::waits)
                                        .toList())))
                        .update()
                == 1;
    }

    public long objectFingerprint(long id) {
        return jdbc.sql("select object_fingerprint from run where id = ?")
                .param(id)
                .query(Long.class)
                .single();
    }

    public RunState state(long id) {
        return jdbc.sql("select state from run where id = ?")
                .param(id)
                .query((row, number) -> RunState.valueOf(row.getString("state")))
                .optional()
                .orElseThrow(() -> Problem.notFound("manifest " + id));
    }

    public int epoch(long id) {
        return jdbc.sql("select epoch from run where id = ?")
                .param(id)
                .query(Integer.class)
                .single();
    }

    /** Every call of a run is answered, or will be no more. */
    public void callsEnded(long id, int epoch) {
        jdbc.sql("update run set answered_at = ? where id = ? and epoch = ?")
                .params(Rows.time(clock.instant()), id, epoch)
                .update();
    }

    /** @return false if somebody else has the run by now, or it is in a state that this one does not follow: it is left alone */
    public boolean end(Tenure tenure, RunEnd end) {
        return end(tenure, end, RunMoves.before(end.state()));
    }

    /** A record that was tried on its own could not be sent. */
    public void endTrial(Tenure tenure, String message) {
        end(tenure, RunEnd.of(RunState.FAILED, message), RunMoves.beforeATrialFails());
    }

    private boolean end(Tenure tenure, RunEnd end, Set<RunState> before) {
        boolean ended = jdbc.sql("""
                        update run set state = ?, suspension = ?, finished_at = ?, message = ?
                        where id = ? and owner = ? and epoch = ? and state = any (?)
                        """)
                        .params(
                                end.state().name(),
                                end.suspension() == Suspension.NONE
                                        ? ""
                                        : end.suspension().name(),
                                Rows.time(clock.instant()),
                                end.message(),
                                tenure.runId(),
                                tenure.owner(),
                                tenure.epoch(),
                                names(before))
                        .update()
                == 1;
        if (ended) {
            // The message can hold a value of a record, so it stays out of the log.
            LOG.info("Run {} ended as {}", tenure.runId(), end.state());
        }
        return ended;
    }

    private static String[] names(Set<RunState> states) {
        return states.stream().map(RunState::name).toArray(String[]::new);
    }

    /** The run of a route that is under way. */
    public Optional<Long> underWay(long routeId) {
        return jdbc.sql("select id from run where route_id = ? and state in ('PREPARING', 'SENDING')")
                .param(routeId)
                .query(Long.class)
                .optional();
    }

    /** True when a run of any of the routes is under way. */
    public boolean anyUnderWay(Collection<Long> routeIds) {
        return jdbc.sql("select count(*) from run where route_id = any (?) and state in ('PREPARING', 'SENDING')")
                        .param(routeIds.toArray(Long[]::new))
                        .query(Long.class)
                        .single()
                > 0;
    }

    /** Halted runs to a destination, for one reason. */
    public List<Long> suspended(long destinationId, Suspension suspension) {
        return jdbc.sql("""
                        select r.id from run r join route t on t.id = r.route_id
                        where t.destination_id = ? and r.state = 'SUSPENDED' and r.suspension = ? order by r.id
                        """)
                .params(destinationId, suspension.name())
                .query(Long.class)
                .list();
    }

    /**
     * Runs that halted for a circuit that is closed by now: it closed between the last call of the run and the note that
     * it halted, so that whoever closed it did not find the run.
     */
    public List<Long> stranded() {
        return jdbc.sql("""
                        select r.id from run r join route t on t.id = r.route_id
                        where r.state = 'SUSPENDED' and r.suspension = ? and not exists (
                          select 1 from circuit c where c.destination_id = t.destination_id and c.open_since is not null)
                        order by r.id
                        """).param(Suspension.CIRCUIT.name()).query(Long.class).list();
    }

    /** Runs that failed for a destination that answers by now, and that no other run of their route came after. */
    public List<Long> answeredSince() {
        return jdbc.sql("""
                        select r.id from run r join route t on t.id = r.route_id
                        where r.state = 'FAILED' and r.suspension = 'CIRCUIT' and not t.paused
                          and not exists (select from run n where n.route_id = r.route_id and n.id > r.id)
                          and not exists (
                            select from circuit c where c.destination_id = t.destination_id and c.open_since is not null)
                        order by r.id
                        """).query(Long.class).list();
    }

    /** How many of the latest runs of a route were interrupted, without another between them; ten at most are looked at. */
    public int interruptedInARow(long routeId) {
        List<String> latest = jdbc.sql("select state from run where route_id = ? order by id desc limit 10")
                .param(routeId)
                .query(String.class)
                .list();
        int other = 0;
        while (other < latest.size() && latest.get(other).equals(RunState.INTERRUPTED.name())) {
            other++;
        }
        return other;
    }

    public Optional<Long> pausedRun(long routeId) {
        return jdbc.sql(
                        "select id from run where route_id = ? and state = 'SUSPENDED' and suspension = 'PAUSED' order by id desc limit 1")
                .param(routeId)
                .query(Long.class)
                .optional();
    }

    public RoaringBitmap unchanged(long id) {
        return ordinals(id, "unchanged_ordinals");
    }

    /** Records left out without a line: nothing of theirs changed since they were left out before. */
    public RoaringBitmap leftOut(long id) {
        return ordinals(id, "left_out_ordinals");
    }

    private RoaringBitmap ordinals(long id, String column) {
        return jdbc.sql("select coalesce(" + column + ", '') from run where id = ?")
                .param(id)
                .query(byte[].class)
                .optional()
                .filter(bytes -> bytes.length > 0)
                .map(Runs::bitmap)
                .orElseGet(RoaringBitmap::new);
    }

    /** Counting while a run is under way would cost it more than it tells; its progress comes by events. */
    private Run withOutcomes(Run run) {
        if (run.state() == RunState.PREPARING || run.state() == RunState.SENDING) {
            return run;
        }
        Map<String, Long> outcomes = new HashMap<>(run.outcomes());
        jdbc.sql("select state, count(*) as lines from line_outcome where run_id = ? group by state")
                .param(run.id())
                .query(row -> {
                    outcomes.put(row.getString("state"), row.getLong("lines"));
                });
        long left = run.counts().moving()
                - outcomes.values().stream().mapToLong(Long::longValue).sum();
        if (left > 0) {
            boolean over = run.state() == RunState.CANCELLED || run.state() == RunState.DISCARDED;
            outcomes.merge((over ? LineState.CANCELLED : LineState.PLANNED).name(), left, Long::sum);
        }
        return run.outcomes(outcomes);
    }

    /** Kept when the lines were removed; empty before. */
    private Map<String, Long> numbers(@Nullable String kept) {
        Map<String, Long> numbers = new HashMap<>();
        if (kept != null) {
            json.tree(kept)
                    .properties()
                    .forEach(entry ->
                            numbers.put(entry.getKey(), entry.getValue().asLong()));
        }
        return numbers;
    }

    private Run run(ResultSet row) throws SQLException {
        List<Run.FieldCount> counts = new ArrayList<>();
        json.tree(row.getString("field_counts"))
                .properties()
                .forEach(entry -> counts.add(new Run.FieldCount(
                        entry.getKey(),
                        entry.getValue().path("written").asLong(0),
                        entry.getValue().path("held").asLong(0),
                        entry.getValue().path("cleared").asLong(0))));
        counts.sort(java.util.Comparator.comparingLong(Run.FieldCount::written)
                .thenComparingLong(Run.FieldCount::held)
                .reversed());
        return new Run(
                row.getLong("id"),
                row.getLong("route_id"),
                row.getString("route"),
                row.getLong("destination_id"),
                row.getString("destination"),
                row.getString("object"),
                RunTrigger.valueOf(row.getString("trigger")),
                RunState.valueOf(row.getString("state")),
                row.getString("suspension").isEmpty()
                        ? Suspension.NONE
                        : Suspension.valueOf(row.getString("suspension")),
                Optional.ofNullable(row.getObject("undo_of", Long.class)),
                row.getInt("route_version"),
                row.getInt("dataset_version"),
                row.getInt("profile_version"),
                row.getString("started_by"),
                Rows.time(row, "started_at"),
                Rows.optionalTime(row, "prepared_at"),
                Rows.optionalText(row, "approved_by").orElse(""),
                Rows.optionalTime(row, "sent_at"),
                Rows.optionalTime(row, "answered_at"),
                Rows.optionalTime(row, "finished_at"),
                new RunCounts(
                        row.getLong("read_count"),
                        row.getLong("leaving"),
                        row.getLong("added"),
                        row.getLong("changed"),
                        row.getLong("removed"),
                        row.getLong("unchanged"),
                        row.getLong("held"),
                        row.getLong("left_out")),
                row.getLong("known_before"),
                row.getLong("missing_rows"),
                row.getLong("adopted"),
                counts,
                numbers(row.getString("outcomes")),
                Rows.optionalTime(row, "lines_removed_at"),
                row.getString("message"),
                false);
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

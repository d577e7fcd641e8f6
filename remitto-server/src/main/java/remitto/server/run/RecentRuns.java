package remitto.server.run;

import java.time.Clock;
import java.time.Duration;
import java.time.Instant;
import java.util.ArrayList;
import java.util.Comparator;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import org.springframework.jdbc.core.simple.JdbcClient;
import org.springframework.stereotype.Component;
import remitto.core.run.RunState;
import remitto.core.run.Suspension;
import remitto.core.timetable.Schedule;
import remitto.server.platform.Rows;
import remitto.server.route.Routes;

/** The latest runs of every route, in few words, and whether a route keeps to its schedule. */
@Component
public class RecentRuns {
    /** Of each route. */
    static final int MOST = 10;

    /** A departure may take this long before it counts as missing. */
    static final Duration GRACE = Duration.ofMinutes(15);

    private final JdbcClient jdbc;
    private final Routes routes;
    private final Clock clock;

    RecentRuns(JdbcClient jdbc, Routes routes, Clock clock) {
        this.jdbc = jdbc;
        this.routes = routes;
        this.clock = clock;
    }

    /**
     * A run of a route.
     *
     * @param moving lines that add, change or remove a record
     * @param held records or values that were held
     */
    public record RecentRun(
            long runId, RunState state, Suspension suspension, Instant startedAt, long moving, long held) {}

    /**
     * The latest runs of a route, the newest last.
     *
     * @param lastSentAt when the last run that ended as planned began; absent when none did
     * @param behind its schedule asked for a run since then, and none ended as planned
     */
    public record RunsOfRoute(long routeId, List<RecentRun> runs, Optional<Instant> lastSentAt, boolean behind) {}

    /** Runs by hand and by the timetable; trials and undos do not count. */
    public List<RunsOfRoute> all() {
        Map<Long, List<RecentRun>> runs = new LinkedHashMap<>();
        jdbc.sql("""
                        select r.id as route, n.* from route r cross join lateral (
                          select id, state, suspension, started_at, added + changed + removed as moving, held from run
                          where route_id = r.id and trigger in ('HAND', 'TIMETABLE') order by id desc limit ?) n
                        where r.archived_at is null
                        """).param(MOST).query(row -> {
            runs.computeIfAbsent(row.getLong("route"), route -> new ArrayList<>())
                    .add(new RecentRun(
                            row.getLong("id"),
                            RunState.valueOf(row.getString("state")),
                            row.getString("suspension").isEmpty()
                                    ? Suspension.NONE
                                    : Suspension.valueOf(row.getString("suspension")),
                            Rows.time(row, "started_at"),
                            row.getLong("moving"),
                            row.getLong("held")));
        });
        Map<Long, Instant> sent = lastSent();
        Instant now = clock.instant();
        return routes.all().stream()
                .map(route -> {
                    List<RecentRun> its = new ArrayList<>(runs.getOrDefault(route.id(), List.of()));
                    its.sort(Comparator.comparingLong(RecentRun::runId));
                    Optional<Instant> last = Optional.ofNullable(sent.get(route.id()));
                    boolean behind = !route.paused()
                            && route.liveSpec()
                                    .filter(spec -> isBehind(
                                            spec.schedule(), begin(last.or(() -> first(its)), route.savedAt()), now))
                                    .isPresent();
                    return new RunsOfRoute(route.id(), List.copyOf(its), last, behind);
                })
                .toList();
    }

    /** @param last when the last run that ended as planned began, or the first of all where none did; absent where none ever ran */
    static boolean isBehind(Schedule schedule, Optional<Instant> last, Instant now) {
        return last.flatMap(schedule::next)
                .filter(due -> due.plus(GRACE).isBefore(now))
                .isPresent();
    }

    /** A schedule that was saved since then has asked for nothing before. */
    private static Optional<Instant> begin(Optional<Instant> last, Instant savedAt) {
        return last.map(one -> one.isBefore(savedAt) ? savedAt : one);
    }

    private static Optional<Instant> first(List<RecentRun> runs) {
        return runs.stream().map(RecentRun::startedAt).findFirst();
    }

    private Map<Long, Instant> lastSent() {
        Map<Long, Instant> sent = new LinkedHashMap<>();
        jdbc.sql("""
                        select r.id as route, n.started_at from route r cross join lateral (
                          select started_at from run where route_id = r.id and trigger in ('HAND', 'TIMETABLE') and state = 'SENT'
                          order by id desc limit 1) n where r.archived_at is null
                        """).query(row -> {
            sent.put(row.getLong("route"), Rows.time(row, "started_at"));
        });
        return sent;
    }
}

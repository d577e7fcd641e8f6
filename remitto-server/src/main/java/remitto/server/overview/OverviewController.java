package remitto.server.overview;

import java.time.Clock;
import java.time.Instant;
import java.time.ZoneOffset;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import org.springframework.jdbc.core.simple.JdbcClient;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.RequestMapping;
import org.springframework.web.bind.annotation.RequestParam;
import org.springframework.web.bind.annotation.RestController;
import remitto.core.run.RunState;
import remitto.server.approval.ApprovalRequest;
import remitto.server.approval.ApprovalRequests;
import remitto.server.departure.TimetableHealth;
import remitto.server.destination.Circuits;
import remitto.server.destination.SchemaChanges;
import remitto.server.expectation.BrokenExpectations;
import remitto.server.held.HeldRecords;
import remitto.server.platform.Rows;
import remitto.server.route.Routes;
import remitto.server.run.Run;
import remitto.server.run.Runs;

/** What the line and the board show. */
@RestController
@RequestMapping("/api")
class OverviewController {
    private final JdbcClient jdbc;
    private final Routes routes;
    private final Runs runs;
    private final HeldRecords held;
    private final ApprovalRequests approvals;
    private final Circuits circuits;
    private final SchemaChanges changes;
    private final TimetableHealth timetable;
    private final BrokenExpectations expectations;
    private final Clock clock;

    OverviewController(
            JdbcClient jdbc,
            Routes routes,
            Runs runs,
            HeldRecords held,
            ApprovalRequests approvals,
            Circuits circuits,
            SchemaChanges changes,
            TimetableHealth timetable,
            BrokenExpectations expectations,
            Clock clock) {
        this.timetable = timetable;
        this.expectations = expectations;
        this.jdbc = jdbc;
        this.routes = routes;
        this.runs = runs;
        this.held = held;
        this.approvals = approvals;
        this.circuits = circuits;
        this.changes = changes;
        this.clock = clock;
    }

    /**
     * Counts of the stops
     *
     * @param sourcesInTrouble sources whose last test failed, and so on
     */
    record LineCounts(
            long sources,
            long sourcesInTrouble,
            long datasets,
            long people,
            long audiences,
            long audiencesInTrouble,
            long routes,
            long routesWaiting,
            long destinations,
            long destinationsInTrouble,
            long held) {}

    /**
     * A route on the board, with its latest manifest.
     *
     * @param latest the newest run; absent when the route never run
     */
    record Departure(Routes.Route route, Optional<Run> latest, long held) {}

    /** What was read, sent and held since midnight. */
    record SinceMidnight(long read, long sent, long unchanged, long held) {}

    /** One hour of one destination: lines acknowledged in it. */
    record HourlyLoad(Instant hour, String destination, long records) {}

    /**
     * The home page.
     *
     * @param waiting runs that somebody has to settle, the oldest first
     * @param approvals what people ask approvers for, the oldest first
     * @param circuits destinations that do not answer
     * @param changes what destinations changed and nobody saw yet
     * @param unexpected expectations that datasets do not meet
     * @param timetableLateSince when it was last seen whether a route is due; absent while that is as often as it should be
     */
    record Board(
            Instant now,
            Optional<Instant> timetableLateSince,
            List<Departure> departures,
            List<Run> waiting,
            List<ApprovalRequest> approvals,
            SinceMidnight since,
            List<HourlyLoad> load,
            List<Circuits.OpenCircuit> circuits,
            List<SchemaChanges.NoticedChange> changes,
            List<BrokenExpectations.BrokenExpectation> unexpected) {}

    /** What the navigation shows: how many of each there are, and what needs attention. */
    @GetMapping("/line")
    LineCounts line() {
        return jdbc.sql("""
                        select (select count(*) from source) as sources,
                          (select count(*) from source where coalesce(test_problem, '') <> '') as bad_sources,
                          (select count(*) from dataset) as datasets,
                          (select count(*) from person where about = 'PERSON') as people,
                          (select count(*) from audience) as audiences,
                          (select count(*) from audience_setting where problem <> '') as bad_audiences,
                          (select count(*) from route) as routes,
                          (select count(distinct route_id) from run where state in ('AWAITING_APPROVAL', 'SUSPENDED')) as waiting,
                          (select count(*) from destination) as destinations,
                          (select count(*) from destination d where coalesce(test_problem, '') <> '' or exists (
                            select 1 from circuit c where c.destination_id = d.id and c.open_since is not null))
                            as bad_destinations,
                          (select count(*) from held) as held
                        """)
                .query((row, number) -> new LineCounts(
                        row.getLong("sources"),
                        row.getLong("bad_sources"),
                        row.getLong("datasets"),
                        row.getLong("people"),
                        row.getLong("audiences"),
                        row.getLong("bad_audiences"),
                        row.getLong("routes"),
                        row.getLong("waiting"),
                        row.getLong("destinations"),
                        row.getLong("bad_destinations"),
                        row.getLong("held")))
                .single();
    }

    /**
     * The board: what is due, what runs, what needs attention.
     *
     * @param midnight start of the reader's day; the server's own (UTC) when absent
     */
    @GetMapping("/departures")
    Board departures(@RequestParam(required = false) Optional<Instant> midnight) {
        Instant now = clock.instant();
        Instant from = midnight.orElseGet(() -> now.atZone(ZoneOffset.UTC)
                .toLocalDate()
                .atStartOfDay(ZoneOffset.UTC)
                .toInstant());
        Map<Long, Run> latest = new HashMap<>();
        runs.latestPerRoute().forEach(run -> latest.put(run.routeId(), run));
        Map<Long, Long> heldByRoute = new HashMap<>();
        held.groups().forEach(group -> heldByRoute.merge(group.routeId(), group.records(), Long::sum));
        List<Departure> departures = routes.all().stream()
                .map(route -> new Departure(
                        route, Optional.ofNullable(latest.get(route.id())), heldByRoute.getOrDefault(route.id(), 0L)))
                .toList();
        return new Board(
                now,
                timetable.lateSince(),
                departures,
                runs.unsettled(),
                approvals.open(),
                since(from),
                load(from),
                circuits.open(),
                changes.unseen(),
                expectations.all());
    }

    private SinceMidnight since(Instant from) {
        return jdbc.sql("""
                        select coalesce(sum(r.read_count), 0) as read, coalesce(sum(r.unchanged), 0) as unchanged,
                          coalesce(sum(r.held), 0) as held,
                          (select sum(records) from answered_quarter where quarter >= :from) as sent
                        from run r where r.started_at >= :from and r.trigger <> 'TRIAL' and r.state <> :failed
                        """)
                .param("from", Rows.time(from))
                .param("failed", RunState.FAILED.name())
                .query((row, number) -> new SinceMidnight(
                        row.getLong("read"), row.getLong("sent"), row.getLong("unchanged"), row.getLong("held")))
                .single();
    }

    private List<HourlyLoad> load(Instant from) {
        return jdbc.sql("""
                        select date_trunc('hour', m.quarter) as hour, d.name as destination, sum(m.records) as records
                        from answered_quarter m
                        join run r on r.id = m.run_id join route t on t.id = r.route_id
                        join destination d on d.id = t.destination_id
                        where m.quarter >= ?
                        group by 1, 2 order by 1, 2
                        """)
                .param(Rows.time(from))
                .query((row, number) ->
                        new HourlyLoad(Rows.time(row, "hour"), row.getString("destination"), row.getLong("records")))
                .list();
    }
}

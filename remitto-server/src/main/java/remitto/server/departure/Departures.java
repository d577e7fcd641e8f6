package remitto.server.departure;

import com.github.kagkarlsson.scheduler.Scheduler;
import com.github.kagkarlsson.scheduler.SchedulerName;
import com.github.kagkarlsson.scheduler.task.helper.RecurringTask;
import com.github.kagkarlsson.scheduler.task.helper.Tasks;
import com.github.kagkarlsson.scheduler.task.schedule.FixedDelay;
import jakarta.annotation.PreDestroy;
import java.time.Clock;
import java.time.Duration;
import java.time.Instant;
import java.util.ArrayDeque;
import java.util.HashSet;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.UUID;
import java.util.concurrent.ConcurrentHashMap;
import java.util.concurrent.ExecutorService;
import java.util.concurrent.Executors;
import org.slf4j.Logger;
import org.slf4j.LoggerFactory;
import org.springframework.beans.factory.annotation.Value;
import org.springframework.boot.context.event.ApplicationReadyEvent;
import org.springframework.context.event.EventListener;
import org.springframework.stereotype.Component;
import remitto.core.timetable.Schedule;
import remitto.server.platform.DueWork;
import remitto.server.platform.Lane;
import remitto.server.platform.LaneDataSource;
import remitto.server.route.Routes;
import remitto.server.run.life.RunDecisions;

/** Lets routes depart when they are due. The scheduler library sees to it that one process at a time looks. */
@Component
public class Departures {
    /** What looking is called in the scheduler's table. */
    static final String TASK = "departures";

    private static final Logger LOG = LoggerFactory.getLogger(Departures.class);
    private static final Duration LOOK = Duration.ofSeconds(2);
    private static final int AT_ONCE = 4;

    private final Routes routes;
    private final RunDecisions decisions;
    private final List<DueWork> works;
    private final Clock clock;
    private final boolean departs;
    private final Scheduler scheduler;
    private final Set<Long> departing = ConcurrentHashMap.newKeySet();
    private final ExecutorService beginning =
            Executors.newFixedThreadPool(AT_ONCE, task -> new Thread(task, "departing"));

    /** @param departs false lets no route depart by itself; what else is due goes on, removals at destinations among it */
    Departures(
            Routes routes,
            RunDecisions decisions,
            List<DueWork> works,
            Clock clock,
            LaneDataSource lanes,
            @Value("${remitto.departures}") boolean departs) {
        this.departs = departs;
        this.routes = routes;
        this.decisions = decisions;
        this.works = works;
        this.clock = clock;
        RecurringTask<Void> look = Tasks.recurring(TASK, FixedDelay.of(LOOK)).execute((instance, context) -> look());
        this.scheduler = Scheduler.create(lanes.pool(Lane.BEAT))
                .startTasks(look)
                .threads(1)
                .pollingInterval(LOOK)
                .schedulerName(new SchedulerName.Fixed("remitto-" + UUID.randomUUID()))
                .build();
    }

    @EventListener(ApplicationReadyEvent.class)
    void begin() {
        scheduler.start();
    }

    @PreDestroy
    void end() {
        scheduler.stop();
        beginning.shutdownNow();
    }

    /** What is due is begun by threads of their own: a route that has to ask a slow destination first keeps no other waiting. */
    private void look() {
        Lane.BEAT.run(() -> {
            if (departs) {
                departDue(this::begin);
            } else {
                startWorks(clock.instant());
            }
        });
    }

    private void begin(long routeId, Runnable departure) {
        if (departing.add(routeId)) {
            beginning.execute(() -> {
                try {
                    departure.run();
                } finally {
                    departing.remove(routeId);
                }
            });
        }
    }

    /** The same, with everything begun when it returns. */
    public void departDue() {
        departDue((routeId, departure) -> departure.run());
    }

    private interface Begin {
        void at(long routeId, Runnable departure);
    }

    /**
     * Starts every route whose departure has come, parents first: a route whose parent is due or under way waits for
     * it. Departures missed while nothing ran are made up for once.
     */
    private void departDue(Begin begin) {
        Instant now = clock.instant();
        startWorks(now);
        Map<Long, Routes.Route> due = new LinkedHashMap<>();
        routes.all().stream()
                .filter(route -> !route.paused() && route.liveSpec().isPresent())
                .filter(route ->
                        route.nextDeparture().filter(at -> !at.isAfter(now)).isPresent())
                .filter(route -> !isHeldBack(route))
                .forEach(route -> due.put(route.id(), route));
        for (Routes.Route route : due.values()) {
            Set<Long> parents = route.liveSpec().orElseThrow().parents();
            boolean waits = parents.stream().anyMatch(parent -> parent != route.id() && due.containsKey(parent))
                    || decisions.anyUnderWay(parents);
            if (!waits || inACircle(route, due)) {
                begin.at(route.id(), () -> alone("route " + route.id(), () -> depart(route, now)));
            }
        }
    }

    /** A change is not skipped as a moment is: it stays due until the route can depart. */
    private boolean isHeldBack(Routes.Route route) {
        return route.liveSpec().orElseThrow().schedule() instanceof Schedule.OnChange
                && decisions.isHeldBack(route.id(), route.destinationId());
    }

    private void startWorks(Instant now) {
        works.forEach(work -> alone("work that is due", () -> work.startDue(now)));
    }

    /** What fails stops nothing that comes after it. */
    private static void alone(String what, Runnable work) {
        try {
            work.run();
        } catch (RuntimeException e) {
            LOG.error("What is due could not be begun: {}", what, e);
        }
    }

    /** Routes that wait for each other would never depart; then none of them waits. */
    private static boolean inACircle(Routes.Route route, Map<Long, Routes.Route> due) {
        Set<Long> seen = new HashSet<>();
        ArrayDeque<Long> open = new ArrayDeque<>(route.liveSpec().orElseThrow().parents());
        while (!open.isEmpty()) {
            long next = open.removeFirst();
            if (next == route.id()) {
                return true;
            }
            if (seen.add(next) && due.containsKey(next)) {
                open.addAll(due.get(next).liveSpec().orElseThrow().parents());
            }
        }
        return false;
    }

    private void depart(Routes.Route route, Instant now) {
        Optional<Instant> next = route.liveSpec().orElseThrow().schedule().next(now);
        // Moved on only once the run is written down: a crash in between lets it depart again, not never.
        decisions.depart(route.id());
        routes.departed(route.id(), route.nextDeparture().orElseThrow(), next);
    }
}

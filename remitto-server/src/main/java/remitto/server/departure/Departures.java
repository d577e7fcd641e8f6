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
import javax.sql.DataSource;
import org.springframework.boot.context.event.ApplicationReadyEvent;
import org.springframework.context.event.EventListener;
import org.springframework.stereotype.Component;
import remitto.server.route.Routes;
import remitto.server.run.RunDecisions;

/** Lets routes depart when they are due. The scheduler library sees to it that one process at a time looks. */
@Component
public class Departures {
    private static final Duration LOOK = Duration.ofSeconds(2);

    private final Routes routes;
    private final RunDecisions decisions;
    private final List<DueWork> works;
    private final Clock clock;
    private final Scheduler scheduler;

    Departures(Routes routes, RunDecisions decisions, List<DueWork> works, Clock clock, DataSource dataSource) {
        this.routes = routes;
        this.decisions = decisions;
        this.works = works;
        this.clock = clock;
        RecurringTask<Void> look =
                Tasks.recurring("departures", FixedDelay.of(LOOK)).execute((instance, context) -> departDue());
        this.scheduler = Scheduler.create(dataSource)
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
    }

    /**
     * Starts every route whose departure has come, parents first: a route whose parent is due or under way waits for
     * it. Departures missed while nothing ran are made up for once.
     */
    public void departDue() {
        Instant now = clock.instant();
        works.forEach(work -> work.startDue(now));
        Map<Long, Routes.Route> due = new LinkedHashMap<>();
        routes.all().stream()
                .filter(route -> !route.paused() && route.liveSpec().isPresent())
                .filter(route ->
                        route.nextDeparture().filter(at -> !at.isAfter(now)).isPresent())
                .forEach(route -> due.put(route.id(), route));
        for (Routes.Route route : due.values()) {
            Set<Long> parents = route.liveSpec().orElseThrow().parents();
            boolean waits = parents.stream().anyMatch(parent -> parent != route.id() && due.containsKey(parent))
                    || decisions.anyUnderWay(parents);
            if (!waits || inACircle(route, due)) {
                depart(route, now);
            }
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

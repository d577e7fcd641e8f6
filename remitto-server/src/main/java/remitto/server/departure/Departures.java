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
import java.util.Optional;
import java.util.UUID;
import javax.sql.DataSource;
import org.springframework.boot.context.event.ApplicationReadyEvent;
import org.springframework.context.event.EventListener;
import org.springframework.stereotype.Component;
import remitto.server.route.Routes;
import remitto.server.run.RunKeeper;

/** Lets routes depart when they are due. The scheduler library sees to it that one process at a time looks. */
@Component
public class Departures {
    private static final Duration LOOK = Duration.ofSeconds(2);

    private final Routes routes;
    private final RunKeeper keeper;
    private final Clock clock;
    private final Scheduler scheduler;

    Departures(Routes routes, RunKeeper keeper, Clock clock, DataSource dataSource) {
        this.routes = routes;
        this.keeper = keeper;
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

    /** Starts every route whose departure has come. Departures missed while nothing ran are made up for once. */
    public void departDue() {
        Instant now = clock.instant();
        for (Routes.Route route : routes.all()) {
            Optional<Instant> due = route.nextDeparture().filter(at -> !at.isAfter(now));
            if (due.isPresent() && !route.paused() && route.liveSpec().isPresent()) {
                Optional<Instant> next = route.liveSpec().get().schedule().next(now);
                if (routes.departed(route.id(), due.get(), next)) {
                    keeper.depart(route.id());
                }
            }
        }
    }
}

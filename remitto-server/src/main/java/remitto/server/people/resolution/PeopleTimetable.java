package remitto.server.people.resolution;

import java.time.Instant;
import java.util.Optional;
import org.springframework.stereotype.Component;
import remitto.core.timetable.Schedule;
import remitto.server.people.rule.PeopleSettings;
import remitto.server.platform.DueWork;
import remitto.server.platform.Problem;

/** Joins records when that is due. A run that is due while another is under way is made up for at the next look. */
@Component
class PeopleTimetable implements DueWork {
    private final PeopleSettings settings;
    private final PeopleRuns runs;

    PeopleTimetable(PeopleSettings settings, PeopleRuns runs) {
        this.settings = settings;
        this.runs = runs;
    }

    @Override
    public void startDue(Instant now) {
        settings.due(now).forEach(about -> {
            PeopleSettings.Setting setting = settings.of(about);
            boolean waits =
                    runs.latest(about).filter(PeopleRuns.PeopleRun::waits).isPresent();
            if (waits && setting.schedule() instanceof Schedule.OnChange) {
                // A change stays to be taken up once somebody has decided.
                return;
            }
            if (!waits) {
                try {
                    runs.start(new PeopleRuns.Request(about, false, false, Optional.empty()), "the timetable");
                } catch (Problem underWay) {
                    return;
                }
            }
            settings.started(about, setting.nextRun().orElse(now));
        });
    }
}

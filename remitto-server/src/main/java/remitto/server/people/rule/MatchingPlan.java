package remitto.server.people.rule;

import java.util.List;
import java.util.Locale;
import org.springframework.http.HttpStatus;
import org.springframework.stereotype.Component;
import remitto.core.timetable.Schedule;
import remitto.server.journal.Journal;
import remitto.server.people.EntityType;
import remitto.server.permission.CurrentUser;
import remitto.server.permission.Role;
import remitto.server.platform.Problem;

/** Setting when matching runs by itself and what stops it, by whatever way somebody asks for it. */
@Component
public class MatchingPlan {
    private final CurrentUser user;
    private final PeopleSettings settings;
    private final Journal journal;

    MatchingPlan(CurrentUser user, PeopleSettings settings, Journal journal) {
        this.user = user;
        this.settings = settings;
        this.journal = journal;
    }

    /** @throws Problem if guards are loosened by somebody who is no approver */
    public void plan(EntityType entityType, PeopleSettings.PeopleGuards guards, Schedule schedule, String who) {
        PeopleSettings.Setting before = settings.of(entityType);
        if (guards.areLooserThan(before.guards()) && !user.isAtLeast(Role.APPROVER)) {
            throw new Problem(
                    HttpStatus.FORBIDDEN,
                    "An approver loosens the guards of matching. Guards can be tightened by editors.",
                    List.of());
        }
        if (!guards.equals(before.guards())) {
            settings.guard(entityType, guards, who);
            note(who, "changed the guards of matching", entityType);
        }
        settings.schedule(entityType, schedule);
        note(who, "changed the matching schedule", entityType);
    }

    private void note(String who, String what, EntityType entityType) {
        String name = entityType == EntityType.PERSON ? "People" : "Companies";
        journal.write(who, what, new Journal.Subject(name.toLowerCase(Locale.ROOT), 0, name), "");
    }
}

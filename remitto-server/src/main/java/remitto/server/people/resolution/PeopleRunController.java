package remitto.server.people.resolution;

import java.security.Principal;
import java.util.List;
import java.util.Locale;
import java.util.Optional;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PathVariable;
import org.springframework.web.bind.annotation.PostMapping;
import org.springframework.web.bind.annotation.PutMapping;
import org.springframework.web.bind.annotation.RequestBody;
import org.springframework.web.bind.annotation.RequestMapping;
import org.springframework.web.bind.annotation.RequestParam;
import org.springframework.web.bind.annotation.RestController;
import remitto.core.timetable.Schedule;
import remitto.server.journal.Journal;
import remitto.server.people.EntityType;
import remitto.server.people.rule.MatchingPlan;
import remitto.server.people.rule.PeopleSettings;

/** Matching records: by hand, on the timetable, and with somebody's approval. */
@RestController
@RequestMapping("/api/people")
class PeopleRunController {
    private final PeopleRuns runs;
    private final PeopleSettings settings;
    private final MatchingPlan planning;
    private final Journal journal;

    PeopleRunController(PeopleRuns runs, PeopleSettings settings, MatchingPlan planning, Journal journal) {
        this.runs = runs;
        this.settings = settings;
        this.planning = planning;
        this.journal = journal;
    }

    /** The matching run that was started. */
    record PeopleRunStarted(long runId) {}

    /** When records are joined, and from what a run waits for an approver. */
    record ResolutionPlan(PeopleSettings.PeopleGuards guards, Schedule schedule) {}

    /**
     * The latest first.
     *
     * @param entityType people or companies
     */
    @GetMapping("/runs")
    List<PeopleRuns.PeopleRun> resolutions(@RequestParam(defaultValue = "PERSON") EntityType entityType) {
        return runs.all(entityType);
    }

    /**
     * Reads every record and joins those that changed; what people corrected holds.
     *
     * @param whole whether everything is judged again, which comes to the same and takes longer
     * @param estimate whether the weights are estimated again before
     * @param entityType people or companies
     */
    @PostMapping("/runs")
    PeopleRunStarted runResolution(
            @RequestParam(defaultValue = "PERSON") EntityType entityType,
            @RequestParam(defaultValue = "false") boolean whole,
            @RequestParam(defaultValue = "false") boolean estimate,
            Principal who) {
        long id = runs.start(new PeopleRuns.Request(entityType, whole, estimate, Optional.empty()), who.getName());
        note(who, estimate ? "estimated weights and ran matching" : "joined records", entityType);
        return new PeopleRunStarted(id);
    }

    /** Does what a stopped matching run would have done; for approvers who did not put the rules in service. */
    @PostMapping("/runs/{id}/approve")
    PeopleRunStarted approveResolution(@PathVariable long id, Principal who) {
        EntityType entityType = runs.get(id).entityType();
        long next = runs.approve(id, settings.parts(entityType), who.getName());
        note(who, "approved a matching run", entityType);
        return new PeopleRunStarted(next);
    }

    /** Discards a matching run that waits for approval. Nothing changes. */
    @PostMapping("/runs/{id}/discard")
    PeopleRuns.PeopleRun discardResolution(@PathVariable long id, Principal who) {
        runs.discard(id, who.getName());
        note(who, "discarded a matching run", runs.get(id).entityType());
        return runs.get(id);
    }

    /**
     * When matching runs by itself, and the limits above which it waits for approval.
     *
     * @param entityType people or companies
     */
    @GetMapping("/plan")
    ResolutionPlan resolutionPlan(@RequestParam(defaultValue = "PERSON") EntityType entityType) {
        PeopleSettings.Setting setting = settings.of(entityType);
        return new ResolutionPlan(setting.guards(), setting.schedule());
    }

    /**
     * Sets when matching runs and its limits. Loosening a limit takes an approver.
     *
     * @param entityType people or companies
     */
    @PutMapping("/plan")
    ResolutionPlan planResolution(
            @RequestParam(defaultValue = "PERSON") EntityType entityType,
            @RequestBody ResolutionPlan plan,
            Principal who) {
        planning.plan(entityType, plan.guards(), plan.schedule(), who.getName());
        return resolutionPlan(entityType);
    }

    private void note(Principal who, String what, EntityType entityType) {
        String name = entityType == EntityType.PERSON ? "People" : "Companies";
        journal.write(who.getName(), what, new Journal.Subject(name.toLowerCase(Locale.ROOT), 0, name), "");
    }
}

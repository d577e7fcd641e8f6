package remitto.server.audience;

import java.security.Principal;
import java.util.List;
import java.util.Optional;
import org.springframework.web.bind.annotation.DeleteMapping;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PathVariable;
import org.springframework.web.bind.annotation.PostMapping;
import org.springframework.web.bind.annotation.PutMapping;
import org.springframework.web.bind.annotation.RequestBody;
import org.springframework.web.bind.annotation.RequestMapping;
import org.springframework.web.bind.annotation.RequestParam;
import org.springframework.web.bind.annotation.RestController;
import remitto.core.audience.AudienceSpec;
import remitto.core.timetable.Schedule;
import remitto.server.journal.Journal;
import remitto.server.platform.Problem;
import remitto.server.platform.VersionNote;
import remitto.server.platform.VersionRequest;

/** Audiences: what they say, who is in them, and how that changed. */
@RestController
@RequestMapping("/api/audiences")
class AudienceController {
    private static final int COUNTS = 60;
    private static final int PAGE = 100;

    private final Audiences audiences;
    private final AudienceKeeping keeping;
    private final Memberships memberships;
    private final AudienceRoutes routes;
    private final AudienceSending sending;
    private final AudienceRefresh refresh;
    private final Journal journal;

    AudienceController(
            Audiences audiences,
            AudienceKeeping keeping,
            Memberships memberships,
            AudienceRoutes routes,
            AudienceSending sending,
            AudienceRefresh refresh,
            Journal journal) {
        this.audiences = audiences;
        this.keeping = keeping;
        this.memberships = memberships;
        this.routes = routes;
        this.sending = sending;
        this.refresh = refresh;
        this.journal = journal;
    }

    /** An audience in the list of all. */
    record AudienceRow(Audiences.Audience audience, Optional<Memberships.MemberCount> latest) {}

    /** All audiences, and when they are refreshed. */
    record AudienceList(List<AudienceRow> audiences, AudienceRefresh.RefreshState refresh) {}

    /**
     * An audience with its latest definition, its counts and its versions.
     *
     * @param counts the latest first
     */
    record AudienceView(
            Audiences.Audience audience,
            List<VersionNote> versions,
            List<Memberships.MemberCount> counts,
            List<AudienceRoutes.AudienceRoute> routes) {}

    /** How many people each two audiences share. */
    record OverlapMatrix(List<AudienceRow> audiences, List<Memberships.Overlap> overlaps) {}

    /** When audiences are refreshed by themselves. */
    record ScheduleRequest(Schedule schedule) {}

    /**
     * Whether routes count an audience again before they prepare a manifest.
     *
     * @param on whether routes count the audience before they prepare a manifest
     */
    record CountFirstRequest(boolean on) {}

    /** All audiences with their latest counts. */
    @GetMapping
    AudienceList audiences() {
        return new AudienceList(rows(), refresh.state());
    }

    private List<AudienceRow> rows() {
        return audiences.all().stream()
                .map(one -> new AudienceRow(one, memberships.latest(one.id())))
                .toList();
    }

    /** An audience with its version in service and its latest one. */
    @GetMapping("/{id}")
    AudienceView audience(@PathVariable long id) {
        return new AudienceView(
                audiences.get(id), audiences.versions(id), memberships.counts(id, COUNTS), routes.of(id));
    }

    /** A version of an audience. */
    @GetMapping("/{id}/versions/{number}")
    AudienceSpec audienceVersion(@PathVariable long id, @PathVariable int number) {
        return audiences.version(id, number);
    }

    /** Creates an audience with a first version, which is not in service. */
    @PostMapping
    AudienceView addAudience(@RequestBody Audiences.AudienceDraft draft, Principal who) {
        return audience(keeping.add(draft, who.getName()));
    }

    /** Saves a version of an audience. 409 when somebody saved another since the one it is based on. */
    @PostMapping("/{id}/versions")
    AudienceView saveAudience(@PathVariable long id, @RequestBody Audiences.AudienceDraft draft, Principal who) {
        keeping.save(id, draft, who.getName());
        return audience(id);
    }

    /** Puts a version in service and counts it; what routes send follows at their next departure. */
    @PostMapping("/{id}/in-service")
    AudienceView putAudienceInService(@PathVariable long id, @RequestBody VersionRequest wanted, Principal who) {
        keeping.putInService(id, wanted.version(), who.getName());
        memberships.count(audiences.get(id), who.getName());
        return audience(id);
    }

    /** Removes an audience that nothing builds on, with all that was counted of it. */
    @DeleteMapping("/{id}")
    AudienceList removeAudience(@PathVariable long id, Principal who) {
        keeping.remove(id, who.getName());
        return audiences();
    }

    /** Counts the version in service again in the background. Sends nothing. */
    @PostMapping("/{id}/counts")
    AudienceView countAudience(@PathVariable long id, Principal who) {
        memberships.count(audiences.get(id), who.getName());
        return audience(id);
    }

    /** Sets whether routes count this audience again before they prepare a manifest. */
    @PutMapping("/{id}/count-first")
    AudienceView countFirst(@PathVariable long id, @RequestBody CountFirstRequest request, Principal who) {
        keeping.countFirst(id, request.on(), who.getName());
        return audience(id);
    }

    /** What a definition would change of who is in the audience now. */
    @PostMapping("/{id}/effect")
    Memberships.MemberEffect audienceEffect(@PathVariable long id, @RequestBody AudienceSpec spec) {
        return memberships.effect(audiences.get(id), spec);
    }

    /**
     * A page of the members of an audience by its latest count.
     *
     * @param after the id of the last person of the page before; 0 for the first page
     */
    @GetMapping("/{id}/members")
    List<Memberships.MemberRow> audienceMembers(@PathVariable long id, @RequestParam(defaultValue = "0") long after) {
        audiences.get(id);
        return memberships.members(id, after, PAGE);
    }

    /** How many people any two audiences share. */
    @GetMapping("/overlap")
    OverlapMatrix audienceOverlap() {
        return new OverlapMatrix(rows(), memberships.overlaps());
    }

    /** The audiences that a person is or was a member of. */
    @GetMapping("/of-person/{personId}")
    List<Memberships.AudienceStay> audiencesOfPerson(@PathVariable long personId) {
        return memberships.ofPerson(personId);
    }

    /** The columns that can be sent of the people of the audience. Nothing is made. */
    @GetMapping("/{id}/columns")
    AudienceRoutes.AudienceColumns audienceColumns(@PathVariable long id) {
        return routes.columns(inService(id));
    }

    /** A dataset of the people of the audience, for a route to send; the same for every route. */
    @PostMapping("/{id}/dataset")
    AudienceRoutes.AudienceDataset audienceDataset(@PathVariable long id, Principal who) {
        return routes.dataset(inService(id), who.getName());
    }

    /**
     * The route and the dataset that were created for an audience.
     *
     * @param id of the route
     */
    record AudienceRouteLaid(long id) {}

    /** A route for the audience, with the chosen columns. It is a draft; nothing is sent by it. */
    @PostMapping("/{id}/routes")
    AudienceRouteLaid layAudienceRoute(
            @PathVariable long id, @RequestBody AudienceSending.AudienceSendRequest request, Principal who) {
        return new AudienceRouteLaid(sending.lay(inService(id), request, who.getName()));
    }

    private Audiences.Audience inService(long id) {
        Audiences.Audience audience = audiences.get(id);
        if (audience.liveVersion().isEmpty()) {
            throw Problem.conflict("Put a version of " + audience.name() + " in service first.");
        }
        return audience;
    }

    /** Reads events and computes measures and audiences, all in the background. */
    @PostMapping("/refreshes")
    AudienceRefresh.RefreshState refreshAudiences(Principal who) {
        refresh.start(who.getName());
        return refresh.state();
    }

    /** Sets when events are read, and measures and audiences computed, by themselves. */
    @PutMapping("/refreshes/schedule")
    AudienceRefresh.RefreshState scheduleRefreshes(@RequestBody ScheduleRequest request, Principal who) {
        journal.write(
                who.getName(),
                "changed when audiences are brought up to date",
                new Journal.Subject("audiences", 0, ""),
                "");
        return refresh.schedule(request.schedule());
    }
}

package remitto.server.rehearsal;

import java.security.Principal;
import java.util.List;
import java.util.Set;
import java.util.stream.Collectors;
import org.springframework.web.bind.annotation.PathVariable;
import org.springframework.web.bind.annotation.PostMapping;
import org.springframework.web.bind.annotation.RequestBody;
import org.springframework.web.bind.annotation.RequestMapping;
import org.springframework.web.bind.annotation.RestController;
import remitto.connect.profile.Profile;
import remitto.connect.profile.ProfileReader;
import remitto.core.shaper.CrosswalkTable;
import remitto.server.dataset.DatasetDefinition;
import remitto.server.destination.Destinations;
import remitto.server.journal.Journal;
import remitto.server.platform.Problem;
import remitto.server.route.CrosswalkRoutes;
import remitto.server.source.OwnSql;

/**
 * What unsaved datasets, crosswalks and profiles would do to the routes that use them. Sends nothing and writes nothing down but what
 * came of it, which whoever asked fetches from {@code /api/what-if/{id}}.
 */
@RestController
@RequestMapping("/api")
class ChangeRehearsalController {
    private final ChangeRehearsals rehearsals;
    private final CrosswalkRoutes crosswalkRoutes;
    private final Destinations destinations;
    private final ProfileReader reader;
    private final WhatIfJobs jobs;
    private final OwnSql ownSql;

    ChangeRehearsalController(
            ChangeRehearsals rehearsals,
            CrosswalkRoutes crosswalkRoutes,
            Destinations destinations,
            ProfileReader reader,
            WhatIfJobs jobs,
            OwnSql ownSql) {
        this.jobs = jobs;
        this.ownSql = ownSql;
        this.rehearsals = rehearsals;
        this.destinations = destinations;
        this.reader = reader;
        this.crosswalkRoutes = crosswalkRoutes;
    }

    /** The text of a profile that was not saved. */
    record UnsavedText(String text) {}

    /** Entries of a crosswalk that were not saved. */
    record UnsavedEntries(List<CrosswalkTable.Pair> entries) {
        UnsavedEntries {
            entries = List.copyOf(entries);
        }
    }

    /** The routes in service that read the dataset, each judged with it as it is in service and as it would be. */
    @PostMapping("/datasets/{id}/what-if")
    WhatIfJobs.WhatIfJob whatIfDataset(@PathVariable long id, @RequestBody DatasetDefinition unsaved, Principal who) {
        ownSql.run(unsaved.query().text(), new Journal.Subject("dataset", id, "what-if"));
        return jobs.begin(who, progress -> rehearsals.ofDataset(id, unsaved, progress));
    }

    /** The routes in service to destinations that are called by the profile; their objects are described by the text. */
    @PostMapping("/profiles/{profile}/what-if")
    WhatIfJobs.WhatIfJob whatIfProfile(@PathVariable String profile, @RequestBody UnsavedText unsaved, Principal who) {
        try {
            Set<Long> touched = destinations.all().stream()
                    .filter(one -> one.profile().equals(profile))
                    .map(Destinations.DestinationView::id)
                    .collect(Collectors.toSet());
            Profile changed = reader.read(unsaved.text());
            return jobs.begin(who, progress -> rehearsals.ofProfile(changed, touched, progress));
        } catch (ProfileReader.ProfileFault fault) {
            throw Problem.invalid("This is not a profile yet: " + fault.faults().get(0));
        }
    }

    /** The routes in service that take a value through the crosswalk. */
    @PostMapping("/crosswalks/{id}/what-if")
    WhatIfJobs.WhatIfJob whatIfCrosswalk(@PathVariable long id, @RequestBody UnsavedEntries unsaved, Principal who) {
        try {
            CrosswalkTable changed = CrosswalkTable.of(id, "", 0, unsaved.entries());
            return jobs.begin(who, progress -> rehearsals.ofCrosswalk(changed, crosswalkRoutes.of(id), progress));
        } catch (IllegalArgumentException e) {
            throw Problem.invalid("The word " + e.getMessage() + "; every value can be mapped only once.");
        }
    }
}

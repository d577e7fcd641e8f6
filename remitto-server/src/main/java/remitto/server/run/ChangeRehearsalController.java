package remitto.server.run;

import java.util.List;
import java.util.Set;
import java.util.stream.Collectors;
import org.springframework.web.bind.annotation.PathVariable;
import org.springframework.web.bind.annotation.PostMapping;
import org.springframework.web.bind.annotation.RequestBody;
import org.springframework.web.bind.annotation.RequestMapping;
import org.springframework.web.bind.annotation.RestController;
import remitto.connect.profile.ProfileReader;
import remitto.core.shaper.CrosswalkTable;
import remitto.server.dataset.DatasetDefinition;
import remitto.server.destination.Destinations;
import remitto.server.platform.Problem;
import remitto.server.route.CrosswalkRoutes;

/** What unsaved datasets, crosswalks and profiles would do to the routes that use them. Sends nothing and writes nothing down. */
@RestController
@RequestMapping("/api")
class ChangeRehearsalController {
    private final ChangeRehearsals rehearsals;
    private final CrosswalkRoutes crosswalkRoutes;
    private final Destinations destinations;
    private final ProfileReader reader;

    ChangeRehearsalController(
            ChangeRehearsals rehearsals,
            CrosswalkRoutes crosswalkRoutes,
            Destinations destinations,
            ProfileReader reader) {
        this.rehearsals = rehearsals;
        this.destinations = destinations;
        this.reader = reader;
        this.crosswalkRoutes = crosswalkRoutes;
    }

    record UnsavedText(String text) {}

    record UnsavedEntries(List<CrosswalkTable.Pair> entries) {
        UnsavedEntries {
            entries = List.copyOf(entries);
        }
    }

    /** The routes in service that read the dataset, each judged with it as it is in service and as it would be. */
    @PostMapping("/datasets/{id}/what-if")
    List<ChangeRehearsals.RouteEffect> whatIfDataset(@PathVariable long id, @RequestBody DatasetDefinition unsaved) {
        return rehearsals.ofDataset(id, unsaved);
    }

    /** The routes in service to destinations that are called by the profile; their objects are described by the text. */
    @PostMapping("/profiles/{profile}/what-if")
    List<ChangeRehearsals.RouteEffect> whatIfProfile(@PathVariable String profile, @RequestBody UnsavedText unsaved) {
        try {
            Set<Long> touched = destinations.all().stream()
                    .filter(one -> one.profile().equals(profile))
                    .map(Destinations.DestinationView::id)
                    .collect(Collectors.toSet());
            return rehearsals.ofProfile(reader.read(unsaved.text()), touched);
        } catch (ProfileReader.ProfileFault fault) {
            throw Problem.invalid("This is not a profile yet: " + fault.faults().get(0));
        }
    }

    /** The routes in service that take a value through the crosswalk. */
    @PostMapping("/crosswalks/{id}/what-if")
    List<ChangeRehearsals.RouteEffect> whatIfCrosswalk(@PathVariable long id, @RequestBody UnsavedEntries unsaved) {
        try {
            return rehearsals.ofCrosswalk(CrosswalkTable.of(id, "", 0, unsaved.entries()), crosswalkRoutes.of(id));
        } catch (IllegalArgumentException e) {
            throw Problem.invalid("The word " + e.getMessage() + "; every word needs one meaning.");
        }
    }
}

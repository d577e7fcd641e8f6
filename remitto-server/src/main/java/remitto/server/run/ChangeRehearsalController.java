package remitto.server.run;

import java.util.List;
import org.springframework.web.bind.annotation.PathVariable;
import org.springframework.web.bind.annotation.PostMapping;
import org.springframework.web.bind.annotation.RequestBody;
import org.springframework.web.bind.annotation.RequestMapping;
import org.springframework.web.bind.annotation.RestController;
import remitto.core.shaper.CrosswalkTable;
import remitto.server.dataset.DatasetDefinition;
import remitto.server.platform.Problem;
import remitto.server.route.CrosswalkRoutes;

/** What unsaved datasets and crosswalks would do to the routes that use them. Sends nothing and writes nothing down. */
@RestController
@RequestMapping("/api")
class ChangeRehearsalController {
    private final ChangeRehearsals rehearsals;
    private final CrosswalkRoutes crosswalkRoutes;

    ChangeRehearsalController(ChangeRehearsals rehearsals, CrosswalkRoutes crosswalkRoutes) {
        this.rehearsals = rehearsals;
        this.crosswalkRoutes = crosswalkRoutes;
    }

    record UnsavedEntries(List<CrosswalkTable.Pair> entries) {}

    /** The routes in service that read the dataset, each judged with it as it is in service and as it would be. */
    @PostMapping("/datasets/{id}/what-if")
    List<ChangeRehearsals.RouteEffect> whatIfDataset(@PathVariable long id, @RequestBody DatasetDefinition unsaved) {
        return rehearsals.ofDataset(id, unsaved);
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

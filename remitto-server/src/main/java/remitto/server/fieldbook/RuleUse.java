package remitto.server.fieldbook;

import java.util.ArrayList;
import java.util.List;
import java.util.function.Predicate;
import org.springframework.stereotype.Component;
import remitto.core.fieldrule.FieldRule;
import remitto.core.fieldrule.Receives;
import remitto.core.shaper.Crosswalked;
import remitto.server.route.Routes;

/** Which rules use something that several routes may share. */
@Component
class RuleUse {
    private final Routes routes;

    RuleUse(Routes routes) {
        this.routes = routes;
    }

    /**
     * What uses a definition.
     *
     * @param column whose words are taken through; blank when they come from no column
     */
    record UsedBy(long routeId, String route, String field, long datasetId, String column) {}

    /** Rules, in the latest version of their routes, that take a value through a crosswalk. */
    List<UsedBy> ofCrosswalk(long crosswalk) {
        return of(rule -> rule.shapers().stream()
                .anyMatch(shaper -> shaper instanceof Crosswalked walk && walk.crosswalk() == crosswalk));
    }

    private List<UsedBy> of(Predicate<FieldRule> wanted) {
        List<UsedBy> found = new ArrayList<>();
        for (Routes.Route route : routes.all()) {
            route.spec().rules().stream().filter(wanted).forEach(rule -> found.add(use(route, rule)));
        }
        return found;
    }

    /** The words that go through the table are those of the column that is received, wherever it is found. */
    private static UsedBy use(Routes.Route route, FieldRule rule) {
        long dataset = route.datasetId();
        String column = "";
        if (rule.receives() instanceof Receives.FromColumn from) {
            column = from.column();
        } else if (rule.receives() instanceof Receives.FromDataset looked) {
            dataset = looked.where().last();
            column = looked.where().given().get(0);
        }
        return new UsedBy(route.id(), route.name(), rule.field(), dataset, column);
    }
}

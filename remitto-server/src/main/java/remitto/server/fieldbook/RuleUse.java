package remitto.server.fieldbook;

import java.util.ArrayList;
import java.util.List;
import java.util.function.Predicate;
import org.springframework.stereotype.Component;
import remitto.core.fieldrule.FieldRule;
import remitto.core.shaper.Crosswalked;
import remitto.server.route.Routes;

/** Which rules use something that several routes may share. */
@Component
class RuleUse {
    private final Routes routes;

    RuleUse(Routes routes) {
        this.routes = routes;
    }

    /** @param column that the rule reads; blank when it reads none */
    record UsedBy(long routeId, String route, String field, long datasetId, String column) {}

    /** Rules, in the latest version of their routes, that take a value through a crosswalk. */
    List<UsedBy> ofCrosswalk(long crosswalk) {
        return of(rule -> rule.shapers().stream()
                .anyMatch(shaper -> shaper instanceof Crosswalked walk && walk.crosswalk() == crosswalk));
    }

    private List<UsedBy> of(Predicate<FieldRule> wanted) {
        List<UsedBy> found = new ArrayList<>();
        for (Routes.Route route : routes.all()) {
            route.spec().rules().stream()
                    .filter(wanted)
                    .forEach(rule -> found.add(new UsedBy(
                            route.id(),
                            route.name(),
                            rule.field(),
                            route.datasetId(),
                            rule.receives().readColumn().orElse(""))));
        }
        return found;
    }
}

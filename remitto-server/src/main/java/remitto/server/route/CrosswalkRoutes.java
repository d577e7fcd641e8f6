package remitto.server.route;

import java.util.List;
import org.springframework.stereotype.Component;
import remitto.core.route.RouteSpec;
import remitto.core.shaper.Crosswalked;

/** Which routes take a value through a crosswalk. */
@Component
public class CrosswalkRoutes {
    private final Routes routes;

    CrosswalkRoutes(Routes routes) {
        this.routes = routes;
    }

    /** Ids of the routes whose rules in service name it. */
    public List<Long> of(long crosswalkId) {
        return routes.all().stream()
                .filter(route ->
                        route.liveSpec().filter(spec -> uses(spec, crosswalkId)).isPresent())
                .map(Routes.Route::id)
                .toList();
    }

    private static boolean uses(RouteSpec spec, long crosswalkId) {
        return spec.rules().stream()
                .flatMap(rule -> rule.shapers().stream())
                .anyMatch(shaper -> shaper instanceof Crosswalked walk && walk.crosswalk() == crosswalkId);
    }
}

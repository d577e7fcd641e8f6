package remitto.server.route;

import java.util.List;
import remitto.core.route.RouteFault;

/** Looks for what a route may do that its author would not want, and that blocks nothing. */
public interface RouteAdvice {
    /** @param routeId 0 for one that was never saved */
    List<RouteFault> about(long routeId, RouteBinder.RouteEnds ends);
}

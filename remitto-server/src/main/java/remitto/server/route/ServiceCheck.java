package remitto.server.route;

import java.util.List;
import remitto.server.platform.Problem;

/** What else has to hold before a version of a route goes into service. */
public interface ServiceCheck {
    /** What does not hold; nothing when all does. */
    List<Problem.Detail> against(long routeId, BoundRoute route);
}

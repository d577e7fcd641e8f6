package remitto.server.run;

import java.util.Collection;
import java.util.Map;
import remitto.server.route.BoundRoute;

/** How often people are written to. */
public interface MessageLimits {
    /** Why somebody is not written to now, by key of the route's rows; whoever may be is missing. */
    Map<String, String> quiet(BoundRoute route, Collection<String> keys);

    /** Messages went to those with these keys. Part of the caller's transaction. */
    void went(BoundRoute route, long runId, Collection<String> keys);
}

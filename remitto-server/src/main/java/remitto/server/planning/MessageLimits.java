package remitto.server.planning;

import java.util.Collection;
import java.util.List;
import java.util.Map;
import java.util.function.Supplier;
import remitto.server.route.BoundRoute;

/** How often people are written to. */
public interface MessageLimits {
    /** Why somebody is not written to now, by key of the route's rows; whoever may be is missing. */
    Map<String, String> overLimit(BoundRoute route, Collection<String> keys);

    /**
     * Sets messages down as sent before they are, so that no two routes together write to somebody more often than is said.
     * In a transaction of its own.
     *
     * @param keys asked for only if the route sends messages
     * @return why somebody is not written to, by key; nothing was set down for them
     */
    Map<String, String> reserve(BoundRoute route, long runId, Supplier<List<String>> keys);

    /** Messages that were set down did not go after all. Part of the caller's transaction. */
    void didNotGo(BoundRoute route, long runId, Collection<String> keys);
}

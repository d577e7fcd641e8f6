package remitto.server.token;

import java.util.List;

/**
 * What a token is narrowed to: these routes, and these destinations with every route to them. Narrowed to nothing, it may be used
 * for everything that its scopes allow.
 */
public record Narrowing(List<Long> routeIds, List<Long> destinationIds) {
    static final Narrowing NONE = new Narrowing(List.of(), List.of());

    public Narrowing {
        routeIds = List.copyOf(routeIds);
        destinationIds = List.copyOf(destinationIds);
    }

    boolean isNone() {
        return routeIds.isEmpty() && destinationIds.isEmpty();
    }

    boolean coversRoute(long route, long itsDestination) {
        return isNone() || routeIds.contains(route) || destinationIds.contains(itsDestination);
    }

    boolean coversDestination(long destination) {
        return isNone() || destinationIds.contains(destination);
    }
}

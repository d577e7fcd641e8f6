package remitto.server.planning;

import java.time.Instant;
import java.util.Map;
import remitto.core.dataset.Row;
import remitto.server.route.BoundRoute;

/** Addresses that nothing may be sent to, whatever a route says. */
public interface SuppressedAddresses {
    /** Finds rows that may hold such an address; quick, and never false for one that does. */
    @FunctionalInterface
    interface Sieve {
        Sieve NOTHING = (key, row) -> false;

        boolean catches(String key, Row row);
    }

    /**
     * Whether somebody may be forbidden by now who was not when a route's rows were read: something was added to the list, or
     * what is kept here of people's answers may be another.
     */
    boolean mayDiffer(BoundRoute route, Instant readAt);

    /** By the list as it is now. */
    Sieve sieve(BoundRoute route);

    /** Why rows are left out, by key; a row that holds no such address is missing. */
    Map<String, String> reasons(BoundRoute route, Map<String, Row> rows);
}

package remitto.server.run;

import org.jspecify.annotations.Nullable;
import remitto.core.dataset.Row;
import remitto.core.known.Fingerprint;
import remitto.core.route.References;
import remitto.server.route.BoundRoute;

/**
 * Fingerprints of all that the outcome for a row depends on: the cells a route uses, what it is pinned to, and the
 * ids of the records of other routes that it refers to. Not safe to share between threads.
 */
final class Inputs {
    private final BoundRoute route;
    private final ParentIds parents;
    private final int[] usedAt;
    private final boolean refers;
    private final Fingerprint fingerprint = new Fingerprint();

    Inputs(BoundRoute route, ParentIds parents) {
        this.route = route;
        this.parents = parents;
        this.usedAt = route.usedPositions();
        this.refers = route.route().refers();
    }

    /** Tells one id of a record referred to from another. */
    interface ParentIds {
        /** 0 while the record is not bound. */
        long of(References.Wanted wanted);
    }

    long of(@Nullable String[] cells) {
        return fingerprint.input(
                route.salt() ^ (refers ? parentsOf(Row.of(route.columns(), cells)) : 0), usedAt, cells);
    }

    private long parentsOf(Row row) {
        long all = 0;
        for (References.Wanted wanted : route.route().references(row)) {
            all = 31 * all + parents.of(wanted);
        }
        return all;
    }
}

package remitto.server.planning;

import org.jspecify.annotations.Nullable;
import remitto.core.dataset.Row;
import remitto.core.known.Fingerprint;
import remitto.core.route.LookUps;
import remitto.server.route.BoundRoute;

/**
 * Fingerprints of all that the outcome for a row depends on: the cells a route uses, what it is pinned to, and what its
 * rules find beyond the row. Not safe to share between threads.
 */
public final class Inputs {
    /** For routes whose rules look nothing up. */
    static final Beyond NOTHING_BEYOND = wanted -> 0;

    private final BoundRoute route;
    private final Beyond beyond;
    private final int[] usedAt;
    private final boolean looksUp;
    private final Fingerprint fingerprint = new Fingerprint();

    public Inputs(BoundRoute route, Beyond beyond) {
        this.route = route;
        this.beyond = beyond;
        this.usedAt = route.usedPositions();
        this.looksUp = route.route().looksUp();
    }

    /** Tells what is found from what was found before. */
    interface Beyond {
        /** 0 when nothing is found. */
        public long of(LookUps.Wanted wanted);
    }

    public long of(@Nullable String[] cells) {
        return fingerprint.input(route.salt() ^ (looksUp ? found(Row.of(route.columns(), cells)) : 0), usedAt, cells);
    }

    private long found(Row row) {
        long all = 0;
        for (LookUps.Wanted wanted : route.route().lookUps(row)) {
            all = 31 * all + beyond.of(wanted);
        }
        return all;
    }
}

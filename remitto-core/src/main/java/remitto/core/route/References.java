package remitto.core.route;

import java.util.Map;

/** Where records that rules refer to stand there, looked up for a chunk of rows at once. */
public interface References {

    /** A record of another route, by its key in that route's dataset. */
    record Wanted(long route, String key) {}

    /** What is known of a record referred to. */
    sealed interface Found {
        /** @param remoteId the destination's own id */
        record Bound(String remoteId) implements Found {}

        /** Not there yet, with the reason in words. */
        record Waits(String reason) implements Found {}
    }

    Found find(Wanted wanted);

    /** Knows of nothing. */
    References NONE = wanted -> new Found.Waits("Nothing was sent yet for " + wanted.key());

    static References of(Map<Wanted, Found> found) {
        return wanted -> found.getOrDefault(wanted, NONE.find(wanted));
    }
}

package remitto.server.stocktake;

import java.time.Instant;
import java.util.List;
import java.util.Optional;
import remitto.server.platform.ActorName;
import remitto.server.platform.Personal;

/**
 * A count of what a destination object really holds against what is believed.
 *
 * @param since only what changed in the destination since then was read; absent when everything was
 * @param baseId the stocktake that a reading of changes goes on from
 * @param changesCanFollow a further stocktake can read only what changes after this one
 * @param there records found there; of a reading of changes, those that changed
 * @param known records that routes keep there
 */
public record Stocktake(
        long id,
        long destinationId,
        String destination,
        String object,
        State state,
        @ActorName String startedBy,
        Instant startedAt,
        Optional<Instant> finishedAt,
        Optional<Instant> since,
        Optional<Long> baseId,
        boolean changesCanFollow,
        long there,
        long known,
        List<Group> groups,
        List<FillRate> fill,
        String message) {

    Stocktake followed(boolean canFollow) {
        return new Stocktake(
                id,
                destinationId,
                destination,
                object,
                state,
                startedBy,
                startedAt,
                finishedAt,
                since,
                baseId,
                canFollow,
                there,
                known,
                groups,
                fill,
                message);
    }

    /** How far it is. */
    public enum State {
        COUNTING,
        DONE,
        FAILED,
        INTERRUPTED
    }

    /**
     * A condition of records that match.
     *
     * @param open findings nobody decided about yet
     */
    public record Group(FindingKind kind, long found, long open) {}

    /**
     * How full a field is.
     *
     * @param before records that had a value at the stocktake before; absent at the first
     * @param thereBefore records found there then
     */
    public record FillRate(String field, long filled, Optional<Long> before, Optional<Long> thereBefore) {}

    /**
     * A difference that a stocktake found.
     *
     * @param known the value that was acknowledged
     * @param there the value found, both blank for whole records
     */
    public record Finding(
            int number,
            FindingKind kind,
            String remoteId,
            String field,
            @Personal String known,
            @Personal String there,
            String route,
            @Personal(Personal.Part.KEY) String key,
            @Personal String label,
            String settled) {}
}

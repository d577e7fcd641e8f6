package remitto.server.run;

import java.time.Instant;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import remitto.core.manifest.LineState;
import remitto.core.run.RunCounts;
import remitto.core.run.RunEnd;
import remitto.core.run.RunState;
import remitto.core.run.RunTrigger;
import remitto.core.run.Suspension;
import remitto.server.platform.ActorName;

/**
 * A run of a route: its manifest and what came of it.
 *
 * @param missingRows records known to the route that the dataset no longer holds; nothing happens to them here
 * @param suspension why it stopped with lines left; NONE when it did not
 * @param undoOf the run this one takes back
 * @param answeredAt when the last call was answered; what it brought is taken into the known state until it is finished
 * @param adopted records found there and bound by this run
 * @param outcomes lines by their state, once it is being sent
 * @param linesRemovedAt when its lines were removed, since they are kept no longer; what became of them stays in the outcomes
 * @param knownBefore records bound before the run
 * @param sentInPart it is over, and some of its records did not get there: held, refused, or with an outcome that nobody knows
 */
public record Run(
        long id,
        long routeId,
        String route,
        long destinationId,
        String destination,
        String object,
        RunTrigger trigger,
        RunState state,
        Suspension suspension,
        Optional<Long> undoOf,
        int routeVersion,
        int datasetVersion,
        int profileVersion,
        @ActorName String startedBy,
        Instant startedAt,
        Optional<Instant> preparedAt,
        @ActorName String approvedBy,
        Optional<Instant> sentAt,
        Optional<Instant> answeredAt,
        Optional<Instant> finishedAt,
        RunCounts counts,
        long knownBefore,
        long missingRows,
        long adopted,
        List<FieldCount> fieldCounts,
        Map<String, Long> outcomes,
        Optional<Instant> linesRemovedAt,
        String message,
        boolean sentInPart) {

    /** How many records of the manifest a field is written in, held in, and emptied in. */
    public record FieldCount(String field, long written, long held, long cleared) {}

    Run outcomes(Map<String, Long> counted) {
        return new Run(
                id,
                routeId,
                route,
                destinationId,
                destination,
                object,
                trigger,
                state,
                suspension,
                undoOf,
                routeVersion,
                datasetVersion,
                profileVersion,
                startedBy,
                startedAt,
                preparedAt,
                approvedBy,
                sentAt,
                answeredAt,
                finishedAt,
                counts,
                knownBefore,
                missingRows,
                adopted,
                fieldCounts,
                counted,
                linesRemovedAt,
                message,
                RunEnd.isInPart(
                        state,
                        counts,
                        counted.getOrDefault(LineState.REFUSED.name(), 0L)
                                + counted.getOrDefault(LineState.UNKNOWN.name(), 0L)));
    }
}

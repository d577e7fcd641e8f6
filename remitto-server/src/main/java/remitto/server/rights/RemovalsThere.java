package remitto.server.rights;

import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.TreeMap;
import java.util.stream.Collectors;
import org.springframework.stereotype.Component;
import remitto.connect.destination.Destination;
import remitto.connect.destination.Destination.CallOutcome;
import remitto.connect.destination.DestinationProblem;
import remitto.connect.destination.Writing;
import remitto.core.destination.ObjectDescription;
import remitto.core.value.Value;
import remitto.server.destination.Connections;
import remitto.server.platform.Problem;

/**
 * Removes the records of an erasure where they are. Removing what is gone already is harmless, so a call whose outcome nobody
 * knows is simply made again.
 */
@Component
class RemovalsThere {
    private final Erasures erasures;
    private final Connections connections;

    RemovalsThere(Erasures erasures, Connections connections) {
        this.erasures = erasures;
        this.connections = connections;
    }

    private record Place(long destinationId, String object) {}

    /** Tries each that is pending once. */
    void remove(long erasure) {
        Map<Place, List<Erasures.Removal>> groups = erasures.removals(erasure).stream()
                .filter(one -> one.state() == Erasures.RemovalState.PENDING)
                .collect(Collectors.groupingBy(one -> new Place(one.destinationId(), one.object())));
        Map<String, String> waits = new TreeMap<>();
        groups.forEach((place, removals) -> {
            try {
                at(place, erasure, removals);
            } catch (DestinationProblem | Problem e) {
                waits.put(removals.get(0).destination(), String.valueOf(e.getMessage()));
            }
        });
        erasures.waitsFor(
                erasure,
                waits.entrySet().stream()
                        .map(one -> "Waits for " + one.getKey() + ": " + one.getValue())
                        .collect(Collectors.joining(" ")));
        erasures.finish(erasure);
    }

    private void at(Place place, long erasure, List<Erasures.Removal> removals) {
        ObjectDescription object =
                connections.describe(place.destinationId(), place.object()).description();
        Optional<Writing> writing =
                connections.open(place.destinationId()).destination().writing();
        if (writing.isEmpty() || !object.abilities().removes()) {
            String why = writing.isEmpty()
                    ? "A delivered file cannot be removed by Remitto. Its receiver must delete the record."
                    : "This destination does not let " + object.title() + " be removed through its API.";
            removals.forEach(one -> erasures.settled(erasure, one.number(), Erasures.RemovalState.BY_HAND, why));
            return;
        }
        CallOutcome outcome = writing.get()
                .remove(new Destination.Batch(
                        object,
                        "",
                        removals.stream()
                                .map(one -> new Destination.Outgoing(one.remoteId(), Value.EMPTY, Map.of()))
                                .toList(),
                        "erasure-" + erasure + "-" + removals.get(0).number() + "-" + removals.size()));
        if (outcome instanceof CallOutcome.Answered answered) {
            for (int i = 0; i < removals.size(); i++) {
                settle(erasure, removals.get(i), answered.results().get(i));
            }
        } else if (outcome instanceof CallOutcome.Failed failed && !failed.retriable()) {
            removals.forEach(one -> erasures.settled(
                    erasure, one.number(), Erasures.RemovalState.BY_HAND, "Refused: " + failed.reason()));
        } else {
            throw Problem.conflict(words(outcome));
        }
    }

    private static String words(CallOutcome outcome) {
        if (outcome instanceof CallOutcome.Throttled) {
            return "it asks to wait.";
        }
        if (outcome instanceof CallOutcome.NotSent unsent) {
            return unsent.reason();
        }
        if (outcome instanceof CallOutcome.Unknown unknown) {
            return unknown.reason();
        }
        return outcome instanceof CallOutcome.Failed failed ? failed.reason() : "it did not answer.";
    }

    private void settle(long erasure, Erasures.Removal removal, Destination.RecordResult result) {
        if (result.accepted()) {
            erasures.settled(erasure, removal.number(), Erasures.RemovalState.REMOVED, "");
        } else if (result.movedOn()) {
            erasures.settled(
                    erasure, removal.number(), Erasures.RemovalState.NOT_THERE, "The record no longer existed.");
        } else {
            erasures.settled(erasure, removal.number(), Erasures.RemovalState.BY_HAND, "Refused: " + result.reason());
        }
    }
}

package remitto.core.run;

import java.util.List;
import java.util.Optional;
import remitto.core.approval.FourEyes;

/**
 * All that decides what may be done with a run now.
 *
 * @param suspension why it stopped with lines left
 * @param sent whether sending was ever begun
 * @param acknowledged lines that a destination took
 * @param linesKept whether its lines are still there
 * @param waiting another manifest of the route, or this one, that waits; absent when none does
 * @param parts what was changed since somebody approved a manifest of the route; counts only where a guard stopped this one
 */
public record RunSituation(
        RunState state,
        Suspension suspension,
        boolean sent,
        long acknowledged,
        boolean linesKept,
        Optional<Long> waiting,
        List<FourEyes.Part> parts) {
    public RunSituation {
        parts = List.copyOf(parts);
    }
}

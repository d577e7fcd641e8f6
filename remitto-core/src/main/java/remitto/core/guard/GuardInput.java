package remitto.core.guard;

import java.util.List;
import java.util.Map;
import java.util.Optional;
import remitto.core.run.RunCounts;

/**
 * What guards look at.
 *
 * @param knownBefore records of the route bound before the run
 * @param cleared per field, records in which a value is emptied
 * @param readBefore rows the last complete run read; absent on the first
 * @param schemaChanges what differs in the destination's description since the last run, in words
 * @param removedInWeek records removed by this route's runs of the last seven days, this one not counted
 * @param addedInWeek records added by them
 */
public record GuardInput(
        RunCounts counts,
        long knownBefore,
        Map<String, Long> cleared,
        Optional<Long> readBefore,
        List<String> schemaChanges,
        long removedInWeek,
        long addedInWeek) {
    public GuardInput {
        cleared = Map.copyOf(cleared);
        schemaChanges = List.copyOf(schemaChanges);
    }

    /** A run with nothing before it. */
    public static GuardInput of(RunCounts counts, long knownBefore) {
        return new GuardInput(counts, knownBefore, Map.of(), Optional.empty(), List.of(), 0, 0);
    }
}

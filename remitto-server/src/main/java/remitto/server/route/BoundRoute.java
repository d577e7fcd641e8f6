package remitto.server.route;

import java.time.Instant;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.stream.Collectors;
import remitto.core.dataset.ColumnRole;
import remitto.core.dataset.Columns;
import remitto.core.route.CompiledRoute;
import remitto.core.route.LookUps;
import remitto.core.route.RouteFault;
import remitto.server.dataset.DatasetDefinition;
import remitto.server.destination.Connections;
import remitto.server.destination.Destinations;

/**
 * A version of a route with all that it needs to judge and send records.
 *
 * @param setAside rules that cannot be used as the destination is now; the route runs without them
 * @param ruleHashes by field, what tells one version of a rule from another
 * @param before by field, the routes that come first in its order, with their names
 * @param otherRoutes every other route to the same object, with their names
 * @param salt what the outcome for a record depends on besides its columns: the versions that are pinned
 */
public record BoundRoute(
        long routeId,
        String name,
        CompiledRoute route,
        Columns columns,
        DatasetDefinition dataset,
        long sourceId,
        long destinationId,
        Connections.Connection connection,
        Destinations.Described described,
        List<RouteFault> setAside,
        Map<String, Long> ruleHashes,
        Map<String, Map<Long, String>> before,
        Map<Long, String> otherRoutes,
        long salt) {

    /** The version of a field's rule; 0 when it has none. */
    public long ruleHash(String field) {
        return ruleHashes.getOrDefault(field, 0L);
    }

    /** When a record judged now is judged again though nothing of its row changes; absent where nothing calls for that. */
    public Optional<Instant> lookedUpAgain(Instant now) {
        return route.looksThere() ? Optional.of(now.plus(LookUps.THERE_AGAIN_AFTER)) : Optional.empty();
    }

    /** True when single records can be looked up there. */
    public boolean reads() {
        return described.description().abilities().reads();
    }

    /** The columns whose cells may be kept to explain a value by: those the rules read, but for sensitive ones. */
    public List<String> inputColumns() {
        return route.columnsUsed().stream()
                .filter(name -> columns.find(name)
                        .filter(column -> column.role() != ColumnRole.SENSITIVE)
                        .isPresent())
                .toList();
    }

    /** Fields whose rules look beyond the row, but for those made of sensitive columns. */
    public Set<String> fieldsBeyond() {
        if (!route.looksUp()) {
            return Set.of();
        }
        return route.fieldsThatLookUp().stream()
                .filter(field -> route.columnsOf(field).stream().noneMatch(name -> columns.find(name)
                        .filter(column -> column.role() == ColumnRole.SENSITIVE)
                        .isPresent()))
                .collect(Collectors.toUnmodifiableSet());
    }

    /** Where the cells that can change the outcome stand in a row. */
    public int[] usedPositions() {
        return route.columnsUsed().stream()
                .mapToInt(name -> columns.position(name).orElseThrow())
                .toArray();
    }
}

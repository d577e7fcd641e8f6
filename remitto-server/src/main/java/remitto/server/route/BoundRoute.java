package remitto.server.route;

import remitto.core.dataset.Columns;
import remitto.core.route.CompiledRoute;
import remitto.server.dataset.DatasetDefinition;
import remitto.server.destination.Connections;
import remitto.server.destination.Destinations;

/**
 * A version of a route with all that it needs to judge and send records.
 *
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
        long salt) {}

package remitto.server.run;

import org.springframework.stereotype.Component;
import remitto.server.dataset.Datasets;
import remitto.server.destination.Connections;
import remitto.server.destination.LetInOrigins;
import remitto.server.platform.Problem;
import remitto.server.route.BoundRoute;
import remitto.server.route.RouteBinder;
import remitto.server.route.Routes;

/** Routes as they are in service, bound and ready to run. */
@Component
public class ServiceRoutes {
    private final LetInOrigins origins;
    private final Routes routes;
    private final RouteBinder binder;
    private final Datasets datasets;
    private final Connections connections;

    ServiceRoutes(LetInOrigins origins, Routes routes, RouteBinder binder, Datasets datasets, Connections connections) {
        this.origins = origins;
        this.routes = routes;
        this.binder = binder;
        this.datasets = datasets;
        this.connections = connections;
    }

    /**
     * The version in service, against the destination as it describes itself now. Rules the destination no longer
     * allows are set aside.
     *
     * @throws Problem if nothing is in service, or the route as a whole cannot run
     */
    public BoundRoute toRun(long routeId) {
        Routes.Route route = routes.get(routeId);
        int version = route.liveVersion()
                .orElseThrow(() ->
                        Problem.conflict("No version of this route is in service yet; put one in service first."));
        Datasets.Dataset dataset = datasets.get(route.datasetId());
        int datasetVersion = dataset.liveVersion()
                .orElseThrow(() -> Problem.conflict(
                        "No version of dataset " + dataset.name() + " is in service yet; put one in service first."));
        origins.require(route.destinationId());
        connections.refreshDescription(route.destinationId(), route.object());
        return binder.requireToRun(binder.bind(
                routeId,
                route.name(),
                new RouteBinder.RouteEnds(route.datasetId(), route.destinationId(), route.object()),
                datasetVersion,
                routes.version(routeId, version)));
    }

    /** What is known of a route that cannot be bound as things are. */
    public Runs.VersionSnapshot versionsUnbound(long routeId) {
        Routes.Route stored = routes.get(routeId);
        return new Runs.VersionSnapshot(
                stored.liveVersion().orElse(stored.latestVersion()),
                binder.usableDatasetVersion(stored.datasetId()),
                connections.open(stored.destinationId()).profileVersion(),
                0);
    }

    /** What a run of a route that was just bound is pinned to. */
    public Runs.VersionSnapshot versions(BoundRoute route) {
        Routes.Route stored = routes.get(route.routeId());
        return new Runs.VersionSnapshot(
                stored.liveVersion().orElse(stored.latestVersion()),
                binder.usableDatasetVersion(stored.datasetId()),
                route.connection().profileVersion(),
                route.described().fingerprint());
    }
}

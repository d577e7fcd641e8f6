package remitto.server.rehearsal;

import java.util.List;
import java.util.Optional;
import java.util.Set;
import java.util.function.Function;
import java.util.function.Predicate;
import java.util.stream.Stream;
import org.springframework.stereotype.Component;
import remitto.connect.destination.DestinationProblem;
import remitto.connect.profile.Profile;
import remitto.core.shaper.CrosswalkTable;
import remitto.server.dataset.DatasetDefinition;
import remitto.server.destination.Connections;
import remitto.server.job.JobProgress;
import remitto.server.platform.Problem;
import remitto.server.route.RouteBinder;
import remitto.server.route.Routes;

/** What a change of something that routes share would do to each of them, before it is saved. */
@Component
class ChangeRehearsals {
    private static final int MOST = 20_000;

    private final Routes routes;
    private final RouteBinder binder;
    private final Connections connections;
    private final WhatIf whatIf;

    ChangeRehearsals(Routes routes, RouteBinder binder, Connections connections, WhatIf whatIf) {
        this.routes = routes;
        this.binder = binder;
        this.connections = connections;
        this.whatIf = whatIf;
    }

    /**
     * What a change would do to a route.
     *
     * @param problem why a route could not be judged, in words; blank when it was
     */
    record RouteEffect(long routeId, String route, Optional<WhatIf.Effect> effect, String problem) {}

    List<RouteEffect> ofDataset(long datasetId, DatasetDefinition unsaved, JobProgress progress) {
        return inService(route -> route.datasetId() == datasetId)
                .map(route -> effect(
                        route,
                        progress,
                        ends -> binder.bindWith(
                                unsaved,
                                route.id(),
                                route.name(),
                                ends,
                                route.liveSpec().orElseThrow())))
                .toList();
    }

    /** @param routeIds of the routes that take a value through it */
    List<RouteEffect> ofCrosswalk(CrosswalkTable unsaved, List<Long> routeIds, JobProgress progress) {
        return inService(route -> routeIds.contains(route.id()))
                .map(route -> effect(
                        route,
                        progress,
                        ends -> binder.bindWith(
                                unsaved,
                                route.id(),
                                route.name(),
                                ends,
                                route.liveSpec().orElseThrow())))
                .toList();
    }

    /** @param destinationIds of the destinations that are called by it */
    List<RouteEffect> ofProfile(Profile unsaved, Set<Long> destinationIds, JobProgress progress) {
        return inService(route -> destinationIds.contains(route.destinationId()))
                .map(route -> effect(
                        route,
                        progress,
                        ends -> binder.bindWith(
                                connections.openWith(route.destinationId(), unsaved),
                                route.id(),
                                route.name(),
                                ends,
                                route.liveSpec().orElseThrow())))
                .toList();
    }

    private Stream<Routes.Route> inService(Predicate<Routes.Route> wanted) {
        return routes.all().stream()
                .filter(route -> route.liveSpec().isPresent())
                .filter(wanted);
    }

    private RouteEffect effect(
            Routes.Route route, JobProgress progress, Function<RouteBinder.RouteEnds, RouteBinder.Binding> changed) {
        progress.doing(route.name());
        RouteBinder.RouteEnds ends =
                new RouteBinder.RouteEnds(route.datasetId(), route.destinationId(), route.object());
        try {
            var before = binder.requireToRun(binder.bind(
                    route.id(),
                    route.name(),
                    ends,
                    binder.usableDatasetVersion(route.datasetId()),
                    route.liveSpec().orElseThrow()));
            var after = binder.requireToRun(changed.apply(ends));
            return new RouteEffect(
                    route.id(), route.name(), Optional.of(whatIf.compare(before, after, MOST, progress)), "");
        } catch (Problem | DestinationProblem e) {
            return new RouteEffect(route.id(), route.name(), Optional.empty(), String.valueOf(e.getMessage()));
        }
    }
}

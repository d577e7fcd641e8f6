package remitto.server.route;

import java.util.ArrayList;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.function.Predicate;
import org.springframework.http.HttpStatus;
import org.springframework.stereotype.Component;
import remitto.core.dataset.Columns;
import remitto.core.destination.ObjectDescription;
import remitto.core.fieldrule.FieldRule;
import remitto.core.known.Fingerprint;
import remitto.core.route.FirstRun;
import remitto.core.route.RouteCompiler;
import remitto.core.route.RouteFault;
import remitto.core.route.RouteSpec;
import remitto.core.route.Surroundings;
import remitto.core.shaper.CrosswalkTable;
import remitto.server.dataset.DatasetDefinition;
import remitto.server.dataset.Datasets;
import remitto.server.destination.Connections;
import remitto.server.destination.Destinations;
import remitto.server.platform.Json;
import remitto.server.platform.Problem;

/** Brings a route together with its dataset, its destination and that tool's description of the object. */
@Component
public class RouteBinder {
    private final Datasets datasets;
    private final Connections connections;
    private final ServiceSurroundings surroundings;
    private final FieldOwners owners;
    private final FieldOrders orders;
    private final Json json;

    RouteBinder(
            Datasets datasets,
            Connections connections,
            ServiceSurroundings surroundings,
            FieldOwners owners,
            FieldOrders orders,
            Json json) {
        this.datasets = datasets;
        this.connections = connections;
        this.surroundings = surroundings;
        this.owners = owners;
        this.orders = orders;
        this.json = json;
    }

    /** What a route joins. */
    public record RouteEnds(long datasetId, long destinationId, String object) {}

    /** A route bound as far as it can be, with everything that is wrong with it. */
    public record Binding(BoundRoute bound, List<RouteFault> faults) {}

    /** @param datasetVersion the pinned version */
    public Binding bind(long routeId, String name, RouteEnds ends, int datasetVersion, RouteSpec saved) {
        return bind(routeId, name, ends, datasets.version(ends.datasetId(), datasetVersion), saved, surroundings);
    }

    /** A route as it would be with a dataset that need not be saved. */
    public Binding bindWith(DatasetDefinition unsaved, long routeId, String name, RouteEnds ends, RouteSpec saved) {
        return bind(routeId, name, ends, unsaved, saved, surroundings);
    }

    /** A route as it would be with a crosswalk that need not be saved. */
    public Binding bindWith(CrosswalkTable unsaved, long routeId, String name, RouteEnds ends, RouteSpec saved) {
        DatasetDefinition definition = datasets.version(ends.datasetId(), usableDatasetVersion(ends.datasetId()));
        return bind(routeId, name, ends, definition, saved, surroundings.with(unsaved));
    }

    /** A route as it would be with a connection, and so a description, by a profile that need not be saved. */
    public Binding bindWith(
            Connections.Connection unsaved, long routeId, String name, RouteEnds ends, RouteSpec saved) {
        DatasetDefinition definition = datasets.version(ends.datasetId(), usableDatasetVersion(ends.datasetId()));
        ObjectDescription description = unsaved.destination().describe(ends.object());
        Destinations.Described known = connections.describe(ends.destinationId(), ends.object());
        There there = new There(unsaved, new Destinations.Described(description, known.fingerprint(), known.at()));
        return bind(routeId, name, ends, definition, saved, surroundings, there);
    }

    private record There(Connections.Connection connection, Destinations.Described described) {}

    private Binding bind(
            long routeId,
            String name,
            RouteEnds ends,
            DatasetDefinition definition,
            RouteSpec saved,
            Surroundings around) {
        There there = new There(
                connections.open(ends.destinationId()), connections.describe(ends.destinationId(), ends.object()));
        return bind(routeId, name, ends, definition, saved, around, there);
    }

    private Binding bind(
            long routeId,
            String name,
            RouteEnds ends,
            DatasetDefinition definition,
            RouteSpec saved,
            Surroundings around,
            There there) {
        List<RouteFault> owned = new ArrayList<>();
        RouteSpec spec = withoutOwned(routeId, ends, saved, owned);
        Columns columns = new Columns(definition.columns());
        Connections.Connection connection = there.connection();
        Destinations.Described described = there.described();
        RouteCompiler.Compilation compilation = RouteCompiler.compile(spec, columns, described.description(), around);
        Map<String, Map<Long, String>> before = orders.before(routeId, ends.destinationId(), ends.object());
        long salt = new Fingerprint()
                .of(List.of(
                        json.write(spec.rules()),
                        json.write(spec.match()),
                        json.write(spec.mode()),
                        json.write(surroundings.versions(spec)),
                        json.write(spec.basis()),
                        json.write(before),
                        json.write(spec.firstRun().map(FirstRun::alreadyThere)),
                        json.write(definition),
                        Integer.toString(connection.profileVersion()),
                        Long.toString(described.fingerprint())));
        Map<String, Long> ruleHashes = new HashMap<>();
        spec.rules().forEach(rule -> ruleHashes.put(rule.field(), ruleHash(rule)));
        BoundRoute bound = new BoundRoute(
                routeId,
                name,
                compilation.route(),
                columns,
                definition,
                datasets.get(ends.datasetId()).sourceId(),
                ends.destinationId(),
                connection,
                described,
                compilation.faults().stream()
                        .filter(fault -> fault.blocking() && fault.ruleOnly())
                        .toList(),
                ruleHashes,
                before,
                orders.otherRoutes(routeId, ends.destinationId(), ends.object()),
                salt);
        owned.addAll(compilation.faults());
        return new Binding(bound, owned);
    }

    /** Rules for fields that another route owns are set aside; a record is still found by its match fields. */
    private RouteSpec withoutOwned(long routeId, RouteEnds ends, RouteSpec spec, List<RouteFault> faults) {
        Map<String, FieldOwners.Owner> others = owners.of(ends.destinationId(), ends.object());
        others.values().removeIf(owner -> owner.routeId() == routeId);
        spec.match().forEach(others::remove);
        if (others.isEmpty()) {
            return spec;
        }
        List<FieldRule> kept = new ArrayList<>();
        for (FieldRule rule : spec.rules()) {
            FieldOwners.Owner owner = others.get(rule.field());
            if (owner == null) {
                kept.add(rule);
            } else {
                faults.add(RouteFault.advice(
                        rule.field(), "Route " + owner.route() + " owns this field; this rule writes nothing."));
            }
        }
        return spec.rules(kept);
    }

    /** What tells one version of a rule from another. */
    public long ruleHash(FieldRule rule) {
        return new Fingerprint().of(List.of(json.write(rule)));
    }

    /** The version in service when there is one, else the latest saved, for trying things out. */
    public int usableDatasetVersion(long datasetId) {
        Datasets.Dataset dataset = datasets.get(datasetId);
        return dataset.liveVersion().orElse(dataset.latestVersion());
    }

    /** @throws Problem naming every blocking fault, if there is any */
    public BoundRoute require(Binding binding) {
        return require(binding, RouteFault::blocking);
    }

    /**
     * What a route in service needs to run: a rule that the destination no longer allows is set aside.
     *
     * @throws Problem naming every fault that stops the whole route, if there is any
     */
    public BoundRoute requireToRun(Binding binding) {
        return require(binding, RouteFault::stopsRuns);
    }

    private static BoundRoute require(Binding binding, Predicate<RouteFault> stops) {
        List<Problem.Detail> faults = binding.faults().stream()
                .filter(stops)
                .map(fault -> new Problem.Detail(fault.field(), fault.message()))
                .toList();
        if (!faults.isEmpty()) {
            throw new Problem(
                    HttpStatus.UNPROCESSABLE_CONTENT,
                    "The route cannot be used: "
                            + (faults.get(0).where().isEmpty()
                                    ? ""
                                    : faults.get(0).where() + ": ")
                            + faults.get(0).message()
                            + (faults.size() > 1 ? " And " + (faults.size() - 1) + " more." : ""),
                    faults);
        }
        return binding.bound();
    }
}

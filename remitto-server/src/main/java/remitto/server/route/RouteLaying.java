package remitto.server.route;

import java.time.DateTimeException;
import java.time.ZoneId;
import java.util.HashMap;
import java.util.HashSet;
import java.util.List;
import java.util.Map;
import java.util.Set;
import java.util.function.Function;
import org.springframework.stereotype.Component;
import remitto.core.dataset.Columns;
import remitto.core.destination.ObjectDescription;
import remitto.core.route.Basis;
import remitto.core.route.FirstDraft;
import remitto.core.route.RouteSpec;
import remitto.core.route.RuleProposal;
import remitto.server.dataset.Datasets;
import remitto.server.destination.Connections;
import remitto.server.journal.Journal;
import remitto.server.platform.Problem;

/** Lays routes: a first draft that somebody goes through before it is put in service. */
@Component
public class RouteLaying {
    private final Routes routes;
    private final RouteBinder binder;
    private final Datasets datasets;
    private final Connections connections;
    private final Journal journal;

    RouteLaying(Routes routes, RouteBinder binder, Datasets datasets, Connections connections, Journal journal) {
        this.routes = routes;
        this.binder = binder;
        this.datasets = datasets;
        this.connections = connections;
        this.journal = journal;
    }

    /**
     * A route to be created with proposed rules.
     *
     * @param country ISO 3166 code for phone numbers spelled without one
     * @param zone IANA time zone of its days
     */
    public record NewRouteDefinition(
            String name, RouteBinder.RouteEnds ends, Basis basis, String country, String zone) {}

    /** @return the route */
    public long lay(NewRouteDefinition laying, Function<FirstDraft, RouteSpec> draft, String who) {
        String name = laying.name().strip();
        if (name.isEmpty()) {
            throw Problem.invalid("Give the route a name.");
        }
        checkZone(laying.zone());
        ObjectDescription object = connections
                .describe(laying.ends().destinationId(), laying.ends().object())
                .description();
        RouteSpec spec = draft.apply(new FirstDraft(
                object, columns(laying.ends().datasetId()), laying.basis(), laying.country(), laying.zone()));
        return save(name, laying.ends(), spec, who);
    }

    /** Rules by names that fit; what fits nothing is left out. */
    RuleProposal.Proposal propose(RouteBinder.RouteEnds ends, String country, String zone) {
        return propose(columns(ends.datasetId()), ends, country, zone);
    }

    /** The same for columns of a dataset that is not there yet. */
    RuleProposal.Proposal propose(Columns columns, RouteBinder.RouteEnds ends, String country, String zone) {
        return RuleProposal.propose(
                columns,
                connections.describe(ends.destinationId(), ends.object()).description(),
                country,
                zone);
    }

    long save(String name, RouteBinder.RouteEnds ends, RouteSpec spec, String who) {
        long id = routes.add(name, ends.datasetId(), ends.destinationId(), ends.object(), spec, who);
        journal.write(who, "saved route", new Journal.Subject("route", id, name), "version 1");
        return id;
    }

    private Columns columns(long dataset) {
        return new Columns(
                datasets.version(dataset, binder.usableDatasetVersion(dataset)).columns());
    }

    /**
     * What holds of every saved version, whatever it carries.
     *
     * @param id of the route; 0 for a new one
     * @throws Problem that says what is wrong
     */
    void check(long id, RouteSpec spec) {
        checkZone(spec.schedule().zone());
        List<String> faults = spec.guards().faults();
        if (!faults.isEmpty()) {
            throw Problem.invalid(String.join(" ", faults));
        }
        Map<Long, List<Long>> waits = new HashMap<>();
        routes.all().forEach(route -> waits.put(route.id(), route.spec().after()));
        for (long other : spec.after()) {
            if (other == id) {
                throw Problem.invalid("A route cannot wait for itself.");
            }
            if (!waits.containsKey(other)) {
                throw Problem.invalid("There is no route " + other + " to wait for.");
            }
            if (id != 0 && reaches(other, id, waits, new HashSet<>())) {
                throw Problem.invalid(
                        routes.get(other).name() + " waits for this route already, so both would wait for ever.");
            }
        }
    }

    private static boolean reaches(long from, long to, Map<Long, List<Long>> waits, Set<Long> seen) {
        return from == to
                || seen.add(from)
                        && waits.getOrDefault(from, List.of()).stream()
                                .anyMatch(next -> reaches(next, to, waits, seen));
    }

    static void checkZone(String zone) {
        try {
            ZoneId.of(zone);
        } catch (DateTimeException e) {
            throw Problem.invalid("There is no time zone called " + zone + ".");
        }
    }
}

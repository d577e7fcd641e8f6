package remitto.server.rehearsal;

import java.security.Principal;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.TreeSet;
import org.springframework.web.bind.annotation.DeleteMapping;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PathVariable;
import org.springframework.web.bind.annotation.PostMapping;
import org.springframework.web.bind.annotation.RequestBody;
import org.springframework.web.bind.annotation.RequestMapping;
import org.springframework.web.bind.annotation.RestController;
import remitto.core.route.RouteSpec;
import remitto.server.journal.Journal;
import remitto.server.platform.Problem;
import remitto.server.route.RouteBinder;
import remitto.server.route.Routes;

/** Trying unsaved rules on what is known to be right, and on the rows as they are. */
@RestController
@RequestMapping("/api/routes/{id}")
class RehearsalController {
    private static final int MOST = 20_000;

    private final Routes routes;
    private final RouteBinder binder;
    private final GoldenExamples examples;
    private final WhatIf whatIf;
    private final WhatIfJobs jobs;
    private final Journal journal;

    RehearsalController(
            Routes routes,
            RouteBinder binder,
            GoldenExamples examples,
            WhatIf whatIf,
            WhatIfJobs jobs,
            Journal journal) {
        this.jobs = jobs;
        this.routes = routes;
        this.binder = binder;
        this.examples = examples;
        this.whatIf = whatIf;
        this.journal = journal;
    }

    /**
     * A record with the values that the rules must give it.
     *
     * @param cells of the row, by column
     * @param expected values by field, as text
     */
    record NewGoldenExample(String name, Map<String, String> cells, Map<String, String> expected) {}

    /** A change that is to be compared on all rows. */
    record Rehearsal(RouteSpec spec) {}

    /** The golden examples of a route. */
    @GetMapping("/examples")
    List<GoldenExamples.GoldenExample> goldenExamples(@PathVariable long id) {
        return examples.of(id);
    }

    /** Adds a record with the values that the rules must give it. */
    @PostMapping("/examples")
    List<GoldenExamples.GoldenExample> addGoldenExample(
            @PathVariable long id, @RequestBody NewGoldenExample wanted, Principal who) {
        if (wanted.name().isBlank() || wanted.expected().isEmpty()) {
            throw Problem.invalid("Give the example a name and at least one value that is expected.");
        }
        thatAreThere(routes.get(id), wanted);
        examples.pin(id, wanted.name().strip(), wanted.cells(), wanted.expected(), who.getName());
        journal.write(who.getName(), "golden example", subject(id), wanted.name());
        return examples.of(id);
    }

    /** An example over fields or columns that are not there would hold every version out of service. */
    private void thatAreThere(Routes.Route route, NewGoldenExample wanted) {
        Set<String> fields = new TreeSet<>(wanted.expected().keySet());
        route.spec().rules().forEach(rule -> fields.remove(rule.field()));
        Set<String> columns = new TreeSet<>(wanted.cells().keySet());
        bind(route, route.spec()).bound().columns().list().forEach(column -> columns.remove(column.name()));
        if (!fields.isEmpty()) {
            throw Problem.invalid("No rule of this route gives " + String.join(", ", fields) + ".");
        }
        if (!columns.isEmpty()) {
            throw Problem.invalid("The dataset has no column " + String.join(", ", columns) + ".");
        }
    }

    /** Removes a golden example. */
    @DeleteMapping("/examples/{example}")
    List<GoldenExamples.GoldenExample> removeGoldenExample(
            @PathVariable long id, @PathVariable long example, Principal who) {
        examples.unpin(id, example);
        journal.write(who.getName(), "removed golden example", subject(id), "no. " + example);
        return examples.of(id);
    }

    /** What unsaved rules make of the pinned examples. */
    @PostMapping("/examples/check")
    List<GoldenExamples.ExampleResult> checkExamples(@PathVariable long id, @RequestBody Rehearsal wanted) {
        Routes.Route route = routes.get(id);
        return examples.check(id, bind(route, wanted.spec()).bound());
    }

    /** What unsaved rules would do to the rows as they are, beside what the version in service does. Sends nothing; what
     * came of it is fetched from {@code /api/what-if/{id}}. */
    @PostMapping("/what-if")
    WhatIfJobs.WhatIfJob whatIf(@PathVariable long id, @RequestBody Rehearsal wanted, Principal who) {
        Routes.Route route = routes.get(id);
        var before = binder.require(bind(route, route.liveSpec().orElse(route.spec())));
        var after = binder.require(bind(route, wanted.spec()));
        return jobs.begin(who, progress -> {
            progress.doing(route.name());
            return List.of(new ChangeRehearsals.RouteEffect(
                    id, route.name(), Optional.of(whatIf.compare(before, after, MOST, progress)), ""));
        });
    }

    private RouteBinder.Binding bind(Routes.Route route, RouteSpec spec) {
        return binder.bind(
                route.id(),
                route.name(),
                new RouteBinder.RouteEnds(route.datasetId(), route.destinationId(), route.object()),
                binder.usableDatasetVersion(route.datasetId()),
                spec);
    }

    private Journal.Subject subject(long id) {
        return new Journal.Subject("route", id, routes.get(id).name());
    }
}

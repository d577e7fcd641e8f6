package remitto.server.route;

import java.time.Clock;
import java.util.List;
import java.util.Optional;
import org.springframework.http.HttpStatus;
import org.springframework.stereotype.Component;
import remitto.core.route.RouteSpec;
import remitto.server.dataset.Datasets;
import remitto.server.journal.Journal;
import remitto.server.permission.SecondPerson;
import remitto.server.platform.Problem;

/** Saving routes and putting them in service: checked and written in the journal, by whatever way somebody asks for it. */
@Component
class RouteKeeping {
    private final SecondPerson secondPerson;
    private final Routes routes;
    private final RouteBinder binder;
    private final Datasets datasets;
    private final RouteLaying laying;
    private final List<ServiceCheck> checks;
    private final Journal journal;
    private final Clock clock;

    RouteKeeping(
            SecondPerson secondPerson,
            Routes routes,
            RouteBinder binder,
            Datasets datasets,
            RouteLaying laying,
            List<ServiceCheck> checks,
            Journal journal,
            Clock clock) {
        this.secondPerson = secondPerson;
        this.routes = routes;
        this.binder = binder;
        this.datasets = datasets;
        this.laying = laying;
        this.checks = checks;
        this.journal = journal;
        this.clock = clock;
    }

    long add(String name, RouteBinder.RouteEnds ends, RouteSpec spec, String who) {
        if (name.isBlank()) {
            throw Problem.invalid("Give the route a name.");
        }
        laying.check(0, spec);
        return laying.save(name.strip(), ends, spec, who);
    }

    /** @throws Problem if somebody saved another version since {@code basedOn} */
    void save(long id, int basedOn, String name, RouteSpec spec, String who, String note) {
        laying.check(id, spec);
        int version = routes.save(id, basedOn, name.strip(), spec, who, note);
        journal.write(who, "saved route", new Journal.Subject("route", id, name), "version " + version);
    }

    /** Refused while anything blocking is wrong with it, or while it takes a second person. */
    void putInService(long id, int version, String who) {
        Routes.Route route = routes.get(id);
        RouteSpec spec = routes.version(id, version);
        Datasets.Dataset dataset = datasets.get(route.datasetId());
        int datasetVersion = dataset.liveVersion()
                .orElseThrow(() -> Problem.conflict(
                        "No version of dataset " + dataset.name() + " is in service yet; put one in service first."));
        RouteBinder.RouteEnds ends =
                new RouteBinder.RouteEnds(route.datasetId(), route.destinationId(), route.object());
        BoundRoute bound = binder.require(binder.bind(id, route.name(), ends, datasetVersion, spec));
        List<Problem.Detail> against = checks.stream()
                .flatMap(check -> check.against(id, bound).stream())
                .toList();
        if (!against.isEmpty()) {
            throw new Problem(
                    HttpStatus.UNPROCESSABLE_CONTENT,
                    "This version does not go into service: " + against.get(0).message()
                            + (against.size() > 1 ? " And " + (against.size() - 1) + " more." : ""),
                    against);
        }
        List<String> looser = route.liveSpec()
                .map(live -> spec.guards().looserThan(live.guards()))
                .orElse(List.of());
        if (!looser.isEmpty()) {
            secondPerson.require(
                    "This version loosens the guards of " + String.join(", ", looser) + ".",
                    routes.author(id, version),
                    who);
        }
        routes.putInService(
                id, version, route.paused() ? Optional.empty() : spec.schedule().begins(clock.instant()));
        Journal.Subject subject = new Journal.Subject("route", id, route.name());
        journal.write(who, "put route in service", subject, "version " + version);
        if (!looser.isEmpty()) {
            journal.write(who, "loosened guards", subject, String.join(", ", looser));
        }
    }
}

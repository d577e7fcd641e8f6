package remitto.server.fieldbook;

import java.util.List;
import java.util.Optional;
import org.springframework.stereotype.Component;
import remitto.server.journal.Journal;
import remitto.server.platform.Problem;
import remitto.server.route.FieldOrders;
import remitto.server.route.FieldOwners;
import remitto.server.route.Routes;

/** Settling which of several routes writes a field: checked and written in the journal, by whatever way somebody asks for it. */
@Component
class FieldSettling {
    private final Routes routes;
    private final FieldOwners owners;
    private final FieldOrders orders;
    private final Journal journal;

    FieldSettling(Routes routes, FieldOwners owners, FieldOrders orders, Journal journal) {
        this.routes = routes;
        this.owners = owners;
        this.orders = orders;
        this.journal = journal;
    }

    /** A field of an object. */
    record Place(long destination, String object, String field) {}

    /** @param route that owns it; nobody when absent */
    void own(Place place, Optional<Long> route, String who) {
        if (route.isEmpty()) {
            owners.clear(place.destination(), place.object(), place.field());
        } else {
            writing(place, route.get());
            orders.set(place.destination(), place.object(), place.field(), List.of(), who);
            owners.set(place.destination(), place.object(), place.field(), route.get(), who);
        }
        note(place, who, route.map(id -> "owned by " + routes.get(id).name()).orElse("owned by nobody"));
    }

    /** @param wanted routes, the first to write first; none ends the order */
    void order(Place place, List<Long> wanted, String who) {
        List<Long> each = wanted.stream().distinct().toList();
        if (each.size() == 1) {
            throw Problem.invalid("An order needs at least two routes.");
        }
        List<String> names =
                each.stream().map(route -> writing(place, route).name()).toList();
        owners.clear(place.destination(), place.object(), place.field());
        orders.set(place.destination(), place.object(), place.field(), each, who);
        note(place, who, names.isEmpty() ? "no order" : "in the order " + String.join(", ", names));
    }

    private void note(Place place, String who, String what) {
        journal.write(
                who,
                "settled field",
                new Journal.Subject("destination", place.destination(), place.object() + "." + place.field()),
                what);
    }

    private Routes.Route writing(Place place, long routeId) {
        Routes.Route route = routes.get(routeId);
        if (route.destinationId() != place.destination()
                || !route.object().equals(place.object())
                || route.spec().rules().stream().noneMatch(rule -> rule.field().equals(place.field()))) {
            throw Problem.invalid("Route " + route.name() + " has no rule for " + place.field() + " of this object.");
        }
        return route;
    }
}

package remitto.server.fieldbook;

import java.security.Principal;
import java.util.List;
import java.util.Optional;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PathVariable;
import org.springframework.web.bind.annotation.PutMapping;
import org.springframework.web.bind.annotation.RequestBody;
import org.springframework.web.bind.annotation.RequestMapping;
import org.springframework.web.bind.annotation.RestController;
import remitto.server.journal.Journal;
import remitto.server.platform.Problem;
import remitto.server.route.FieldOrders;
import remitto.server.route.FieldOwners;
import remitto.server.route.Routes;

@RestController
@RequestMapping("/api/destinations/{id}/objects/{object}/book")
class FieldBookController {
    private final FieldBooks books;
    private final FieldOwners owners;
    private final FieldOrders orders;
    private final Routes routes;
    private final Journal journal;

    FieldBookController(FieldBooks books, FieldOwners owners, FieldOrders orders, Routes routes, Journal journal) {
        this.books = books;
        this.owners = owners;
        this.orders = orders;
        this.routes = routes;
        this.journal = journal;
    }

    /**
     * The routes that write a field, the one with the highest priority first.
     *
     * @param routeIds routes in their order; none ends the order
     */
    record OrderRequest(List<Long> routeIds) {}

    /**
     * The route that owns a field; absent for none.
     *
     * @param routeId the route that owns the field from now on; absent for none
     */
    record OwnerRequest(Optional<Long> routeId) {}

    /** Every field of an object: who writes it, by which rule, and how full it is. */
    @GetMapping
    FieldBook fieldBook(@PathVariable long id, @PathVariable String object) {
        return books.book(id, object);
    }

    /** Settles which of several routes writes a field; the rules of the others are set aside. */
    @PutMapping("/{field}/owner")
    FieldBook ownField(
            @PathVariable long id,
            @PathVariable String object,
            @PathVariable String field,
            @RequestBody OwnerRequest request,
            Principal who) {
        if (request.routeId().isEmpty()) {
            owners.clear(id, object, field);
        } else {
            Routes.Route route = writing(id, object, field, request.routeId().get());
            orders.set(id, object, field, List.of(), who.getName());
            owners.set(id, object, field, route.id(), who.getName());
        }
        journal.write(
                who.getName(),
                "settled field",
                new Journal.Subject("destination", id, object + "." + field),
                request.routeId()
                        .map(route -> "owned by " + routes.get(route).name())
                        .orElse("owned by nobody"));
        return books.book(id, object);
    }

    /** Settles in which order several routes write a field: each leaves alone what an earlier one wrote. */
    @PutMapping("/{field}/order")
    FieldBook orderField(
            @PathVariable long id,
            @PathVariable String object,
            @PathVariable String field,
            @RequestBody OrderRequest request,
            Principal who) {
        List<Long> wanted = request.routeIds().stream().distinct().toList();
        if (wanted.size() == 1) {
            throw Problem.invalid("An order needs at least two routes.");
        }
        List<String> names = wanted.stream()
                .map(route -> writing(id, object, field, route).name())
                .toList();
        owners.clear(id, object, field);
        orders.set(id, object, field, wanted, who.getName());
        journal.write(
                who.getName(),
                "settled field",
                new Journal.Subject("destination", id, object + "." + field),
                names.isEmpty() ? "no order" : "in the order " + String.join(", ", names));
        return books.book(id, object);
    }

    private Routes.Route writing(long destinationId, String object, String field, long routeId) {
        Routes.Route route = routes.get(routeId);
        if (route.destinationId() != destinationId
                || !route.object().equals(object)
                || route.spec().rules().stream().noneMatch(rule -> rule.field().equals(field))) {
            throw Problem.invalid("Route " + route.name() + " has no rule for " + field + " of this object.");
        }
        return route;
    }
}

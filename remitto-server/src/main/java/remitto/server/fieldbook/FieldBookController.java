package remitto.server.fieldbook;

import java.security.Principal;
import java.util.Optional;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PathVariable;
import org.springframework.web.bind.annotation.PutMapping;
import org.springframework.web.bind.annotation.RequestBody;
import org.springframework.web.bind.annotation.RequestMapping;
import org.springframework.web.bind.annotation.RestController;
import remitto.server.journal.Journal;
import remitto.server.platform.Problem;
import remitto.server.route.FieldOwners;
import remitto.server.route.Routes;

@RestController
@RequestMapping("/api/destinations/{id}/objects/{object}/book")
class FieldBookController {
    private final FieldBooks books;
    private final FieldOwners owners;
    private final Routes routes;
    private final Journal journal;

    FieldBookController(FieldBooks books, FieldOwners owners, Routes routes, Journal journal) {
        this.books = books;
        this.owners = owners;
        this.routes = routes;
        this.journal = journal;
    }

    /** @param routeId the route that owns the field from now on; absent for none */
    record OwnerWish(Optional<Long> routeId) {}

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
            @RequestBody OwnerWish wish,
            Principal who) {
        if (wish.routeId().isEmpty()) {
            owners.clear(id, object, field);
        } else {
            Routes.Route route = routes.get(wish.routeId().get());
            if (route.destinationId() != id
                    || !route.object().equals(object)
                    || route.spec().rules().stream()
                            .noneMatch(rule -> rule.field().equals(field))) {
                throw Problem.invalid("Route " + route.name() + " has no rule for " + field + " of this object.");
            }
            owners.set(id, object, field, route.id(), who.getName());
        }
        journal.write(
                who.getName(),
                "settled field",
                new Journal.Subject("destination", id, object + "." + field),
                wish.routeId()
                        .map(route -> "owned by " + routes.get(route).name())
                        .orElse("owned by nobody"));
        return books.book(id, object);
    }
}

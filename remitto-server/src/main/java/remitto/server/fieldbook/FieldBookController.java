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

@RestController
@RequestMapping("/api/destinations/{id}/objects/{object}/book")
class FieldBookController {
    private final FieldBooks books;
    private final FieldSettling settling;

    FieldBookController(FieldBooks books, FieldSettling settling) {
        this.books = books;
        this.settling = settling;
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
        settling.own(new FieldSettling.Place(id, object, field), request.routeId(), who.getName());
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
        settling.order(new FieldSettling.Place(id, object, field), request.routeIds(), who.getName());
        return books.book(id, object);
    }
}

package remitto.server.route;

import java.security.Principal;
import java.util.List;
import org.springframework.dao.DuplicateKeyException;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PathVariable;
import org.springframework.web.bind.annotation.PostMapping;
import org.springframework.web.bind.annotation.RequestBody;
import org.springframework.web.bind.annotation.RequestMapping;
import org.springframework.web.bind.annotation.RequestParam;
import org.springframework.web.bind.annotation.RestController;
import remitto.server.journal.Journal;
import remitto.server.platform.Problem;

@RestController
@RequestMapping("/api/routes/{id}")
class RouteCopyController {
    private final Routes routes;
    private final RouteCopies copies;
    private final Journal journal;

    RouteCopyController(Routes routes, RouteCopies copies, Journal journal) {
        this.routes = routes;
        this.copies = copies;
        this.journal = journal;
    }

    /** Where a copy of a route is to send. */
    record CopyRequest(String name, long destinationId, String object) {}

    /**
     * How the object of another destination differs in the fields that the route writes.
     *
     * @param destinationId of the other destination
     * @param object of the other destination
     */
    @GetMapping("/object-differences")
    List<RouteCopies.ObjectDifference> objectDifferences(
            @PathVariable long id, @RequestParam long destinationId, @RequestParam String object) {
        return copies.differences(routes.get(id), destinationId, object);
    }

    /** A copy, rules and versions along; nothing of it is in service. */
    @PostMapping("/copy")
    Routes.Route copyRoute(@PathVariable long id, @RequestBody CopyRequest request, Principal who) {
        if (request.name().isBlank()) {
            throw Problem.invalid("Give the copy a name.");
        }
        Routes.Route route = routes.get(id);
        try {
            long copy = copies.copy(
                    route, request.name().strip(), request.destinationId(), request.object(), who.getName());
            journal.write(
                    who.getName(),
                    "copied route",
                    new Journal.Subject("route", copy, request.name()),
                    "from " + route.name());
            return routes.get(copy);
        } catch (DuplicateKeyException e) {
            throw Problem.conflict(
                    "A route already has the name " + request.name().strip() + ".");
        }
    }
}

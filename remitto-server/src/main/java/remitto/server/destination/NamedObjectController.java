package remitto.server.destination;

import java.security.Principal;
import java.util.List;
import java.util.Optional;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PathVariable;
import org.springframework.web.bind.annotation.PostMapping;
import org.springframework.web.bind.annotation.RequestBody;
import org.springframework.web.bind.annotation.RequestMapping;
import org.springframework.web.bind.annotation.RequestParam;
import org.springframework.web.bind.annotation.RestController;
import remitto.connect.destination.Destination;
import remitto.core.destination.NamedObject;
import remitto.server.journal.Journal;
import remitto.server.platform.Problem;

/** Lists and other objects by the name that somebody knows them by, and lists that are made. */
@RestController
@RequestMapping("/api/destinations/{id}/named")
class NamedObjectController {
    private final Connections connections;
    private final Destinations destinations;
    private final Journal journal;

    NamedObjectController(Connections connections, Destinations destinations, Journal journal) {
        this.connections = connections;
        this.destinations = destinations;
        this.journal = journal;
    }

    /**
     * Whether a list of a name exists, and similar names.
     *
     * @param object that is called exactly so; absent where none is
     * @param near titles that differ in case or spacing only
     * @param canMake whether a list of this name can be made
     */
    record NameAnswer(Optional<String> object, List<String> near, boolean canMake) {}

    /** The name of a list to be created. */
    record ListRequest(String name) {}

    /**
     * Asks the tool for its objects now.
     *
     * @param name exact name of the list
     */
    @GetMapping
    NameAnswer namedObject(@PathVariable long id, @RequestParam String name) {
        Destination destination = connections.open(id).destination();
        List<Destination.ObjectSummary> objects = destination.objects();
        destinations.rememberObjects(id, objects);
        NamedObject found = NamedObject.find(
                objects.stream()
                        .map(one -> new NamedObject.Titled(one.name(), one.title()))
                        .toList(),
                name);
        boolean free = found.exact().isEmpty() && found.near().isEmpty() && !name.isBlank();
        return new NameAnswer(
                found.exact(), found.near(), free && destination.listMaking().isPresent());
    }

    /**
     * Makes an empty list at the tool.
     *
     * @throws Problem if one is called so or nearly so
     */
    @PostMapping
    NameAnswer makeList(@PathVariable long id, @RequestBody ListRequest request, Principal who) {
        NameAnswer now = namedObject(id, request.name());
        if (!now.canMake()) {
            throw Problem.conflict(
                    now.object().isPresent()
                            ? "A list with this name already exists."
                            : now.near().isEmpty()
                                    ? "Lists cannot be created in this destination through its API."
                                    : "There is " + String.join(" and ", now.near())
                                            + " already, which differs in case or spacing only.");
        }
        connections.open(id).destination().listMaking().orElseThrow().make(request.name());
        journal.write(
                who.getName(),
                "made a list",
                new Journal.Subject("destination", id, destinations.get(id).name()),
                request.name());
        return namedObject(id, request.name());
    }
}

package remitto.server.destination;

import java.security.Principal;
import java.time.Instant;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PathVariable;
import org.springframework.web.bind.annotation.PostMapping;
import org.springframework.web.bind.annotation.PutMapping;
import org.springframework.web.bind.annotation.RequestBody;
import org.springframework.web.bind.annotation.RequestMapping;
import org.springframework.web.bind.annotation.RestController;
import remitto.core.destination.ObjectDescription;

@RestController
@RequestMapping("/api")
class DestinationController {
    private final LetInOrigins origins;
    private final Destinations destinations;
    private final Connections connections;
    private final SecretAddresses addresses;
    private final DestinationTest test;
    private final SchemaChanges changes;
    private final Circuits circuits;
    private final DestinationKeeping keeping;

    DestinationController(
            LetInOrigins origins,
            Destinations destinations,
            Connections connections,
            SecretAddresses addresses,
            DestinationTest test,
            SchemaChanges changes,
            Circuits circuits,
            DestinationKeeping keeping) {
        this.origins = origins;
        this.changes = changes;
        this.circuits = circuits;
        this.keeping = keeping;
        this.destinations = destinations;
        this.connections = connections;
        this.addresses = addresses;
        this.test = test;
    }

    /**
     * A destination to be connected or changed.
     *
     * @param signIn name of the way to sign in, where the profile has several; absent for its first
     */
    record DestinationDraft(
            String name, String profile, Map<String, String> settings, Optional<String> signIn, boolean limitsOff) {
        Destinations.Wanted wanted() {
            return new Destinations.Wanted(name.strip(), settings, signIn.orElse(""), limitsOff);
        }
    }

    /** The fields of an object. */
    record ObjectFields(ObjectDescription object, Instant describedAt) {}

    /** All destinations, without secrets. */
    @GetMapping("/destinations")
    List<Destinations.DestinationView> destinations() {
        return destinations.all();
    }

    /** A destination, without its secrets. */
    @GetMapping("/destinations/{id}")
    Destinations.DestinationView destination(@PathVariable long id) {
        return destinations.get(id);
    }

    /** Connects a destination and describes its objects. */
    @PostMapping("/destinations")
    Destinations.DestinationView addDestination(@RequestBody DestinationDraft draft, Principal who) {
        long id = keeping.add(draft.wanted(), draft.profile(), who.getName());
        return testDestination(id);
    }

    /** Changes the name, settings, secrets or account of a destination. A secret that is left out stays as it is. */
    @PutMapping("/destinations/{id}")
    Destinations.DestinationView changeDestination(
            @PathVariable long id, @RequestBody DestinationDraft draft, Principal who) {
        keeping.change(id, draft.wanted(), who.getName());
        return testDestination(id);
    }

    /** Origins of a destination, and those of them that data does not go to before an administrator allows it. */
    record OriginState(Set<String> origins, List<String> waiting) {}

    /**
     * Addresses that data may be sent to.
     *
     * @param origins that the administrator has seen; refused if others came meanwhile
     */
    record LetInRequest(Set<String> origins) {}

    /** The addresses that data of this destination goes to, and whether an administrator allowed them. */
    @GetMapping("/destinations/{id}/origins")
    OriginState destinationOrigins(@PathVariable long id) {
        return new OriginState(addresses.now(id), origins.waiting(id));
    }

    /** Allows data to go to the origins of a destination. Administrators only. */
    @PostMapping("/destinations/{id}/let-in")
    OriginState letInOrigins(@PathVariable long id, @RequestBody LetInRequest wanted, Principal who) {
        keeping.letIn(id, wanted.origins(), who.getName());
        return destinationOrigins(id);
    }

    /** Calls the destination and reads its objects and fields again. */
    @PostMapping("/destinations/{id}/test")
    Destinations.DestinationView testDestination(@PathVariable long id) {
        test.run(id);
        return destinations.get(id);
    }

    /** The objects of a destination. */
    @GetMapping("/destinations/{id}/objects")
    List<Destinations.ObjectView> objects(@PathVariable long id) {
        return destinations.objects(id);
    }

    /** Fields of an object as they are known; the tool is asked when that is older than ten minutes. */
    @GetMapping("/destinations/{id}/objects/{object}")
    ObjectFields objectFields(@PathVariable long id, @PathVariable String object) {
        var described = connections.describe(id, object);
        return new ObjectFields(described.description(), described.at());
    }

    /** Asks the tool now for the fields of an object. */
    @PostMapping("/destinations/{id}/objects/{object}/refresh")
    ObjectFields refreshFields(@PathVariable long id, @PathVariable String object) {
        var described = connections.describeNow(id, object);
        return new ObjectFields(described.description(), described.at());
    }

    /** What the tool changed about its objects, newest first. */
    @GetMapping("/destinations/{id}/changes")
    List<SchemaChanges.NoticedChange> destinationChanges(@PathVariable long id) {
        return changes.of(id);
    }

    /** The known records a change concerns, as they are known now. */
    @GetMapping("/destination-changes/{id}/records")
    List<SchemaChanges.ConcernedRecord> concernedRecords(@PathVariable long id) {
        return changes.concerned(id, 200);
    }

    /** Dismisses a change of the destination's fields. */
    @PostMapping("/destination-changes/{id}/seen")
    void changeSeen(@PathVariable long id, Principal who) {
        changes.seen(id, who.getName());
    }

    /** Destinations that do not answer. */
    @GetMapping("/circuits")
    List<Circuits.OpenCircuit> openCircuits() {
        return circuits.open();
    }
}

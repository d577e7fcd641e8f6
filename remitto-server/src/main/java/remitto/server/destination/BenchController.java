package remitto.server.destination;

import java.security.Principal;
import java.time.Instant;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import org.springframework.web.bind.annotation.PathVariable;
import org.springframework.web.bind.annotation.PostMapping;
import org.springframework.web.bind.annotation.RequestBody;
import org.springframework.web.bind.annotation.RequestMapping;
import org.springframework.web.bind.annotation.RestController;
import remitto.connect.profile.Profile;
import remitto.connect.profile.ProfileBench;
import remitto.connect.profile.ProfileReader;
import remitto.server.journal.Journal;
import remitto.server.platform.Problem;

/** The test bench of a profile that is being written: single calls, made with a destination's connection. */
@RestController
@RequestMapping("/api/destinations/{id}/bench")
class BenchController {
    private final LetInOrigins origins;
    private final Destinations destinations;
    private final Connections connections;
    private final ProfileReader reader;
    private final Journal journal;

    BenchController(
            LetInOrigins origins,
            Destinations destinations,
            Connections connections,
            ProfileReader reader,
            Journal journal) {
        this.origins = origins;
        this.destinations = destinations;
        this.connections = connections;
        this.reader = reader;
        this.journal = journal;
    }

    /**
     * A test call by the text of a profile.
     *
     * @param text the profile as it stands in the editor
     * @param values looked up, or ids of records to change or remove
     * @param send make a writing call rather than show it
     */
    record BenchRequest(
            String text,
            ProfileBench.Call call,
            String object,
            String by,
            List<String> values,
            Optional<Instant> since,
            String cursor,
            Map<String, String> fields,
            boolean send) {}

    /**
     * Makes the call. Writing calls are made only where no route in service writes, since they would pass neither
     * rules, consent nor known state.
     */
    @PostMapping
    ProfileBench.Tried tryCall(@PathVariable long id, @RequestBody BenchRequest request, Principal who) {
        Profile profile = read(request.text(), destinations.get(id));
        if (request.send()) {
            origins.require(id);
        }
        if (request.call().writes() && request.send()) {
            destinations.routeInService(id).ifPresent(route -> {
                throw Problem.conflict(
                        "Route " + route + " is in service here, so nothing is written from the bench: it would"
                                + " pass neither its rules nor consent. Look at the call without making it, or try one record of"
                                + " the route.");
            });
            journal.write(
                    who.getName(),
                    "made a writing call from the bench",
                    new Journal.Subject("destination", id, destinations.get(id).name()),
                    request.call().name().toLowerCase(java.util.Locale.ROOT) + " " + request.object());
        }
        if (destinations.routeInService(id).isPresent()) {
            BenchLock.require(profile, connections.open(id).profile());
        }
        return connections
                .bench(id, profile)
                .run(new ProfileBench.Request(
                        request.call(),
                        request.object(),
                        request.by(),
                        request.values(),
                        request.since(),
                        request.cursor(),
                        request.fields(),
                        request.send()));
    }

    private Profile read(String text, Destinations.DestinationView destination) {
        try {
            Profile profile = reader.read(text);
            if (!profile.profile().equals(destination.profile())) {
                throw Problem.invalid("Destination " + destination.name() + " is connected by profile "
                        + destination.profile() + ", not " + profile.profile() + ".");
            }
            return profile;
        } catch (ProfileReader.ProfileFault fault) {
            throw Problem.invalid("This is not a profile yet: " + fault.faults().get(0));
        }
    }
}

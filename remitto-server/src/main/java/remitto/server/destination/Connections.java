package remitto.server.destination;

import java.net.http.HttpClient;
import java.time.Clock;
import java.time.Duration;
import java.util.HashMap;
import java.util.Map;
import java.util.Optional;
import java.util.concurrent.ConcurrentHashMap;
import org.springframework.jdbc.core.simple.JdbcClient;
import org.springframework.stereotype.Component;
import remitto.connect.destination.Destination;
import remitto.connect.destination.DestinationProblem;
import remitto.connect.destination.Pace;
import remitto.connect.outgoing.AddressGuard;
import remitto.connect.profile.Profile;
import remitto.connect.profile.ProfileDestination;
import remitto.core.delivery.Backoff;
import remitto.core.destination.ObjectDescription;
import remitto.server.platform.Json;

/** Open connections to destinations, kept while their settings stay the same so that tokens are reused. */
@Component
public class Connections {
    private static final Duration DESCRIBED_FOR = Duration.ofMinutes(10);

    private final Destinations destinations;
    private final Profiles profiles;
    private final HttpClient http;
    private final Json json;
    private final AddressGuard guard;
    private final JdbcClient jdbc;
    private final SchemaChanges changes;
    private final Circuits circuits;
    private final Clock clock;
    private final Map<Long, Connection> open = new ConcurrentHashMap<>();

    Connections(
            Destinations destinations,
            Profiles profiles,
            HttpClient http,
            Json json,
            AddressGuard guard,
            JdbcClient jdbc,
            SchemaChanges changes,
            Circuits circuits,
            Clock clock) {
        this.destinations = destinations;
        this.profiles = profiles;
        this.http = http;
        this.json = json;
        this.guard = guard;
        this.jdbc = jdbc;
        this.changes = changes;
        this.circuits = circuits;
        this.clock = clock;
    }

    /** A destination ready to be called, with the profile it is called by. */
    public record Connection(Destination destination, Profile profile, int profileVersion) {}

    public Connection open(long id) {
        return open.computeIfAbsent(id, this::connect);
    }

    void forget(long id) {
        open.remove(id);
    }

    private Connection connect(long id) {
        var view = destinations.get(id);
        Profile profile = profiles.version(view.profile(), view.profileVersion());
        Map<String, String> settings = new HashMap<>(view.settings());
        settings.putAll(destinations.secrets(id));
        Pace pace = view.limitsOff() ? Pace.NONE : new SharedPace(jdbc, clock, id, profile.limits());
        Destination destination =
                new ProfileDestination(profile, settings, http, json.mapper(), pace, guard, Backoff.defaults(), clock);
        return new Connection(destination, profile, view.profileVersion());
    }

    /** Asks the tool to describe an object now, and notes what is not as it was. */
    public Destinations.Described describeNow(long id, String object) {
        ObjectDescription now = open(id).destination().describe(object);
        destinations.description(id, object).ifPresent(before -> changes.compare(id, before.description(), now));
        return destinations.rememberDescription(id, now);
    }

    /** The description as it is known; asks the tool when that is more than ten minutes old and it answers. */
    public Destinations.Described describe(long id, String object) {
        return described(id, object, DESCRIBED_FOR);
    }

    /** Asks the tool again before a run, unless it was asked within the minute or does not answer. */
    public void refreshDescription(long id, String object) {
        described(id, object, Duration.ofMinutes(1));
    }

    private Destinations.Described described(long id, String object, Duration atMost) {
        Optional<Destinations.Described> known = destinations.description(id, object);
        boolean fresh = known.filter(one -> one.at().isAfter(clock.instant().minus(atMost)))
                .isPresent();
        if (known.isPresent() && (fresh || circuits.of(id).isOpen())) {
            return known.get();
        }
        try {
            return describeNow(id, object);
        } catch (DestinationProblem e) {
            if (known.isPresent() && circuits.broken(id, e)) {
                return known.get();
            }
            throw e;
        }
    }

    /**
     * Finds out whether a destination answers again.
     *
     * @return true when it does, and its circuit is closed
     */
    public boolean probe(long id) {
        try {
            open(id).destination().check();
            circuits.triedWell(id);
            return true;
        } catch (DestinationProblem e) {
            if (e.kind() != DestinationProblem.Kind.UNREACHABLE) {
                circuits.triedWell(id);
                return true;
            }
            circuits.triedInVain(id, String.valueOf(e.getMessage()));
            return false;
        }
    }
}

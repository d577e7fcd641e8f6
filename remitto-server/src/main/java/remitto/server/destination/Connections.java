package remitto.server.destination;

import java.net.http.HttpClient;
import java.time.Clock;
import java.time.Duration;
import java.util.HashMap;
import java.util.Map;
import java.util.concurrent.ConcurrentHashMap;
import org.springframework.jdbc.core.simple.JdbcClient;
import org.springframework.stereotype.Component;
import remitto.connect.destination.Destination;
import remitto.connect.destination.Pace;
import remitto.connect.outgoing.AddressGuard;
import remitto.connect.profile.Profile;
import remitto.connect.profile.ProfileDestination;
import remitto.core.delivery.Backoff;
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
    private final Clock clock;
    private final Map<Long, Connection> open = new ConcurrentHashMap<>();

    Connections(
            Destinations destinations,
            Profiles profiles,
            HttpClient http,
            Json json,
            AddressGuard guard,
            JdbcClient jdbc,
            Clock clock) {
        this.destinations = destinations;
        this.profiles = profiles;
        this.http = http;
        this.json = json;
        this.guard = guard;
        this.jdbc = jdbc;
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
                new ProfileDestination(profile, settings, http, json.mapper(), pace, guard, Backoff.defaults());
        return new Connection(destination, profile, view.profileVersion());
    }

    /** Asks the tool to describe an object now. */
    public Destinations.Described describeNow(long id, String object) {
        return destinations.rememberDescription(id, open(id).destination().describe(object));
    }

    /** The description as it is known; asks the tool when that is more than ten minutes old. */
    public Destinations.Described describe(long id, String object) {
        return destinations
                .description(id, object)
                .filter(known -> known.at().isAfter(clock.instant().minus(DESCRIBED_FOR)))
                .orElseGet(() -> describeNow(id, object));
    }
}

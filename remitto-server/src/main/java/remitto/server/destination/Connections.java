package remitto.server.destination;

import java.nio.file.Path;
import java.time.Clock;
import java.time.Duration;
import java.util.HashMap;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.concurrent.ConcurrentHashMap;
import org.springframework.jdbc.core.simple.JdbcClient;
import org.springframework.stereotype.Component;
import remitto.connect.destination.Destination;
import remitto.connect.destination.DestinationProblem;
import remitto.connect.destination.Finding;
import remitto.connect.destination.Listing;
import remitto.connect.destination.RateLimit;
import remitto.connect.destination.Writing;
import remitto.connect.file.FileDestination;
import remitto.connect.file.FilePlaces;
import remitto.connect.outgoing.AddressGuard;
import remitto.connect.outgoing.HttpCalls;
import remitto.connect.profile.CallTools;
import remitto.connect.profile.Delegation;
import remitto.connect.profile.Profile;
import remitto.connect.profile.ProfileBench;
import remitto.connect.profile.ProfileDestination;
import remitto.connect.profile.Setup;
import remitto.connect.signin.Login;
import remitto.connect.table.TableDestination;
import remitto.core.delivery.Backoff;
import remitto.core.destination.ObjectDescription;
import remitto.server.permission.CurrentUser;
import remitto.server.platform.Json;
import remitto.server.platform.RemittoProperties;
import remitto.server.profile.Profiles;

/** Open connections to destinations, kept while they stay the same so that tokens are reused. */
@Component
public class Connections {
    private static final Duration DESCRIBED_FOR = Duration.ofMinutes(10);
    private final CurrentUser user;
    private final Destinations destinations;
    private final Profiles profiles;
    private final CallTools tools;
    private final Grants grants;
    private final SecretAddresses addresses;
    private final JdbcClient jdbc;
    private final SchemaChanges changes;
    private final Circuits circuits;
    private final Clock clock;
    private final FileLayouts layouts;
    private final Path outbox;
    private final Map<Long, Kept> open = new ConcurrentHashMap<>();

    Connections(
            CurrentUser user,
            Destinations destinations,
            Profiles profiles,
            HttpCalls http,
            Json json,
            AddressGuard guard,
            Grants grants,
            SecretAddresses addresses,
            JdbcClient jdbc,
            SchemaChanges changes,
            Circuits circuits,
            Clock clock,
            FileLayouts layouts,
            RemittoProperties properties) {
        this.user = user;
        this.destinations = destinations;
        this.profiles = profiles;
        this.tools = new CallTools(http, json.mapper(), guard, clock);
        this.grants = grants;
        this.addresses = addresses;
        this.jdbc = jdbc;
        this.changes = changes;
        this.circuits = circuits;
        this.clock = clock;
        this.layouts = layouts;
        this.outbox = properties.outbox();
    }

    /** A destination ready to be called, with the profile it is called by. */
    public record Connection(Destination destination, Setup setup, Profile profile, int profileVersion) {
        /** @throws DestinationProblem if single records cannot be looked up there */
        public Finding finding() {
            return destination.finding().orElseThrow(() -> cannot("look up single records"));
        }

        /** @throws DestinationProblem if it does not list its records */
        public Listing listing() {
            return destination.listing().orElseThrow(() -> cannot("list its records"));
        }

        /** @throws DestinationProblem if it takes no records */
        public Writing writing() {
            return destination.writing().orElseThrow(() -> cannot("take single records"));
        }

        private DestinationProblem cannot(String what) {
            return new DestinationProblem(
                    DestinationProblem.Kind.REFUSED, profile.title() + " offers no way to " + what + ".");
        }
    }

    private record Kept(Connection connection, int revision) {}

    /** The connection as it is in service now, whichever process changed it. */
    public Connection open(long id) {
        int revision = destinations.revision(id);
        return open.compute(
                        id,
                        (same, kept) ->
                                kept != null && kept.revision() == revision ? kept : new Kept(connect(id), revision))
                .connection();
    }

    /** The connection is not as it was; every process notices when it opens it next. */
    void changed(long id) {
        destinations.revise(id);
        open.remove(id);
    }

    private Connection connect(long id) {
        var view = destinations.get(id);
        Profile profile = profiles.version(view.profile(), view.profileVersion());
        return connection(view, profile);
    }

    private Connection connection(Destinations.DestinationView view, Profile profile) {
        if (profile.speaks().orElse(Profile.Speaks.HTTP) == Profile.Speaks.POSTGRESQL) {
            TableDestination table =
                    new TableDestination(profile, login(view), tools(view).guard(), rateLimit(view, profile));
            return new Connection(table, table, profile, view.profileVersion());
        }
        if (profile.takesFiles()) {
            FileDestination files = FilePlaces.open(
                    profile,
                    login(view),
                    layouts.of(view.id()),
                    outbox,
                    tools(view).guard(),
                    rateLimit(view, profile));
            return new Connection(files, files, profile, view.profileVersion());
        }
        ProfileDestination destination =
                new ProfileDestination(profile, login(view), tools(view), rateLimit(view, profile), Backoff.defaults());
        return new Connection(destination, destination, profile, view.profileVersion());
    }

    /** Calls go where the secrets were given for, whatever a text that is not in service says. */
    private CallTools tools(Destinations.DestinationView view) {
        return addresses
                .of(view.id(), profiles.version(view.profile(), view.profileVersion()))
                .map(tools::only)
                .orElse(tools);
    }

    /**
     * The connection as it would be by a profile that need not be saved. For reading only.
     *
     * @throws Problem if it reads by calls that may write
     */
    public Connection openWith(long id, Profile unsaved) {
        BenchLock.require(unsaved, open(id).profile());
        return connection(destinations.get(id), unsaved);
    }

    private Login login(Destinations.DestinationView view) {
        Map<String, String> settings = new HashMap<>(view.settings());
        settings.putAll(destinations.secrets(view.id()));
        return new Login(view.signIn(), settings, grants.of(view.id()));
    }

    private RateLimit rateLimit(Destinations.DestinationView view, Profile profile) {
        return view.limitsOff() ? RateLimit.NONE : new SharedRateLimit(jdbc, clock, view.id(), profile.limits());
    }

    /** True when a person signs in at the tool itself. */
    boolean isDelegated(long id) {
        var view = destinations.get(id);
        return profiles.version(view.profile(), view.profileVersion())
                        .way(view.signIn())
                        .kind()
                == Profile.Authentication.Kind.DELEGATED;
    }

    Delegation delegation(long id) {
        var view = destinations.get(id);
        Profile profile = profiles.version(view.profile(), view.profileVersion());
        return new Delegation(profile, login(view), tools(view), rateLimit(view, profile));
    }

    /** Single calls by a profile that need not be saved. */
    ProfileBench bench(long id, Profile profile) {
        var view = destinations.get(id);
        Set<String> secrets = Set.copyOf(destinations.secrets(id).values());
        return new ProfileBench(profile, login(view), secrets, tools(view), rateLimit(view, profile));
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
        if (known.isPresent() && (fresh || !user.mayCallOut() || circuits.of(id).isOpen())) {
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

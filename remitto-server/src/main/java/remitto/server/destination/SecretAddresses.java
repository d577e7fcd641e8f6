package remitto.server.destination;

import java.sql.Array;
import java.util.Arrays;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.TreeSet;
import org.springframework.jdbc.core.simple.JdbcClient;
import org.springframework.stereotype.Component;
import remitto.connect.profile.Addresses;
import remitto.connect.profile.Profile;
import remitto.server.platform.Json;
import remitto.server.platform.Problem;
import remitto.server.profile.Profiles;

/**
 * The addresses that a destination's secrets were given for. Who can change an address or a profile cannot thereby have
 * the secrets sent elsewhere: they are to be given again.
 */
@Component
class SecretAddresses {
    private final Profiles profiles;
    private final JdbcClient jdbc;
    private final Destinations destinations;
    private final Grants grants;
    private final Json json;

    SecretAddresses(Profiles profiles, JdbcClient jdbc, Destinations destinations, Grants grants, Json json) {
        this.profiles = profiles;
        this.jdbc = jdbc;
        this.destinations = destinations;
        this.grants = grants;
        this.json = json;
    }

    /**
     * Where calls that carry the secrets may go; empty when there are none to guard.
     *
     * @param inService the profile that the destination is called by
     */
    Optional<Set<String>> of(long id, Profile inService) {
        Map<String, String> secrets = destinations.secrets(id);
        boolean none = secrets.values().stream().allMatch(String::isEmpty);
        if (none && grants.signedIn(id).isEmpty()) {
            return Optional.empty();
        }
        return Optional.of(kept(id).orElseGet(() -> {
            Set<String> now = addresses(inService, destinations.get(id).settings(), secrets);
            keep(id, now);
            return now;
        }));
    }

    /** Every origin that a destination is called at, by its profile and settings of now. */
    Set<String> now(long id) {
        var view = destinations.get(id);
        return addresses(
                profiles.version(view.profile(), view.profileVersion()), view.settings(), destinations.secrets(id));
    }

    /** The secrets were given for where the profile goes now. */
    void given(long id, Profile profile) {
        keep(id, addresses(profile, destinations.get(id).settings(), destinations.secrets(id)));
    }

    /**
     * Before a connection is changed.
     *
     * @return true when calls would go where the secrets were not given for, and all of them are given again
     * @throws Problem when they would and are not
     */
    boolean moves(long id, Destinations.Wanted wanted, Profile profile) {
        Map<String, String> stored = destinations.secrets(id);
        Set<String> before =
                kept(id).orElseGet(() -> addresses(profile, destinations.get(id).settings(), stored));
        Set<String> after = addresses(profile, wanted.settings(), stored);
        List<String> missing = profile.connection().stream()
                .filter(Profile.Setting::isSecret)
                .filter(one -> !stored.getOrDefault(one.name(), "").isEmpty())
                .filter(one -> wanted.settings().getOrDefault(one.name(), "").isBlank())
                .map(Profile.Setting::label)
                .toList();
        if (before.containsAll(after)) {
            return false;
        }
        if (!missing.isEmpty()) {
            after.removeAll(before);
            throw Problem.invalid(
                    "Calls would go to " + String.join(" and ", after) + ", and the secrets were given for "
                            + String.join(" and ", before) + ". Give " + String.join(" and ", missing) + " again.");
        }
        return true;
    }

    private Set<String> addresses(Profile profile, Map<String, String> settings, Map<String, String> secrets) {
        Map<String, String> every = new HashMap<>(secrets);
        every.putAll(settings);
        return Addresses.of(profile, every, json.mapper());
    }

    private Optional<Set<String>> kept(long id) {
        return jdbc.sql("select secrets_for from destination where id = ? and secrets_for is not null")
                .param(id)
                .query((row, number) -> origins(row.getArray("secrets_for")))
                .optional();
    }

    private static Set<String> origins(Array array) throws java.sql.SQLException {
        return new TreeSet<>(Arrays.asList((String[]) array.getArray()));
    }

    private void keep(long id, Set<String> origins) {
        jdbc.sql("update destination set secrets_for = ? where id = ?")
                .params(origins.toArray(String[]::new), id)
                .update();
    }
}

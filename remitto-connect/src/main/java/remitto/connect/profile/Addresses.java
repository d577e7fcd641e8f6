package remitto.connect.profile;

import java.net.URI;
import java.util.Map;
import java.util.Set;
import java.util.TreeSet;
import remitto.connect.outgoing.AddressGuard;
import tools.jackson.databind.JsonNode;
import tools.jackson.databind.ObjectMapper;

/** Where a profile's calls go: the base address, and every full address its text names. */
public final class Addresses {
    /** Of a connection setting: shown beside the field, never called. */
    private static final String EXAMPLE = "example";

    private Addresses() {}

    /** Origins, as {@link AddressGuard#origin} tells them; what is no address is passed over. */
    public static Set<String> of(Profile profile, Map<String, String> settings, ObjectMapper json) {
        Set<String> origins = new TreeSet<>();
        add(origins, settings.getOrDefault("base_address", ""));
        collect(json.valueToTree(profile), settings, origins);
        return origins;
    }

    private static void collect(JsonNode node, Map<String, String> settings, Set<String> origins) {
        if (node.isString()) {
            add(origins, Template.settings(node.asString(), settings));
        }
        if (node.isObject()) {
            node.properties().stream()
                    .filter(entry -> !entry.getKey().equals(EXAMPLE))
                    .forEach(entry -> collect(entry.getValue(), settings, origins));
        } else {
            node.forEach(child -> collect(child, settings, origins));
        }
    }

    private static void add(Set<String> origins, String text) {
        if (!text.startsWith("http://")
                && !text.startsWith("https://")
                && !text.startsWith("postgresql://")
                && !text.startsWith("sftp://")) {
            return;
        }
        try {
            URI address = URI.create(text.strip());
            if (address.getHost() != null) {
                origins.add(AddressGuard.origin(address));
            }
        } catch (IllegalArgumentException e) {
            // Not an address; a call to it says so.
            return;
        }
    }
}

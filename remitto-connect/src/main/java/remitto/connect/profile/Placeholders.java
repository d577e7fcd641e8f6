package remitto.connect.profile;

import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Map;
import java.util.Set;
import java.util.TreeSet;
import java.util.regex.Matcher;
import java.util.regex.Pattern;
import tools.jackson.databind.JsonNode;

/** The names in braces that each text of a profile may use, so that a name that stands for nothing is found while it is written. */
final class Placeholders {
    static final Pattern NAMED = Pattern.compile("\\{([A-Za-z_][A-Za-z0-9_.-]*)}");

    /** In a call that writes, stands for the value of one field. */
    static final String ONE_FIELD = "fields.";

    static final String ONE_SETTING = "setting.";

    private static final Set<String> OF_A_RECORD = Set.of("id", "key", "fields");
    private static final Set<String> OF_A_WRITE = Set.of("object", "key_field", "once", "record", "records");

    /** By place of a text, or of the part that holds it, the names that it may use beside settings. */
    private static final Map<String, Set<String>> KNOWN = known();

    private Placeholders() {}

    private static Map<String, Set<String>> known() {
        Map<String, Set<String>> known = new LinkedHashMap<>();
        known.put("/headers", Set.of());
        known.put("/check/path", Set.of());
        known.put("/accounts/path", Set.of());
        known.put("/objects/path", Set.of());
        known.put("/objects/create", Set.of("title"));
        known.put("/fields/path", Set.of("object"));
        known.put("/find/path", Set.of("object", "by", "value", "values"));
        known.put("/find/body", Set.of("object", "by", "value", "values"));
        known.put("/list/path", Set.of("object", "since", "cursor", "size"));
        known.put("/list/body", Set.of("object", "since", "cursor", "size"));
        known.put("/record_page", Set.of("object", "id"));
        for (String write : List.of("/add", "/update", "/remove")) {
            Set<String> all = new TreeSet<>(OF_A_WRITE);
            all.addAll(OF_A_RECORD);
            Set<String> inText = Set.of("object", "key_field", "once", "id", "key");
            known.put(write + "/path", inText);
            known.put(write + "/headers", inText);
            known.put(write + "/body", all);
            known.put(write + "/record", OF_A_RECORD);
            known.put(write + "/job/path", Set.of("job", "object"));
        }
        return known;
    }

    /** A name that stands for nothing where it is used, with the place of its text. */
    record Unknown(List<String> path, String name, String message) {}

    /** Every name of a profile's tree that stands for nothing where it is used. */
    static List<Unknown> unknown(JsonNode profile) {
        Set<String> settings = new LinkedHashSet<>();
        profile.path("connection")
                .forEach(setting -> settings.add(setting.path("name").asString("")));
        List<Unknown> found = new ArrayList<>();
        KNOWN.forEach((place, names) -> {
            JsonNode text = profile.at(place);
            if (!text.isMissingNode()) {
                List<String> path = new ArrayList<>(List.of(place.substring(1).split("/")));
                collect(text, path, names, settings, found);
            }
        });
        return found;
    }

    private static void collect(
            JsonNode node, List<String> path, Set<String> names, Set<String> settings, List<Unknown> found) {
        if (node.isString()) {
            Matcher named = NAMED.matcher(node.asString());
            while (named.find()) {
                if (!stands(named.group(1), names, settings)) {
                    found.add(new Unknown(List.copyOf(path), named.group(1), message(named.group(1), names)));
                }
            }
        } else if (node.isObject()) {
            node.properties().forEach(entry -> below(entry.getKey(), entry.getValue(), path, names, settings, found));
        } else if (node.isArray()) {
            int at = 0;
            for (JsonNode item : node) {
                below(Integer.toString(at++), item, path, names, settings, found);
            }
        }
    }

    private static void below(
            String step,
            JsonNode node,
            List<String> path,
            Set<String> names,
            Set<String> settings,
            List<Unknown> found) {
        path.add(step);
        collect(node, path, names, settings, found);
        path.remove(path.size() - 1);
    }

    private static boolean stands(String name, Set<String> names, Set<String> settings) {
        if (name.startsWith(ONE_SETTING)) {
            return settings.contains(name.substring(ONE_SETTING.length()));
        }
        if (name.startsWith(ONE_FIELD)) {
            return names.contains("key");
        }
        return names.contains(name);
    }

    private static String message(String name, Set<String> names) {
        if (name.startsWith(ONE_SETTING)) {
            return "the connection has no setting " + name.substring(ONE_SETTING.length());
        }
        List<String> allowed = new ArrayList<>();
        new TreeSet<>(names).forEach(one -> allowed.add("{" + one + "}"));
        if (names.contains("key")) {
            allowed.add("{fields.name}");
        }
        allowed.add("{setting.name}");
        return "{" + name + "} stands for nothing here. Use " + String.join(", ", allowed) + ".";
    }

    /** The names that a text or a tree of texts uses. */
    static Set<String> used(JsonNode node) {
        Set<String> used = new LinkedHashSet<>();
        if (node.isString()) {
            Matcher named = NAMED.matcher(node.asString());
            while (named.find()) {
                used.add(named.group(1));
            }
        } else {
            node.forEach(child -> used.addAll(used(child)));
        }
        return used;
    }

    /** True when a text can be about one record only. */
    static boolean ofOneRecord(String name) {
        return name.equals("record") || OF_A_RECORD.contains(name) || name.startsWith(ONE_FIELD);
    }
}

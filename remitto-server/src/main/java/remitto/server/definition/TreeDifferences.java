package remitto.server.definition;

import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Map;
import java.util.Set;
import tools.jackson.databind.JsonNode;
import tools.jackson.databind.node.ArrayNode;
import tools.jackson.databind.node.ObjectNode;

/** What one definition says otherwise than another, a line for each place. */
final class TreeDifferences {
    private static final int MOST = 100;
    private static final int LONGEST = 120;
    /** What items of lists are called by, so that one that was added does not make all after it another. */
    private static final List<String> NAMES = List.of("field", "column", "name", "from", "attribute");

    private final List<String> lines = new ArrayList<>();

    private TreeDifferences() {}

    static List<String> between(ObjectNode before, ObjectNode after) {
        TreeDifferences differences = new TreeDifferences();
        differences.objects("", before, after);
        if (differences.lines.size() > MOST) {
            int more = differences.lines.size() - MOST;
            List<String> some = new ArrayList<>(differences.lines.subList(0, MOST));
            some.add("and " + more + " more");
            return some;
        }
        return differences.lines;
    }

    private void objects(String place, ObjectNode before, ObjectNode after) {
        Set<String> names = new LinkedHashSet<>(before.propertyNames());
        names.addAll(after.propertyNames());
        names.forEach(name -> values(place.isEmpty() ? name : place + "." + name, before.path(name), after.path(name)));
    }

    private void values(String place, JsonNode before, JsonNode after) {
        if (before.equals(after)) {
            return;
        }
        if (before instanceof ObjectNode one && after instanceof ObjectNode other) {
            objects(place, one, other);
        } else if (isList(before) && isList(after)) {
            lists(place, before, after);
        } else if (isLong(before) && isLong(after)) {
            texts(
                    place,
                    before.asString().lines().toList(),
                    after.asString().lines().toList());
        } else {
            lines.add(place + ": " + words(before) + " → " + words(after));
        }
    }

    private static boolean isLong(JsonNode node) {
        return node.isString() && node.asString().strip().contains("\n");
    }

    /** The lines between what both texts begin and end with. */
    private void texts(String place, List<String> before, List<String> after) {
        int same = 0;
        int least = Math.min(before.size(), after.size());
        while (same < least && before.get(same).equals(after.get(same))) {
            same++;
        }
        int end = 0;
        while (end < least - same && before.get(before.size() - 1 - end).equals(after.get(after.size() - 1 - end))) {
            end++;
        }
        String at = place + ", line " + (same + 1);
        before.subList(same, before.size() - end).forEach(line -> lines.add(at + " - " + cut(line)));
        after.subList(same, after.size() - end).forEach(line -> lines.add(at + " + " + cut(line)));
        if (before.equals(after)) {
            lines.add(place + ": other line ends");
        }
    }

    private static boolean isList(JsonNode node) {
        return node instanceof ArrayNode || node.isMissingNode();
    }

    private void lists(String place, JsonNode before, JsonNode after) {
        Map<String, JsonNode> one = byName(before);
        Map<String, JsonNode> other = byName(after);
        int found = lines.size();
        Set<String> names = new LinkedHashSet<>(one.keySet());
        names.addAll(other.keySet());
        for (String name : names) {
            String at = place + "[" + name + "]";
            if (!one.containsKey(name)) {
                lines.add(at + ": added, " + words(other.get(name)));
            } else if (!other.containsKey(name)) {
                lines.add(at + ": removed, " + words(one.get(name)));
            } else {
                values(at, one.get(name), other.get(name));
            }
        }
        if (lines.size() == found) {
            lines.add(place + ": in another order");
        }
    }

    /** By the name that its items have, or by their place where they have none of their own. */
    private static Map<String, JsonNode> byName(JsonNode list) {
        Map<String, JsonNode> named = new LinkedHashMap<>();
        list.forEach(item -> named.putIfAbsent(name(item), item));
        if (named.size() == list.size() && !named.containsKey("")) {
            return named;
        }
        Map<String, JsonNode> placed = new LinkedHashMap<>();
        list.forEach(item -> placed.put(Integer.toString(placed.size() + 1), item));
        return placed;
    }

    private static String name(JsonNode item) {
        if (item.isValueNode()) {
            return item.asString();
        }
        return NAMES.stream()
                .map(name -> item.path(name).asString(""))
                .filter(name -> !name.isEmpty())
                .findFirst()
                .orElse("");
    }

    private static String words(JsonNode value) {
        if (value.isMissingNode()) {
            return "nothing";
        }
        String text = value.isString() ? value.asString() : value.toString();
        String cut = cut(text.replaceAll("\\s+", " "));
        return cut.isEmpty() ? "empty" : cut;
    }

    private static String cut(String text) {
        String line = text.strip();
        return line.length() > LONGEST ? line.substring(0, LONGEST) + "…" : line;
    }
}

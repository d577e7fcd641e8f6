package remitto.server.definition;

import java.util.Map;
import java.util.Optional;
import java.util.function.BiFunction;
import tools.jackson.databind.JsonNode;
import tools.jackson.databind.node.ArrayNode;
import tools.jackson.databind.node.ObjectNode;

/**
 * Members of definitions that hold ids of other definitions, at any depth. In a file each holds the name of that definition's file. A
 * test holds that no other member is an id.
 */
final class ReferenceMembers {
    static final Map<String, String> KINDS = Map.ofEntries(
            Map.entry("source", "source"),
            Map.entry("destination", "destination"),
            Map.entry("dataset", "dataset"),
            Map.entry("person_dataset", "dataset"),
            Map.entry("company_dataset", "dataset"),
            Map.entry("sources_in_order", "dataset"),
            Map.entry("crosswalk", "crosswalk"),
            Map.entry("event_set", "event-set"),
            Map.entry("audience", "audience"),
            Map.entry("route", "route"),
            Map.entry("routes_in_order", "route"),
            Map.entry("after", "route"));

    private ReferenceMembers() {}

    /** The kind that a member refers to. */
    static Optional<String> kindOf(String member) {
        return Optional.ofNullable(KINDS.get(member));
    }

    /**
     * A copy with other values in the place of ids or names.
     *
     * @param other from the kind that is referred to and the value that is there, what goes in its place
     */
    static JsonNode replaced(JsonNode node, BiFunction<String, JsonNode, JsonNode> other) {
        if (node instanceof ObjectNode object) {
            ObjectNode copy = object.objectNode();
            object.properties()
                    .forEach(member -> copy.set(
                            member.getKey(),
                            kindOf(member.getKey())
                                    .filter(kind -> isReference(member.getValue()))
                                    .map(kind -> reference(kind, member.getValue(), other))
                                    .orElseGet(() -> replaced(member.getValue(), other))));
            return copy;
        }
        if (node instanceof ArrayNode array) {
            ArrayNode copy = array.arrayNode();
            array.forEach(item -> copy.add(replaced(item, other)));
            return copy;
        }
        return node;
    }

    private static boolean isReference(JsonNode value) {
        return value.isIntegralNumber()
                || value.isString()
                || value instanceof ArrayNode items
                        && items.valueStream().allMatch(item -> item.isIntegralNumber() || item.isString());
    }

    private static JsonNode reference(String kind, JsonNode value, BiFunction<String, JsonNode, JsonNode> other) {
        if (value instanceof ArrayNode items) {
            ArrayNode copy = items.arrayNode();
            items.forEach(item -> copy.add(other.apply(kind, item)));
            return copy;
        }
        return other.apply(kind, value);
    }
}

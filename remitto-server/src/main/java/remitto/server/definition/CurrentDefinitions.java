package remitto.server.definition;

import java.util.Map;
import java.util.Optional;
import java.util.SortedMap;
import tools.jackson.databind.node.ObjectNode;

/**
 * All definitions as they are here, as files would say them.
 *
 * @param slugs by kind, the names of files by ids
 */
record CurrentDefinitions(SortedMap<Ref, Current> definitions, Map<String, Map<String, String>> slugs) {
    /**
     * One definition.
     *
     * @param live what is in service; absent where nothing is, and where there are no versions
     */
    record Current(DefinitionKind<?> kind, String id, String name, ObjectNode latest, Optional<ObjectNode> live) {
        /** Whether it needs nothing more to say this, in service where that is wanted. */
        boolean says(ObjectNode tree, boolean inService) {
            return inService && kind.isVersioned() ? live.filter(tree::equals).isPresent() : latest.equals(tree);
        }
    }

    Optional<Current> find(Ref ref) {
        return Optional.ofNullable(definitions.get(ref));
    }

    /** The id of what a name stands for; absent where there is no such thing here. */
    Optional<String> id(String kind, String slug) {
        return slugs.getOrDefault(kind, Map.of()).entrySet().stream()
                .filter(entry -> entry.getValue().equals(slug))
                .map(Map.Entry::getKey)
                .findFirst();
    }
}

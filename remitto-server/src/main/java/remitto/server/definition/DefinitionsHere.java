package remitto.server.definition;

import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.TreeMap;
import org.springframework.stereotype.Component;
import org.springframework.transaction.annotation.Transactional;
import tools.jackson.databind.JsonNode;
import tools.jackson.databind.node.ObjectNode;
import tools.jackson.databind.node.StringNode;

/** Looks at all definitions of every kind as they are now. */
@Component
class DefinitionsHere {
    private final List<DefinitionKind<?>> kinds;
    private final DefinitionNames names;
    private final DefinitionText text;

    DefinitionsHere(List<DefinitionKind<?>> kinds, DefinitionNames names, DefinitionText text) {
        this.kinds = kinds.stream()
                .sorted(java.util.Comparator.comparingInt(DefinitionKind::place))
                .toList();
        this.names = names;
        this.text = text;
    }

    /** In the order of the work. */
    List<DefinitionKind<?>> kinds() {
        return kinds;
    }

    DefinitionKind<?> kind(String name) {
        return kinds.stream()
                .filter(one -> one.kind().equals(name))
                .findFirst()
                .orElseThrow(() -> new IllegalArgumentException("no kind of definition " + name));
    }

    @Transactional
    public CurrentDefinitions look() {
        Map<String, Map<String, String>> slugs = new TreeMap<>();
        Map<DefinitionKind<?>, List<? extends DefinitionKind.Kept<?>>> kept = new LinkedHashMap<>();
        for (DefinitionKind<?> kind : kinds) {
            List<? extends DefinitionKind.Kept<?>> all = kind.all();
            Map<String, String> called = new LinkedHashMap<>();
            all.forEach(one -> called.put(one.id(), one.name()));
            Map<String, String> named = new LinkedHashMap<>(
                    names.of(kind.kind(), called, kind.withoutFile().values()));
            named.putAll(kind.withoutFile());
            slugs.put(kind.kind(), named);
            kept.put(kind, all);
        }
        TreeMap<Ref, CurrentDefinitions.Current> definitions = new TreeMap<>();
        kept.forEach((kind, all) -> all.forEach(one -> definitions.put(
                new Ref(kind.kind(), slugs.get(kind.kind()).get(one.id())),
                new CurrentDefinitions.Current(
                        kind,
                        one.id(),
                        one.name(),
                        named(kind, one.latest(), slugs),
                        one.inService().map(live -> named(kind, live, slugs))))));
        return new CurrentDefinitions(definitions, slugs);
    }

    private ObjectNode named(DefinitionKind<?> kind, Record content, Map<String, Map<String, String>> slugs) {
        ObjectNode tree = text.tree(kind, content);
        return (ObjectNode) ReferenceMembers.replaced(tree, (referred, id) -> slug(id, slugs.get(referred)));
    }

    /** What an older version refers to may be archived by now; the file says so, and is refused until somebody changes it. */
    private static JsonNode slug(JsonNode id, Map<String, String> slugs) {
        return id.isIntegralNumber()
                ? StringNode.valueOf(slugs.getOrDefault(id.asString(), "archived-" + id.asString()))
                : id;
    }
}

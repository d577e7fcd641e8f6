package remitto.server.definition;

import java.util.ArrayList;
import java.util.Comparator;
import java.util.HashMap;
import java.util.HashSet;
import java.util.List;
import java.util.Map;
import java.util.Set;
import java.util.stream.Collectors;
import remitto.server.definition.DefinitionPlans.Step;
import tools.jackson.databind.JsonNode;

/** Puts what is changed in an order in which everything that is referred to comes before what refers to it. */
final class DefinitionOrder {
    private DefinitionOrder() {}

    /** @param faults takes one for each that refers to itself by way of others */
    static List<Step> of(List<Step> steps, List<DefinitionFault> faults) {
        Map<Ref, Step> open = new HashMap<>();
        steps.forEach(step -> open.put(step.file().ref(), step));
        Map<Ref, Set<Ref>> needs = new HashMap<>();
        steps.forEach(step -> needs.put(step.file().ref(), needs(step, open)));
        List<Step> usual = steps.stream()
                .sorted(Comparator.comparingInt(
                                (Step step) -> step.file().kind().place())
                        .thenComparing(step -> step.file().slug()))
                .toList();
        List<Step> ordered = new ArrayList<>();
        Set<Ref> done = new HashSet<>();
        boolean moved = true;
        while (moved) {
            moved = false;
            for (Step step : usual) {
                Ref ref = step.file().ref();
                if (!done.contains(ref) && done.containsAll(needs.get(ref))) {
                    done.add(ref);
                    ordered.add(step);
                    moved = true;
                    break;
                }
            }
        }
        usual.stream()
                .filter(step -> !done.contains(step.file().ref()))
                .forEach(step -> faults.add(new DefinitionFault(
                        step.file().path(),
                        1,
                        "needs "
                                + needs.get(step.file().ref()).stream()
                                        .filter(ref -> !done.contains(ref))
                                        .sorted()
                                        .map(ref -> ref.kind() + " " + ref.slug())
                                        .collect(Collectors.joining(" and "))
                                + ", which needs it in turn")));
        return ordered;
    }

    private static Set<Ref> needs(Step step, Map<Ref, Step> open) {
        Set<Ref> needs = new HashSet<>();
        DefinitionPlans.references(step.file().tree(), new ArrayList<>(), (place, ref) -> needs.add(ref));
        if (step.file().kind().speaksByName()) {
            Set<String> words = new HashSet<>();
            texts(step.file().tree(), words);
            open.values().stream()
                    .filter(other -> other.file().kind() == step.file().kind())
                    .filter(other ->
                            words.contains(other.file().tree().path("name").asString("")))
                    .forEach(other -> needs.add(other.file().ref()));
        }
        needs.remove(step.file().ref());
        needs.retainAll(open.keySet());
        return needs;
    }

    private static void texts(JsonNode node, Set<String> words) {
        if (node.isString()) {
            words.add(node.asString());
        }
        node.forEach(part -> texts(part, words));
    }
}

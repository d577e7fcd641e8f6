package remitto.server.run;

import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Set;
import remitto.core.route.LookUps;
import remitto.server.route.BoundRoute;

/**
 * What the values of a line were made of, kept to explain them by.
 *
 * @param cells that the rules read, by column; without those of sensitive columns
 * @param beyond by field, the steps of a value that was found beyond the row
 */
record Origins(Map<String, String> cells, Map<String, List<Follower.Step>> beyond) {
    static final Origins NONE = new Origins(Map.of(), Map.of());

    /** What the rules that look beyond a row make of it, step by step; fields made of sensitive columns are left out. */
    static Map<String, List<Follower.Step>> beyond(BoundRoute route, Candidate candidate, LookUps found) {
        Set<String> fields = route.fieldsBeyond();
        Map<String, List<Follower.Step>> steps = new LinkedHashMap<>();
        if (!fields.isEmpty()) {
            route.route().shape(candidate.key(), candidate.row(), found, (field, step, detail, value) -> {
                if (fields.contains(field)) {
                    steps.computeIfAbsent(field, name -> new ArrayList<>())
                            .add(new Follower.Step(step, detail, value.display()));
                }
            });
        }
        return steps;
    }
}

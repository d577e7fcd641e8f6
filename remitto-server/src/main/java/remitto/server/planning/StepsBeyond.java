package remitto.server.planning;

import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Set;
import remitto.core.route.LookUps;
import remitto.server.known.Candidate;
import remitto.server.manifest.Step;
import remitto.server.route.BoundRoute;

/** The steps by which values came that were found beyond the row. */
final class StepsBeyond {
    private StepsBeyond() {}

    /** What the rules that look beyond a row make of it, step by step; fields made of sensitive columns are left out. */
    static Map<String, List<Step>> of(BoundRoute route, Candidate candidate, LookUps found) {
        Set<String> fields = route.fieldsBeyond();
        Map<String, List<Step>> steps = new LinkedHashMap<>();
        if (!fields.isEmpty()) {
            route.route().shape(candidate.key(), candidate.row(), found, (field, step, detail, value) -> {
                if (fields.contains(field)) {
                    steps.computeIfAbsent(field, name -> new ArrayList<>())
                            .add(new Step(step, detail, value.display()));
                }
            });
        }
        return steps;
    }
}

package remitto.server.route;

import java.util.ArrayList;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.stream.Collectors;
import org.springframework.stereotype.Component;
import remitto.core.fieldrule.FieldRule;
import remitto.core.route.RouteSpec;

/** What two versions of a route say differently. */
@Component
class RouteDifferences {
    private final RuleSentences sentences;

    RouteDifferences(RuleSentences sentences) {
        this.sentences = sentences;
    }

    /** A rule before and after, in words; absent where there is none. */
    record RuleDifference(String field, Optional<String> before, Optional<String> after) {}

    /**
     * How one version differs from another.
     *
     * @param parts names of everything else that differs, as the specification names it
     */
    record Differences(List<RuleDifference> rules, List<String> parts, RouteSpec before, RouteSpec after) {}

    Differences between(RouteSpec before, RouteSpec after) {
        Map<String, FieldRule> old = byField(before);
        Map<String, FieldRule> fresh = byField(after);
        Map<String, String> oldWords = sentences.of(before);
        Map<String, String> freshWords = sentences.of(after);
        Set<String> fields = new LinkedHashSet<>(fresh.keySet());
        fields.addAll(old.keySet());
        List<RuleDifference> rules = new ArrayList<>();
        for (String field : fields) {
            if (!Optional.ofNullable(old.get(field)).equals(Optional.ofNullable(fresh.get(field)))) {
                rules.add(new RuleDifference(
                        field, Optional.ofNullable(oldWords.get(field)), Optional.ofNullable(freshWords.get(field))));
            }
        }
        return new Differences(rules, parts(before, after), before, after);
    }

    private static Map<String, FieldRule> byField(RouteSpec spec) {
        return spec.rules().stream()
                .collect(Collectors.toMap(
                        FieldRule::field, rule -> rule, (one, other) -> one, java.util.LinkedHashMap::new));
    }

    private static List<String> parts(RouteSpec before, RouteSpec after) {
        List<String> parts = new ArrayList<>();
        differ("mode", before.mode(), after.mode(), parts);
        differ("match", before.match(), after.match(), parts);
        differ("basis", before.basis(), after.basis(), parts);
        differ("guards", before.guards(), after.guards(), parts);
        differ("schedule", before.schedule(), after.schedule(), parts);
        differ("leavers", before.leavers(), after.leavers(), parts);
        differ("firstRun", before.firstRun(), after.firstRun(), parts);
        differ("waves", before.waves(), after.waves(), parts);
        differ("after", before.after(), after.after(), parts);
        differ("joined", before.joined(), after.joined(), parts);
        return parts;
    }

    private static void differ(String name, Object before, Object after, List<String> parts) {
        if (!before.equals(after)) {
            parts.add(name);
        }
    }
}

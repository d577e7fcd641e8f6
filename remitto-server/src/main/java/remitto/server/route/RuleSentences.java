package remitto.server.route;

import java.util.HashMap;
import java.util.LinkedHashMap;
import java.util.Map;
import org.springframework.stereotype.Component;
import remitto.core.fieldrule.RuleSentence;
import remitto.core.route.RouteSpec;
import remitto.server.crosswalk.Crosswalks;
import remitto.server.dataset.Datasets;

/** Says every rule of a route in one sentence, with the names of all it refers to. */
@Component
public class RuleSentences {
    private final Routes routes;
    private final Datasets datasets;
    private final Crosswalks crosswalks;

    RuleSentences(Routes routes, Datasets datasets, Crosswalks crosswalks) {
        this.routes = routes;
        this.datasets = datasets;
        this.crosswalks = crosswalks;
    }

    /** By field. */
    public Map<String, String> of(RouteSpec spec) {
        Map<Long, String> routeNames = new HashMap<>();
        routes.all().forEach(route -> routeNames.put(route.id(), route.name()));
        Map<Long, String> datasetNames = new HashMap<>();
        datasets.all().forEach(dataset -> datasetNames.put(dataset.id(), dataset.name()));
        Map<Long, String> crosswalkNames = new HashMap<>();
        crosswalks.all().forEach(crosswalk -> crosswalkNames.put(crosswalk.id(), crosswalk.name()));
        RuleSentence sentence = new RuleSentence(
                id -> routeNames.getOrDefault(id, "no. " + id),
                id -> datasetNames.getOrDefault(id, "dataset no. " + id),
                id -> crosswalkNames.getOrDefault(id, "no. " + id));
        Map<String, String> sentences = new LinkedHashMap<>();
        spec.rules().forEach(rule -> sentences.put(rule.field(), sentence.of(rule)));
        return sentences;
    }
}

package remitto.server.route;

import com.github.benmanes.caffeine.cache.Cache;
import com.github.benmanes.caffeine.cache.Caffeine;
import java.time.Duration;
import java.util.ArrayList;
import java.util.List;
import java.util.Locale;
import org.springframework.stereotype.Component;
import remitto.connect.source.RowSource;
import remitto.connect.source.SourceProblem;
import remitto.core.dataset.Column;
import remitto.core.fieldrule.FieldRule;
import remitto.core.fieldrule.Receives;
import remitto.core.route.RouteFault;
import remitto.core.route.RouteSpec;
import remitto.server.dataset.DatasetDefinition;
import remitto.server.dataset.DatasetQueries;
import remitto.server.dataset.Datasets;

/** Warns of a value that is fixed though the rows differ in what it depends on: one currency over many countries. */
@Component
class FixedOverDiffering {
    private static final List<String> PLACES = List.of("currency", "country", "language", "locale", "zone");
    private static final int LOOKED_AT = 50;
    private static final int NAMED = 3;

    private final Datasets datasets;
    private final DatasetQueries queries;
    private final Cache<String, List<RowSource.Word>> words = Caffeine.newBuilder()
            .expireAfterWrite(Duration.ofMinutes(5))
            .maximumSize(200)
            .build();

    FixedOverDiffering(Datasets datasets, DatasetQueries queries) {
        this.datasets = datasets;
        this.queries = queries;
    }

    List<RouteFault> of(long datasetId, DatasetDefinition definition, RouteSpec spec) {
        List<RouteFault> warnings = new ArrayList<>();
        for (FieldRule rule : spec.rules()) {
            if (rule.receives() instanceof Receives.Fixed fixed && dependsOnPlace(rule.field())) {
                definition.columns().stream()
                        .filter(column -> dependsOnPlace(column.name()))
                        .forEach(column -> warn(datasetId, definition, rule, fixed, column, warnings));
            }
        }
        return warnings;
    }

    private void warn(
            long datasetId,
            DatasetDefinition definition,
            FieldRule rule,
            Receives.Fixed fixed,
            Column column,
            List<RouteFault> warnings) {
        List<RowSource.Word> found = words.get(
                datasetId + "|" + definition.hashCode() + "|" + column.name(),
                name -> look(datasetId, definition, column.name()));
        if (found.size() > 1) {
            warnings.add(RouteFault.advice(
                    rule.field(),
                    "Always \"" + fixed.text() + "\", though the rows hold "
                            + (found.size() == LOOKED_AT ? LOOKED_AT + " values or more" : found.size() + " values")
                            + " of " + column.name() + ", such as "
                            + String.join(
                                    ", ",
                                    found.stream()
                                            .limit(NAMED)
                                            .map(RowSource.Word::text)
                                            .toList())
                            + "."));
        }
    }

    private List<RowSource.Word> look(long datasetId, DatasetDefinition definition, String column) {
        try {
            return queries.words(datasets.get(datasetId).sourceId(), definition, column, LOOKED_AT);
        } catch (SourceProblem e) {
            return List.of();
        }
    }

    private static boolean dependsOnPlace(String name) {
        String plain = name.toLowerCase(Locale.ROOT);
        return PLACES.stream().anyMatch(plain::contains);
    }
}

package remitto.server.crosswalk;

import java.util.List;
import java.util.Set;
import java.util.stream.Collectors;
import org.springframework.stereotype.Component;
import remitto.core.shaper.CrosswalkTable;
import remitto.server.dataset.DatasetQueries;
import remitto.server.dataset.Datasets;
import remitto.server.platform.Personal;
import remitto.server.platform.Problem;

/** Which words of the rows a crosswalk does not know. */
@Component
class UnmappedWords {
    private static final int LOOKED_AT = 5_000;
    private static final int SHOWN = 500;

    private final Datasets datasets;
    private final DatasetQueries queries;

    UnmappedWords(Datasets datasets, DatasetQueries queries) {
        this.datasets = datasets;
        this.queries = queries;
    }

    /** A value of the rows that a crosswalk does not map. */
    record Unmapped(@Personal String word, long rows) {}

    List<Unmapped> find(List<CrosswalkTable.Pair> entries, long datasetId, String column) {
        Datasets.Dataset dataset = datasets.get(datasetId);
        if (dataset.definition().columns().stream().noneMatch(one -> one.name().equals(column))) {
            throw Problem.invalid("Dataset " + dataset.name() + " has no column " + column + ".");
        }
        Set<String> known = entries.stream().map(entry -> entry.from().strip()).collect(Collectors.toSet());
        return queries.words(dataset.sourceId(), dataset.definition(), column, LOOKED_AT).stream()
                .filter(word ->
                        !word.text().isBlank() && !known.contains(word.text().strip()))
                .map(word -> new Unmapped(word.text(), word.rows()))
                .limit(SHOWN)
                .toList();
    }
}

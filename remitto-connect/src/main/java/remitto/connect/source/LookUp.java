package remitto.connect.source;

import java.time.Instant;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import remitto.core.dataset.Column;
import remitto.core.dataset.ColumnType;
import remitto.core.fieldrule.DatasetLookUp;

/**
 * A way through datasets of one source.
 *
 * @param datasets by number, those that the way goes through
 * @param now from where days are looked back
 */
public record LookUp(DatasetLookUp way, Map<Long, Dataset> datasets, Instant now) {
    public LookUp {
        datasets = Map.copyOf(datasets);
    }

    /** What a dataset is made of. */
    public record Dataset(SourceQuery query, List<Column> columns) {
        public Dataset {
            columns = List.copyOf(columns);
        }

        /** @throws IllegalArgumentException if it has no such column */
        public ColumnType type(String column) {
            return columns.stream()
                    .filter(one -> one.name().equals(column))
                    .findFirst()
                    .orElseThrow(() -> new IllegalArgumentException("no column " + column))
                    .type();
        }
    }

    /** @throws IllegalArgumentException if the way goes through none of that number */
    public Dataset dataset(long number) {
        Dataset found = datasets.get(number);
        if (found == null) {
            throw new IllegalArgumentException("no dataset " + number);
        }
        return found;
    }

    /** The datasets of the way in order, the first where it begins. */
    public List<Dataset> steps() {
        List<Dataset> steps = new ArrayList<>(List.of(dataset(way.dataset())));
        way.hops().forEach(hop -> steps.add(dataset(hop.dataset())));
        return steps;
    }

    /** The moment before which rows are passed over, to the second. */
    public Instant lookedBackTo(DatasetLookUp.Pick pick) {
        return now.minus(pick.lookBackDays(), java.time.temporal.ChronoUnit.DAYS)
                .truncatedTo(java.time.temporal.ChronoUnit.SECONDS);
    }
}

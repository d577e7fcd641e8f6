package remitto.server.people.source;

import java.util.List;
import java.util.Optional;
import java.util.stream.Stream;
import org.springframework.stereotype.Component;
import remitto.connect.source.RowSource;
import remitto.core.dataset.Column;
import remitto.core.identity.normalise.DateOrder;
import remitto.core.identity.normalise.DateOrders;
import remitto.server.dataset.DatasetDefinition;
import remitto.server.dataset.DatasetQueries;
import remitto.server.dataset.Datasets;
import remitto.server.platform.Problem;

/** Looks at the dates of columns for the order of day and month in them. */
@Component
public class DateLooks {
    /** The most frequent of them; as good as all for which order they are in. */
    private static final int VALUES = 5_000;

    private static final int MOST_COLUMNS = 20;

    private final Datasets datasets;
    private final DatasetQueries queries;

    DateLooks(Datasets datasets, DatasetQueries queries) {
        this.datasets = datasets;
        this.queries = queries;
    }

    /**
     * Columns whose order of day and month is to be found.
     *
     * @param columns of the dataset, at most twenty
     */
    public record DateRequest(List<String> columns) {}

    /**
     * What the values of a column say.
     *
     * @param dayFirst values whose first number can only be the day
     * @param monthFirst whose second one can
     * @param either values that could be both
     * @param shown order that they show by themselves; absent where somebody has to say it
     * @param inDoubt whether it matters, and they do not say
     */
    public record ColumnDates(
            String column, long dayFirst, long monthFirst, long either, Optional<DateOrder> shown, boolean inDoubt) {}

    /** @throws Problem naming a column that is not there */
    public List<ColumnDates> of(long datasetId, DateRequest request) {
        Datasets.Dataset dataset = datasets.get(datasetId);
        DatasetDefinition definition =
                datasets.version(dataset.id(), dataset.liveVersion().orElse(dataset.latestVersion()));
        if (request.columns().size() > MOST_COLUMNS) {
            throw Problem.invalid("Look at " + MOST_COLUMNS + " columns at a time at most.");
        }
        List<String> there = definition.columns().stream().map(Column::name).toList();
        request.columns().stream()
                .filter(column -> !there.contains(column))
                .findFirst()
                .ifPresent(column -> {
                    throw Problem.invalid("Dataset " + dataset.name() + " has no column " + column + ".");
                });
        return request.columns().stream()
                .map(column -> dates(column, dataset, definition))
                .toList();
    }

    private ColumnDates dates(String column, Datasets.Dataset dataset, DatasetDefinition definition) {
        Stream<String> values = queries.words(dataset.sourceId(), definition, column, VALUES).stream()
                .map(RowSource.Word::text);
        DateOrders orders = DateOrders.of(values);
        return new ColumnDates(
                column, orders.dayFirst(), orders.monthFirst(), orders.either(), orders.shown(), orders.isInDoubt());
    }
}

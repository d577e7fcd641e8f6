package remitto.server.landing;

import java.util.ArrayList;
import java.util.List;
import java.util.stream.Collectors;
import org.springframework.stereotype.Component;
import remitto.core.dataset.ColumnType;
import remitto.core.dataset.Columns;
import remitto.core.landed.LandedColumn;
import remitto.server.dataset.DatasetDefinition;
import remitto.server.dataset.Datasets;

/** Which landed rows hold an address of somebody who is erased, or are a record of theirs. */
@Component
public class LandedOfErased {
    private final Datasets datasets;

    LandedOfErased(Datasets datasets) {
        this.datasets = datasets;
    }

    /**
     * The rows of a table, in the transaction of an erasure.
     *
     * @param columns that were landed
     * @param there columns that the table has, which may be of another revision
     * @param source whose datasets may be read from it
     * @param table by its name in {@code landed}
     * @return a condition over rows called {@code r}
     */
    public String condition(List<LandedColumn> columns, List<String> there, long source, String table) {
        List<String> parts = new ArrayList<>(columns.stream()
                .filter(column -> column.type() == ColumnType.TEXT)
                .map(LandedColumn::name)
                .filter(there::contains)
                .map(name -> "lower(r." + LandedSchema.quoted(name) + ") in (select text from gone_text)")
                .toList());
        for (Datasets.Dataset dataset : datasets.all()) {
            if (dataset.definition().query() instanceof DatasetDefinition.Query.TableQuery query
                    && dataset.sourceId() == source
                    && query.table().equals(table)) {
                List<String> keys = new Columns(dataset.definition().columns()).keys();
                if (!keys.isEmpty() && there.containsAll(keys)) {
                    parts.add(keys.stream()
                                    .map(key -> "r." + LandedSchema.quoted(key) + "::text")
                                    .collect(Collectors.joining(" || E'\\t' || "))
                            + " in (select key from gone_key where dataset_id = " + dataset.id() + ")");
                }
            }
        }
        return parts.isEmpty() ? "false" : String.join(" or ", parts);
    }
}

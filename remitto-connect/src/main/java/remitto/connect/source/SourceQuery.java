package remitto.connect.source;

import java.util.List;
import java.util.Optional;

/** Which rows a dataset is made of. */
public sealed interface SourceQuery {
    /** What somebody wrote in the source's own language. */
    record OfText(String text) implements SourceQuery {}

    /**
     * Some columns of something that the source names.
     *
     * @param schema blank where the source has none
     * @param filter a condition in the source's own language; absent for all rows
     */
    record OfTable(String schema, String table, List<String> columns, Optional<String> filter) implements SourceQuery {
        public OfTable {
            columns = List.copyOf(columns);
        }
    }

    static SourceQuery text(String text) {
        return new OfText(text);
    }
}

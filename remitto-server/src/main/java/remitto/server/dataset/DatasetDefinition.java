package remitto.server.dataset;

import com.fasterxml.jackson.annotation.JsonSubTypes;
import com.fasterxml.jackson.annotation.JsonTypeInfo;
import java.util.List;
import java.util.Optional;
import java.util.stream.Collectors;
import remitto.connect.warehouse.SqlText;
import remitto.core.dataset.Column;

/** What a version of a dataset says: its query and its columns, the key among them by role. */
public record DatasetDefinition(Query query, List<Column> columns) {
    public DatasetDefinition {
        columns = List.copyOf(columns);
    }

    /** Where the records come from. */
    @JsonTypeInfo(use = JsonTypeInfo.Id.NAME, property = "kind")
    @JsonSubTypes({
        @JsonSubTypes.Type(value = Query.SqlQuery.class, name = "sql"),
        @JsonSubTypes.Type(value = Query.TableQuery.class, name = "table")
    })
    public sealed interface Query {
        /** The text that is run. */
        String text();

        record SqlQuery(String text) implements Query {}

        /** @param filter a condition in SQL; absent when all rows were chosen */
        record TableQuery(String schema, String table, List<String> columns, Optional<String> filter) implements Query {
            @Override
            public String text() {
                String names = columns.stream().map(TableQuery::quote).collect(Collectors.joining(", "));
                return "select " + names + "\nfrom " + quote(schema) + "." + quote(table)
                        + filter.map(condition -> "\nwhere " + SqlText.condition(condition))
                                .orElse("");
            }

            private static String quote(String name) {
                return name.matches("[a-z_][a-z0-9_]*") ? name : "\"" + name.replace("\"", "\"\"") + "\"";
            }
        }
    }
}

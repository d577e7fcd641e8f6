package remitto.server.dataset;

import com.fasterxml.jackson.annotation.JsonSetter;
import com.fasterxml.jackson.annotation.JsonSubTypes;
import com.fasterxml.jackson.annotation.JsonTypeInfo;
import com.fasterxml.jackson.annotation.Nulls;
import java.time.Duration;
import java.util.List;
import java.util.Optional;
import remitto.connect.source.Reading;
import remitto.connect.source.SourceQuery;
import remitto.connect.source.TableText;
import remitto.core.dataset.Column;
import remitto.core.expectation.Expectation;

/**
 * What a version of a dataset says: its query and its columns, the key among them by role.
 *
 * @param expectations what its rows are expected to hold; versions from before there were any say nothing of it
 */
public record DatasetDefinition(
        Query query,
        List<Column> columns,
        @JsonSetter(nulls = Nulls.AS_EMPTY) List<Expectation> expectations) {
    public DatasetDefinition {
        columns = List.copyOf(columns);
        expectations = List.copyOf(expectations);
    }

    /** A definition of which nothing is expected. */
    public DatasetDefinition(Query query, List<Column> columns) {
        this(query, columns, List.of());
    }

    /** Where the records come from. */
    @JsonTypeInfo(use = JsonTypeInfo.Id.NAME, property = "kind")
    @JsonSubTypes({
        @JsonSubTypes.Type(value = Query.SqlQuery.class, name = "sql"),
        @JsonSubTypes.Type(value = Query.TableQuery.class, name = "table")
    })
    public sealed interface Query {
        /** As it is shown, and what somebody goes on writing from. */
        String text();

        /** As a source is asked for it. */
        SourceQuery asked();

        /** Records selected by SQL. */
        record SqlQuery(String text) implements Query {
            @Override
            public SourceQuery asked() {
                return SourceQuery.text(text);
            }
        }

        /**
         * Records selected from a table.
         *
         * @param filter a condition in SQL; absent when all rows were chosen
         */
        record TableQuery(String schema, String table, List<String> columns, Optional<String> filter) implements Query {
            @Override
            public SourceQuery.OfTable asked() {
                return new SourceQuery.OfTable(schema, table, columns, filter);
            }

            @Override
            public String text() {
                return TableText.shown(asked());
            }
        }
    }

    /** All of its rows, with its columns in their order. */
    public Reading reading(Duration time) {
        return reading(names(), time);
    }

    /** All of its rows, with some columns. */
    public Reading reading(List<String> wanted, Duration time) {
        return Reading.all(query.asked(), wanted, time);
    }

    /** Its columns' names, in their order. */
    public List<String> names() {
        return columns.stream().map(Column::name).toList();
    }
}

package remitto.core.expectation;

import com.fasterxml.jackson.annotation.JsonIgnore;
import com.fasterxml.jackson.annotation.JsonSubTypes;
import com.fasterxml.jackson.annotation.JsonTypeInfo;
import java.util.List;
import java.util.Optional;

/** What is expected: of the cells of a column, or of a dataset as a whole. Empty and blank cells meet every demand but {@link NeverEmpty}. */
@JsonTypeInfo(use = JsonTypeInfo.Id.NAME, property = "kind")
@JsonSubTypes({
    @JsonSubTypes.Type(value = Demand.NeverEmpty.class, name = "not-empty"),
    @JsonSubTypes.Type(value = Demand.UniqueValues.class, name = "unique"),
    @JsonSubTypes.Type(value = Demand.ListedValues.class, name = "one-of"),
    @JsonSubTypes.Type(value = Demand.ValueRange.class, name = "within"),
    @JsonSubTypes.Type(value = Demand.TextPattern.class, name = "matches"),
    @JsonSubTypes.Type(value = Demand.RowCount.class, name = "row-count"),
    @JsonSubTypes.Type(value = Demand.FreshRows.class, name = "fresh")
})
public sealed interface Demand {
    /** In words that follow the name of the column or the dataset. */
    @JsonIgnore
    String words();

    /** Whether it is about the cells of a column, rather than about a dataset as a whole. */
    @JsonIgnore
    default boolean isAboutCells() {
        return true;
    }

    /** No cell of the column is empty or blank. */
    record NeverEmpty() implements Demand {
        @Override
        public String words() {
            return "is never empty";
        }
    }

    /** No value is in more than one row. */
    record UniqueValues() implements Demand {
        @Override
        public String words() {
            return "is unique";
        }
    }

    /**
     * Only some values, exactly as they are spelled.
     *
     * @param values as the source spells them
     */
    record ListedValues(List<String> values) implements Demand {
        private static final int TOLD = 6;

        public ListedValues {
            values = List.copyOf(values);
        }

        @Override
        public String words() {
            String told = String.join(", ", values.subList(0, Math.min(TOLD, values.size())));
            return "is one of " + told + (values.size() > TOLD ? " and " + (values.size() - TOLD) + " more" : "");
        }
    }

    /**
     * Numbers, dates or times from one to another, both of them included.
     *
     * @param least absent for no lower bound
     * @param most absent for no upper bound
     */
    record ValueRange(Optional<String> least, Optional<String> most) implements Demand {
        @Override
        public String words() {
            if (least.isPresent() && most.isPresent()) {
                return "is from " + least.get() + " to " + most.get();
            }
            return least.map(bound -> "is at least " + bound).orElseGet(() -> "is at most " + most.orElse(""));
        }
    }

    /**
     * The whole text matches a regular expression.
     *
     * @param pattern in the syntax of RE2, which matches in linear time whatever the text
     */
    record TextPattern(String pattern) implements Demand {
        @Override
        public String words() {
            return "matches " + pattern;
        }
    }

    /**
     * The number of rows.
     *
     * @param least absent for no lower bound
     * @param most absent for no upper bound
     * @param changePercent how far it may be from the median of the last seven reads; needs three of them; absent for no such bound
     */
    record RowCount(Optional<Long> least, Optional<Long> most, Optional<Integer> changePercent) implements Demand {
        @Override
        public String words() {
            StringBuilder words = new StringBuilder("has");
            least.ifPresent(rows -> words.append(" at least ").append(rows).append(" rows"));
            most.ifPresent(rows -> words.append(least.isPresent() ? " and" : "")
                    .append(" at most ")
                    .append(rows)
                    .append(" rows"));
            changePercent.ifPresent(percent -> words.append(least.isPresent() || most.isPresent() ? ", and" : "")
                    .append(" a row count within ")
                    .append(percent)
                    .append(" % of the last reads"));
            return words.toString();
        }

        @Override
        public boolean isAboutCells() {
            return false;
        }
    }

    /**
     * How old the newest row may be, by the column with the role <em>updated at</em>.
     *
     * @param hours since its newest row
     */
    record FreshRows(int hours) implements Demand {
        @Override
        public String words() {
            return "has a row from the last " + (hours == 1 ? "hour" : hours + " hours");
        }

        @Override
        public boolean isAboutCells() {
            return false;
        }
    }
}

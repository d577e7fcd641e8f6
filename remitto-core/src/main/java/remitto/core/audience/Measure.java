package remitto.core.audience;

import com.fasterxml.jackson.annotation.JsonSubTypes;
import com.fasterxml.jackson.annotation.JsonTypeInfo;
import java.util.List;
import java.util.Optional;
import java.util.Set;
import java.util.TreeSet;
import remitto.core.dataset.ColumnType;
import remitto.core.value.Value;

/** A number, day or value worked out over the events of one person in a window. */
public record Measure(EventsOf of, Window window, Aggregation aggregation) {
    /** How events become one value. */
    @JsonTypeInfo(use = JsonTypeInfo.Id.NAME, property = "kind")
    @JsonSubTypes({
        @JsonSubTypes.Type(value = Aggregation.CountOf.class, name = "count"),
        @JsonSubTypes.Type(value = Aggregation.SumOf.class, name = "sum"),
        @JsonSubTypes.Type(value = Aggregation.AverageOf.class, name = "average"),
        @JsonSubTypes.Type(value = Aggregation.SmallestOf.class, name = "smallest"),
        @JsonSubTypes.Type(value = Aggregation.LargestOf.class, name = "largest"),
        @JsonSubTypes.Type(value = Aggregation.FirstOf.class, name = "first"),
        @JsonSubTypes.Type(value = Aggregation.LastOf.class, name = "last"),
        @JsonSubTypes.Type(value = Aggregation.FirstDay.class, name = "first-day"),
        @JsonSubTypes.Type(value = Aggregation.LastDay.class, name = "last-day"),
        @JsonSubTypes.Type(value = Aggregation.DaysSince.class, name = "days-since"),
        @JsonSubTypes.Type(value = Aggregation.DistinctOf.class, name = "distinct"),
        @JsonSubTypes.Type(value = Aggregation.Streak.class, name = "streak"),
        @JsonSubTypes.Type(value = Aggregation.ShareOf.class, name = "share")
    })
    public sealed interface Aggregation {
        /** How many events there are. */
        record CountOf() implements Aggregation {}

        /** Of the numbers that are there; 0 when none is. */
        record SumOf(String column) implements Aggregation {}

        /** Of the numbers that are there, rounded half up to six decimals; empty when none is. */
        record AverageOf(String column) implements Aggregation {}

        /** The smallest value of a column. */
        record SmallestOf(String column) implements Aggregation {}

        /** The largest value of a column. */
        record LargestOf(String column) implements Aggregation {}

        /** The column of the earliest event; of events at one moment, the one read first. */
        record FirstOf(String column) implements Aggregation {}

        /** The column of the latest event; of events at one moment, the one read last. */
        record LastOf(String column) implements Aggregation {}

        /** The day of the earliest event, in the zone. */
        record FirstDay() implements Aggregation {}

        /** The day of the latest event. */
        record LastDay() implements Aggregation {}

        /** Days from the day of the latest event to today, in the zone; 0 for an event of today. */
        record DaysSince() implements Aggregation {}

        /** How many different values a column has; empty ones are not counted. */
        record DistinctOf(String column) implements Aggregation {}

        /** The longest run of days, weeks (from Monday) or months, one after the other, with an event in each. */
        record Streak(Span span) implements Aggregation {}

        /** Per cent of the events that meet further tests, rounded half up to six decimals; empty without events. */
        record ShareOf(List<EventsOf.EventTest> tests) implements Aggregation {
            public ShareOf {
                tests = List.copyOf(tests);
            }
        }
    }

    /** What it is for a person without any such event. */
    public Value withoutEvents() {
        return aggregation instanceof Aggregation.CountOf
                        || aggregation instanceof Aggregation.SumOf
                        || aggregation instanceof Aggregation.DistinctOf
                        || aggregation instanceof Aggregation.Streak
                ? Value.number(0)
                : Value.EMPTY;
    }

    /** Columns of the events that it reads. */
    public Set<String> columns() {
        Set<String> columns = new TreeSet<>();
        of.where().forEach(test -> columns.add(test.column()));
        if (aggregation instanceof Aggregation.ShareOf share) {
            share.tests().forEach(test -> columns.add(test.column()));
        }
        aggregated().ifPresent(columns::add);
        return columns;
    }

    private Optional<String> aggregated() {
        if (aggregation instanceof Aggregation.SumOf one) {
            return Optional.of(one.column());
        }
        if (aggregation instanceof Aggregation.AverageOf one) {
            return Optional.of(one.column());
        }
        if (aggregation instanceof Aggregation.SmallestOf one) {
            return Optional.of(one.column());
        }
        if (aggregation instanceof Aggregation.LargestOf one) {
            return Optional.of(one.column());
        }
        if (aggregation instanceof Aggregation.FirstOf one) {
            return Optional.of(one.column());
        }
        if (aggregation instanceof Aggregation.LastOf one) {
            return Optional.of(one.column());
        }
        return aggregation instanceof Aggregation.DistinctOf one ? Optional.of(one.column()) : Optional.empty();
    }

    /** @throws AudienceFault if the events or a column are not known */
    public ColumnType type(Vocabulary words) {
        if (aggregation instanceof Aggregation.FirstDay || aggregation instanceof Aggregation.LastDay) {
            return ColumnType.DATE;
        }
        if (aggregation instanceof Aggregation.FirstOf first) {
            return words.column(of.events(), first.column());
        }
        if (aggregation instanceof Aggregation.LastOf last) {
            return words.column(of.events(), last.column());
        }
        return aggregation instanceof Aggregation.SumOf
                        || aggregation instanceof Aggregation.AverageOf
                        || aggregation instanceof Aggregation.SmallestOf
                        || aggregation instanceof Aggregation.LargestOf
                        || aggregation instanceof Aggregation.ShareOf
                ? ColumnType.DECIMAL
                : ColumnType.INTEGER;
    }

    /** True when time alone may change it: its window moves, or it counts days until today. */
    public boolean movesWithTime() {
        return aggregation instanceof Aggregation.DaysSince || window.moves();
    }
}

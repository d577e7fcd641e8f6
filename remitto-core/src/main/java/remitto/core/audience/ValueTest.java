package remitto.core.audience;

import com.fasterxml.jackson.annotation.JsonSubTypes;
import com.fasterxml.jackson.annotation.JsonTypeInfo;
import java.math.BigDecimal;
import java.time.LocalDate;
import java.util.List;
import java.util.Locale;
import java.util.Set;
import remitto.core.dataset.ColumnType;
import remitto.core.value.Numbers;
import remitto.core.value.Value;

/** A test of one value. An empty value passes {@link HasNone} and no other. */
@JsonTypeInfo(use = JsonTypeInfo.Id.NAME, property = "kind")
@JsonSubTypes({
    @JsonSubTypes.Type(value = ValueTest.OneOf.class, name = "one-of"),
    @JsonSubTypes.Type(value = ValueTest.Contains.class, name = "contains"),
    @JsonSubTypes.Type(value = ValueTest.BeginsWith.class, name = "begins"),
    @JsonSubTypes.Type(value = ValueTest.HasValue.class, name = "has-value"),
    @JsonSubTypes.Type(value = ValueTest.HasNone.class, name = "has-none"),
    @JsonSubTypes.Type(value = ValueTest.NumberIs.class, name = "number"),
    @JsonSubTypes.Type(value = ValueTest.NumberWithin.class, name = "number-within"),
    @JsonSubTypes.Type(value = ValueTest.DayWithin.class, name = "day-within"),
    @JsonSubTypes.Type(value = ValueTest.ComesRound.class, name = "comes-round"),
    @JsonSubTypes.Type(value = ValueTest.TruthIs.class, name = "truth")
})
public sealed interface ValueTest {
    int MOST_VALUES = 500;
    int LONGEST_TEXT = 1_000;

    boolean holds(Value value, Window.Now now);

    /** Types it can be asked of. */
    Set<ColumnType> types();

    /** @throws AudienceFault if it cannot be asked of such a value */
    default void check(String of, ColumnType type) {
        if (!types().contains(type)) {
            throw new AudienceFault(
                    "\"" + of + "\" is " + TypeWords.of(type) + "; this test is for " + TypeWords.of(types()) + ".");
        }
    }

    private static void bounded(BigDecimal number) {
        try {
            Numbers.bounded(number);
        } catch (NumberFormatException e) {
            throw new AudienceFault("The number has too many digits.");
        }
    }

    private static void bounded(String text) {
        if (text.length() > LONGEST_TEXT) {
            throw new AudienceFault("A text that is compared has at most " + LONGEST_TEXT + " characters.");
        }
    }

    /** Exactly one of these texts. */
    record OneOf(List<String> values) implements ValueTest {
        public OneOf {
            values = List.copyOf(values);
            if (values.isEmpty()) {
                throw new AudienceFault("Choose at least one value.");
            }
            if (values.size() > MOST_VALUES) {
                throw new AudienceFault("Choose at most " + MOST_VALUES + " values.");
            }
            values.forEach(ValueTest::bounded);
        }

        @Override
        public boolean holds(Value value, Window.Now now) {
            return value instanceof Value.Text text && !text.isEmpty() && values.contains(text.text());
        }

        @Override
        public Set<ColumnType> types() {
            return Set.of(ColumnType.TEXT);
        }
    }

    /** Contains a part, upper or lower case. */
    record Contains(String part) implements ValueTest {
        public Contains {
            bounded(part);
        }

        @Override
        public boolean holds(Value value, Window.Now now) {
            return value instanceof Value.Text text
                    && !text.isEmpty()
                    && text.text().toLowerCase(Locale.ROOT).contains(part.toLowerCase(Locale.ROOT));
        }

        @Override
        public Set<ColumnType> types() {
            return Set.of(ColumnType.TEXT);
        }
    }

    /** BeginsWith with a part, upper or lower case. */
    record BeginsWith(String part) implements ValueTest {
        public BeginsWith {
            bounded(part);
        }

        @Override
        public boolean holds(Value value, Window.Now now) {
            return value instanceof Value.Text text
                    && !text.isEmpty()
                    && text.text().toLowerCase(Locale.ROOT).startsWith(part.toLowerCase(Locale.ROOT));
        }

        @Override
        public Set<ColumnType> types() {
            return Set.of(ColumnType.TEXT);
        }
    }

    /** There is a value. */
    record HasValue() implements ValueTest {
        @Override
        public boolean holds(Value value, Window.Now now) {
            return !value.isEmpty();
        }

        @Override
        public Set<ColumnType> types() {
            return Set.of(ColumnType.values());
        }
    }

    /** There is no value. */
    record HasNone() implements ValueTest {
        @Override
        public boolean holds(Value value, Window.Now now) {
            return value.isEmpty();
        }

        @Override
        public Set<ColumnType> types() {
            return Set.of(ColumnType.values());
        }
    }

    /** How a number stands to another. "Over" and "under" leave the number itself out. */
    enum Relation {
        EXACTLY,
        OVER,
        AT_LEAST,
        UNDER,
        AT_MOST
    }

    /** The number compares with another. */
    record NumberIs(Relation relation, BigDecimal number) implements ValueTest {
        public NumberIs {
            bounded(number);
        }

        @Override
        public boolean holds(Value value, Window.Now now) {
            if (!(value instanceof Value.Decimal decimal)) {
                return false;
            }
            int order = decimal.number().compareTo(number);
            return switch (relation) {
                case EXACTLY -> order == 0;
                case OVER -> order > 0;
                case AT_LEAST -> order >= 0;
                case UNDER -> order < 0;
                case AT_MOST -> order <= 0;
            };
        }

        @Override
        public Set<ColumnType> types() {
            return Set.of(ColumnType.INTEGER, ColumnType.DECIMAL);
        }
    }

    /** Both ends belong to it. */
    record NumberWithin(BigDecimal least, BigDecimal most) implements ValueTest {
        public NumberWithin {
            bounded(least);
            bounded(most);
        }

        @Override
        public boolean holds(Value value, Window.Now now) {
            return value instanceof Value.Decimal decimal
                    && decimal.number().compareTo(least) >= 0
                    && decimal.number().compareTo(most) <= 0;
        }

        @Override
        public Set<ColumnType> types() {
            return Set.of(ColumnType.INTEGER, ColumnType.DECIMAL);
        }
    }

    /** A day or a moment within a window; a day as that day's beginning in the zone. */
    record DayWithin(Window window) implements ValueTest {
        @Override
        public boolean holds(Value value, Window.Now now) {
            Window.Interval interval = window.at(now);
            if (value instanceof Value.Day day) {
                return interval.contains(now.startOf(day.day()));
            }
            return value instanceof Value.Moment moment && interval.contains(moment.instant());
        }

        @Override
        public Set<ColumnType> types() {
            return Set.of(ColumnType.DATE, ColumnType.TIMESTAMP);
        }
    }

    /**
     * The anniversary of a day, such as a birthday, is today or on one of the next days. 29 February comes round on
     * 1 March in other years.
     */
    record ComesRound(int days) implements ValueTest {
        public ComesRound {
            if (days < 0 || days > 364) {
                throw new IllegalArgumentException("Days ahead: 0 to 364, not " + days);
            }
        }

        @Override
        public boolean holds(Value value, Window.Now now) {
            if (!(value instanceof Value.Day day)) {
                return false;
            }
            LocalDate today = now.today();
            for (int year : new int[] {today.getYear(), today.getYear() + 1}) {
                LocalDate round = LocalDate.of(year, day.day().getMonth(), 1)
                        .plusDays(day.day().getDayOfMonth() - 1L);
                if (!round.isBefore(today) && !round.isAfter(today.plusDays(days))) {
                    return true;
                }
            }
            return false;
        }

        @Override
        public Set<ColumnType> types() {
            return Set.of(ColumnType.DATE);
        }
    }

    /** The value is yes, or no. */
    record TruthIs(boolean truth) implements ValueTest {
        @Override
        public boolean holds(Value value, Window.Now now) {
            return value instanceof Value.Truth one && one.truth() == truth;
        }

        @Override
        public Set<ColumnType> types() {
            return Set.of(ColumnType.BOOLEAN);
        }
    }
}

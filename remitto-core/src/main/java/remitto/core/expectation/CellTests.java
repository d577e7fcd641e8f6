package remitto.core.expectation;

import com.google.re2j.Pattern;
import java.util.Locale;
import java.util.Optional;
import java.util.Set;
import org.jspecify.annotations.Nullable;
import remitto.core.dataset.ColumnType;
import remitto.core.value.Value;

/** Tests single cells by what is expected of their column. */
final class CellTests {
    private CellTests() {}

    /** Tells why a cell does not meet a demand. */
    @FunctionalInterface
    interface CellTest {
        /** @return what the cell is, in words that follow its column, with the value in quotes; empty if it meets the demand */
        Optional<String> fault(@Nullable String cell);

        /** A test of cells that hold something; all others meet it. */
        static CellTest ofPresent(CellTest test) {
            return cell -> isEmpty(cell) ? Optional.empty() : test.fault(cell);
        }
    }

    static boolean isEmpty(@Nullable String cell) {
        return cell == null || cell.isBlank();
    }

    /** @param shared values that more than one row holds, asked of the source before */
    static CellTest of(Demand demand, ColumnType type, Set<String> shared) {
        if (demand instanceof Demand.NeverEmpty) {
            return cell -> isEmpty(cell) ? Optional.of("is empty") : Optional.empty();
        }
        if (demand instanceof Demand.UniqueValues) {
            return CellTest.ofPresent(cell ->
                    shared.contains(cell) ? Optional.of("is \"" + cell + "\" in more than one row") : Optional.empty());
        }
        if (demand instanceof Demand.ListedValues of) {
            Set<String> values = Set.copyOf(of.values());
            return CellTest.ofPresent(cell -> values.contains(cell)
                    ? Optional.empty()
                    : Optional.of("is \"" + cell + "\", which is not expected"));
        }
        if (demand instanceof Demand.TextPattern matches) {
            Pattern pattern = Pattern.compile(matches.pattern());
            return CellTest.ofPresent(cell -> pattern.matches(String.valueOf(cell))
                    ? Optional.empty()
                    : Optional.of("is \"" + cell + "\", which does not match " + matches.pattern()));
        }
        if (demand instanceof Demand.ValueRange within) {
            return within(within, type);
        }
        throw new IllegalArgumentException(demand + " is not about cells");
    }

    private static CellTest within(Demand.ValueRange within, ColumnType type) {
        Optional<Value> least = within.least().map(type::read);
        Optional<Value> most = within.most().map(type::read);
        return CellTest.ofPresent(cell -> {
            Value value;
            try {
                value = type.read(String.valueOf(cell));
            } catch (ColumnType.UnreadableCell e) {
                return Optional.of("is \"" + cell + "\", which is not a " + kind(type));
            }
            if (least.isPresent() && compare(value, least.get()) < 0) {
                return Optional.of(
                        "is \"" + cell + "\", less than " + within.least().get());
            }
            return most.isPresent() && compare(value, most.get()) > 0
                    ? Optional.of(
                            "is \"" + cell + "\", more than " + within.most().get())
                    : Optional.empty();
        });
    }

    /** @throws IllegalArgumentException if the two are not of one kind that has an order */
    static int compare(Value one, Value other) {
        if (one instanceof Value.Decimal left && other instanceof Value.Decimal right) {
            return left.number().compareTo(right.number());
        }
        if (one instanceof Value.Day left && other instanceof Value.Day right) {
            return left.day().compareTo(right.day());
        }
        if (one instanceof Value.Moment left && other instanceof Value.Moment right) {
            return left.instant().compareTo(right.instant());
        }
        throw new IllegalArgumentException(one + " and " + other + " have no order");
    }

    static String kind(ColumnType type) {
        return switch (type) {
            case INTEGER, DECIMAL -> "number";
            case TIMESTAMP -> "time";
            default -> type.name().toLowerCase(Locale.ROOT);
        };
    }
}

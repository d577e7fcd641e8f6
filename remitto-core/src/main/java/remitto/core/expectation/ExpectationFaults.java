package remitto.core.expectation;

import com.google.re2j.Pattern;
import com.google.re2j.PatternSyntaxException;
import java.util.ArrayList;
import java.util.HashSet;
import java.util.List;
import java.util.Optional;
import java.util.Set;
import remitto.core.dataset.Column;
import remitto.core.dataset.ColumnRole;
import remitto.core.dataset.ColumnType;
import remitto.core.dataset.Columns;
import remitto.core.value.Value;

/** What is wrong with expectations, in sentences. */
public final class ExpectationFaults {
    private static final int MOST = 100;
    private static final int MOST_VALUES = 1_000;
    private static final int MOST_PATTERN = 500;
    private static final int MOST_HOURS = 24 * 366;

    private ExpectationFaults() {}

    public static List<String> of(List<Expectation> expectations, Columns columns) {
        List<String> faults = new ArrayList<>();
        if (expectations.size() > MOST) {
            faults.add("A dataset has at most " + MOST + " expectations.");
        }
        Set<String> said = new HashSet<>();
        for (Expectation one : expectations) {
            fault(one, columns).ifPresent(faults::add);
            if (!said.add(one.sentence())) {
                faults.add("Duplicate expectation: " + one.sentence() + ".");
            }
        }
        return faults;
    }

    private static Optional<String> fault(Expectation one, Columns columns) {
        if (!one.demand().isAboutCells()) {
            return ofDataset(one, columns);
        }
        Optional<Column> column = one.column().flatMap(columns::find);
        if (column.isEmpty()) {
            return Optional.of(one.column()
                    .map(name -> "The dataset has no column " + name + ", of which something is expected.")
                    .orElse("Choose the column that " + one.demand().words() + "."));
        }
        return ofCells(one.demand(), column.get());
    }

    private static Optional<String> ofDataset(Expectation one, Columns columns) {
        if (one.column().isPresent()) {
            return Optional.of("An expectation of rows or freshness is about the dataset, not about a column.");
        }
        if (one.response() == Response.HOLD_ROWS) {
            return Optional.of("Rows cannot be held for an expectation of the whole dataset. Choose to stop routes.");
        }
        if (one.demand() instanceof Demand.RowCount rows) {
            return rowCount(rows);
        }
        Demand.FreshRows fresh = (Demand.FreshRows) one.demand();
        if (fresh.hours() < 1 || fresh.hours() > MOST_HOURS) {
            return Optional.of("The age of the newest row is from 1 to " + MOST_HOURS + " hours.");
        }
        return columns.list().stream().anyMatch(column -> column.role() == ColumnRole.UPDATED_AT)
                ? Optional.empty()
                : Optional.of("Freshness needs a column with the role updated at.");
    }

    private static Optional<String> rowCount(Demand.RowCount rows) {
        if (rows.least().isEmpty()
                && rows.most().isEmpty()
                && rows.changePercent().isEmpty()) {
            return Optional.of("Enter how many rows are expected.");
        }
        if (rows.least().filter(least -> least < 0).isPresent()
                || rows.most().filter(most -> most < rows.least().orElse(0L)).isPresent()) {
            return Optional.of("The most rows expected are fewer than the least.");
        }
        return rows.changePercent()
                        .filter(percent -> percent < 1 || percent > 1_000)
                        .isPresent()
                ? Optional.of("A row count changes by 1 to 1000 percent.")
                : Optional.empty();
    }

    private static Optional<String> ofCells(Demand demand, Column column) {
        if (demand instanceof Demand.ListedValues of) {
            return of.values().isEmpty() || of.values().size() > MOST_VALUES
                    ? Optional.of("List 1 to " + MOST_VALUES + " values for " + column.name() + ".")
                    : Optional.empty();
        }
        if (demand instanceof Demand.TextPattern matches) {
            return pattern(matches.pattern(), column.name());
        }
        return demand instanceof Demand.ValueRange within ? within(within, column) : Optional.empty();
    }

    private static Optional<String> pattern(String pattern, String column) {
        if (pattern.isBlank() || pattern.length() > MOST_PATTERN) {
            return Optional.of("The pattern for " + column + " has 1 to " + MOST_PATTERN + " characters.");
        }
        try {
            Pattern.compile(pattern);
            return Optional.empty();
        } catch (PatternSyntaxException e) {
            return Optional.of("The pattern for " + column + " cannot be read: " + e.getDescription() + ".");
        }
    }

    private static Optional<String> within(Demand.ValueRange within, Column column) {
        if (column.type() == ColumnType.TEXT || column.type() == ColumnType.BOOLEAN) {
            return Optional.of(column.name() + " is not a number, date or time. Choose another expectation.");
        }
        if (within.least().isEmpty() && within.most().isEmpty()) {
            return Optional.of("Enter the least or the greatest value of " + column.name() + ".");
        }
        for (Optional<String> bound : List.of(within.least(), within.most())) {
            if (bound.isPresent() && read(column.type(), bound.get()).isEmpty()) {
                return Optional.of("\"" + bound.get() + "\" is not a " + CellTests.kind(column.type()) + ". Column "
                        + column.name() + " holds " + CellTests.kind(column.type()) + "s.");
            }
        }
        boolean reversed = within.least().isPresent()
                && within.most().isPresent()
                && CellTests.compare(
                                column.type().read(within.least().get()),
                                column.type().read(within.most().get()))
                        > 0;
        return reversed
                ? Optional.of("The greatest value of " + column.name() + " is less than the least.")
                : Optional.empty();
    }

    private static Optional<Value> read(ColumnType type, String text) {
        try {
            return Optional.of(type.read(text));
        } catch (ColumnType.UnreadableCell e) {
            return Optional.empty();
        }
    }
}

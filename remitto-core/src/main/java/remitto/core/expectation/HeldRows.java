package remitto.core.expectation;

import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import org.jspecify.annotations.Nullable;
import remitto.core.dataset.ColumnRole;
import remitto.core.dataset.Columns;
import remitto.core.dataset.Row;

/** Tells which rows are held since they do not meet what is expected of them. Safe to share between threads. */
public final class HeldRows {
    /** No row is held. */
    public static final HeldRows NONE = new HeldRows(List.of());

    private record Held(int at, String column, CellTests.CellTest test, Optional<String> instead) {}

    /**
     * Why a row is held.
     *
     * @param reason in words, with the value in quotes; without it where the column is sensitive
     */
    public record Reason(String column, String reason) {}

    private final List<Held> tests;

    private HeldRows(List<Held> tests) {
        this.tests = tests;
    }

    /** @param columns in the order of cells */
    public static HeldRows of(List<Expectation> expectations, Columns columns, SharedValues shared) {
        List<Held> tests = new ArrayList<>();
        for (Expectation one : expectations) {
            if (one.response() == Response.HOLD_ROWS && one.column().isPresent()) {
                String name = one.column().get();
                columns.find(name)
                        .ifPresent(column -> tests.add(new Held(
                                columns.position(name).orElseThrow(),
                                name,
                                CellTests.of(one.demand(), column.type(), shared.of(name)),
                                column.role() == ColumnRole.SENSITIVE
                                        ? Optional.of("The value does not meet the expectation that " + one.sentence())
                                        : Optional.empty())));
            }
        }
        return tests.isEmpty() ? NONE : new HeldRows(tests);
    }

    public boolean isNone() {
        return tests.isEmpty();
    }

    /** @return the first thing that the row does not meet; empty if it is not held */
    public Optional<Reason> of(Row row) {
        return tests.isEmpty() ? Optional.empty() : of(row.cells());
    }

    private Optional<Reason> of(@Nullable String[] cells) {
        for (Held one : tests) {
            Optional<String> fault = one.test().fault(cells[one.at()]);
            if (fault.isPresent()) {
                return Optional.of(
                        new Reason(one.column(), one.instead().orElseGet(() -> one.column() + " " + fault.get())));
            }
        }
        return Optional.empty();
    }
}

package remitto.core.dataset;

import java.util.Map;
import java.util.Optional;
import org.jspecify.annotations.Nullable;
import remitto.core.value.Value;

/**
 * One record as read: the text of each cell, turned into a typed value only when a rule asks. A cell that is
 * SQL null stays null inside, so that a million unchanged rows cost no wrapper each.
 */
public final class Row {
    private final Columns columns;
    private final @Nullable String[] cells;

    private Row(Columns columns, @Nullable String[] cells) {
        this.columns = columns;
        this.cells = cells;
    }

    /** @param cells one per column, in the order of the columns; null for SQL null; copied */
    public static Row of(Columns columns, @Nullable String[] cells) {
        if (cells.length != columns.list().size()) {
            throw new IllegalArgumentException(
                    cells.length + " cells for " + columns.list().size() + " columns");
        }
        return new Row(columns, cells.clone());
    }

    /** A row from named texts; a column that is not named is empty. */
    public static Row of(Columns columns, Map<String, String> texts) {
        String[] cells =
                columns.list().stream().map(column -> texts.get(column.name())).toArray(String[]::new);
        return new Row(columns, cells);
    }

    public Columns columns() {
        return columns;
    }

    /** The cells in the order of the columns; null for SQL null. A copy. */
    public @Nullable String[] cells() {
        return cells.clone();
    }

    /** The text of a cell as the source wrote it. */
    public Optional<String> cell(String column) {
        var position = columns.position(column);
        return position.isEmpty() ? Optional.empty() : Optional.ofNullable(cells[position.getAsInt()]);
    }

    /**
     * The typed value of a column; missing if there is no such column.
     *
     * @throws ColumnType.UnreadableCell if the cell is not of the column's type
     */
    public Value value(String column) {
        var position = columns.position(column);
        if (position.isEmpty()) {
            return Value.MISSING;
        }
        int at = position.getAsInt();
        String cell = cells[at];
        return cell == null ? Value.EMPTY : columns.list().get(at).type().read(cell);
    }

    /**
     * The typed value of the column at a place, for those who looked it up once for many rows.
     *
     * @throws ColumnType.UnreadableCell if the cell is not of the column's type
     */
    public Value valueAt(int position) {
        String cell = cells[position];
        return cell == null ? Value.EMPTY : columns.list().get(position).type().read(cell);
    }

    /** The record's key as text: the key columns joined by a tab; empty if any of them is empty or blank. */
    public Optional<String> key() {
        return RecordKey.of(columns.keyPositions(), cells);
    }
}

package remitto.connect.table;

import java.sql.Array;
import java.sql.Connection;
import java.sql.PreparedStatement;
import java.sql.ResultSet;
import java.sql.SQLException;
import java.util.ArrayList;
import java.util.List;
import remitto.core.dataset.ColumnType;
import remitto.core.destination.Field;
import remitto.core.value.Value;

/** Values between fields and cells of a table. */
final class Cells {
    private Cells() {}

    static Value read(ResultSet row, Field field) throws SQLException {
        String text = row.getString(field.name());
        if (text == null) {
            return Value.EMPTY;
        }
        try {
            return switch (field.kind()) {
                case INTEGER, DECIMAL -> ColumnType.DECIMAL.read(text);
                case BOOLEAN -> ColumnType.BOOLEAN.read(text);
                case DATE -> ColumnType.DATE.read(text);
                case TIMESTAMP -> ColumnType.TIMESTAMP.read(text);
                case LIST -> items(row.getArray(field.name()));
                default -> new Value.Text(text);
            };
        } catch (ColumnType.UnreadableCell e) {
            return new Value.Text(text);
        }
    }

    private static Value items(Array array) throws SQLException {
        List<Value> items = new ArrayList<>();
        for (Object item : (Object[]) array.getArray()) {
            items.add(item == null ? Value.EMPTY : new Value.Text(item.toString()));
        }
        return new Value.Items(items);
    }

    /** A text that the statement casts to the column's type. */
    static void write(PreparedStatement statement, int at, Value value, Connection connection) throws SQLException {
        if (value.isEmpty()
                && !(value instanceof Value.Text text && !text.text().isEmpty())) {
            statement.setString(at, null);
        } else if (value instanceof Value.Items items) {
            statement.setArray(
                    at,
                    connection.createArrayOf(
                            "text", items.items().stream().map(Value::display).toArray()));
        } else {
            statement.setString(at, value.display());
        }
    }
}

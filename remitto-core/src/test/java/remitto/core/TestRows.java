package remitto.core;

import java.util.Arrays;
import java.util.Map;
import remitto.core.dataset.Column;
import remitto.core.dataset.ColumnRole;
import remitto.core.dataset.ColumnType;
import remitto.core.dataset.Columns;
import remitto.core.dataset.Row;

/** Small datasets for tests. A column is spelled {@code name:TYPE} or {@code name:TYPE:ROLE}. */
public final class TestRows {
    private TestRows() {}

    public static Columns columns(String... spelled) {
        return new Columns(Arrays.stream(spelled)
                .map(text -> {
                    String[] parts = text.split(":");
                    return new Column(
                            parts[0],
                            ColumnType.valueOf(parts[1]),
                            parts.length > 2 ? ColumnRole.valueOf(parts[2]) : ColumnRole.ATTRIBUTE);
                })
                .toList());
    }

    public static Row row(Columns columns, Map<String, String> cells) {
        return Row.of(columns, cells);
    }

    public static Row empty() {
        return Row.of(columns("id:TEXT:KEY"), Map.of());
    }
}

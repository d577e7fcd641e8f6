package remitto.core.dataset;

import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.OptionalInt;

/** The columns of a dataset in reading order; found by name, never addressed by position outside. */
public final class Columns {
    private final List<Column> list;
    private final Map<String, Integer> positions = new HashMap<>();

    /** @throws IllegalArgumentException if two columns share a name */
    public Columns(List<Column> columns) {
        this.list = List.copyOf(columns);
        for (int i = 0; i < list.size(); i++) {
            if (positions.put(list.get(i).name(), i) != null) {
                throw new IllegalArgumentException(
                        "Two columns are called " + list.get(i).name());
            }
        }
    }

    public List<Column> list() {
        return list;
    }

    public OptionalInt position(String name) {
        Integer position = positions.get(name);
        return position == null ? OptionalInt.empty() : OptionalInt.of(position);
    }

    public Optional<Column> find(String name) {
        return Optional.ofNullable(positions.get(name)).map(list::get);
    }

    /** Names of the key columns, in reading order. */
    public List<String> keys() {
        return list.stream()
                .filter(column -> column.role() == ColumnRole.KEY)
                .map(Column::name)
                .toList();
    }

    /** Positions of the key columns, in reading order. */
    public int[] keyPositions() {
        return keys().stream().mapToInt(positions::get).toArray();
    }
}

package remitto.core.dataset;

import java.util.Optional;
import org.jspecify.annotations.Nullable;

/** A record's key as text: the texts of its key columns in reading order, joined by a tab. */
public final class RecordKey {
    private RecordKey() {}

    /** Empty if there is no key column, or any of the key cells is empty or blank. */
    public static Optional<String> of(int[] keyPositions, @Nullable String[] cells) {
        if (keyPositions.length == 1) {
            String only = cells[keyPositions[0]];
            return only == null || only.isBlank() ? Optional.empty() : Optional.of(only);
        }
        StringBuilder key = new StringBuilder();
        for (int position : keyPositions) {
            String cell = cells[position];
            if (cell == null || cell.isBlank()) {
                return Optional.empty();
            }
            key.append(key.isEmpty() ? "" : "\t").append(cell);
        }
        return key.isEmpty() ? Optional.empty() : Optional.of(key.toString());
    }
}

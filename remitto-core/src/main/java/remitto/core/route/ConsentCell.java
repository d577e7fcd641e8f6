package remitto.core.route;

import remitto.core.dataset.ColumnType;
import remitto.core.dataset.Row;
import remitto.core.fieldrule.FieldConsent;
import remitto.core.value.Value;

/** What a consent column says: yes, anything else that was said, or nothing. */
final class ConsentCell {
    private ConsentCell() {}

    static FieldConsent.Said read(Row row, String column) {
        if (row.cell(column).filter(cell -> !cell.isBlank()).isEmpty()) {
            return FieldConsent.Said.NOTHING;
        }
        return isYes(row, column) ? FieldConsent.Said.YES : FieldConsent.Said.NO;
    }

    private static boolean isYes(Row row, String column) {
        try {
            Value value = row.value(column);
            return value instanceof Value.Truth truth
                    ? truth.truth()
                    : value.display().strip().equalsIgnoreCase("yes");
        } catch (ColumnType.UnreadableCell e) {
            return false;
        }
    }
}

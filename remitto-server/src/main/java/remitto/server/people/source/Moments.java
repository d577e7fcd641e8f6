package remitto.server.people.source;

import java.time.Instant;
import java.time.ZoneOffset;
import java.util.Optional;
import remitto.core.dataset.ColumnType;
import remitto.core.value.Value;

/** Times as warehouses spell them. */
public final class Moments {
    private Moments() {}

    /** A time, or the beginning of a day, in UTC where no zone is told; empty when it is neither. */
    public static Optional<Instant> of(String cell) {
        if (cell.isBlank()) {
            return Optional.empty();
        }
        try {
            if (ColumnType.TIMESTAMP.read(cell) instanceof Value.Moment moment) {
                return Optional.of(moment.instant());
            }
        } catch (ColumnType.UnreadableCell e) {
            return day(cell);
        }
        return Optional.empty();
    }

    private static Optional<Instant> day(String cell) {
        try {
            return ColumnType.DATE.read(cell) instanceof Value.Day day
                    ? Optional.of(day.day().atStartOfDay(ZoneOffset.UTC).toInstant())
                    : Optional.empty();
        } catch (ColumnType.UnreadableCell e) {
            return Optional.empty();
        }
    }
}

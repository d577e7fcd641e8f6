package remitto.core.dataset;

import java.math.BigDecimal;
import java.time.Instant;
import java.time.LocalDate;
import java.time.LocalDateTime;
import java.time.OffsetDateTime;
import java.time.ZoneOffset;
import java.time.format.DateTimeFormatter;
import java.time.format.DateTimeFormatterBuilder;
import java.time.temporal.ChronoField;
import java.util.Locale;
import remitto.core.value.SqlTime;
import remitto.core.value.Value;

/** What a dataset column holds. Cells travel as the text the source wrote and are read only when needed. */
public enum ColumnType {
    TEXT,
    INTEGER,
    DECIMAL,
    BOOLEAN,
    DATE,
    /** A point in time; a timestamp without a zone is read as UTC. */
    TIMESTAMP;

    private static final DateTimeFormatter ZONED = new DateTimeFormatterBuilder()
            .append(DateTimeFormatter.ISO_LOCAL_DATE)
            .appendLiteral(' ')
            .appendPattern("HH:mm:ss")
            .appendFraction(ChronoField.NANO_OF_SECOND, 0, 9, true)
            .appendPattern("[XXX][XX][X]")
            .toFormatter();

    /**
     * Reads a cell that is present.
     *
     * @throws UnreadableCell if the text is not of this type
     */
    public Value read(String cell) {
        try {
            return switch (this) {
                case TEXT -> new Value.Text(cell);
                case INTEGER, DECIMAL -> new Value.Decimal(new BigDecimal(cell.strip()));
                case BOOLEAN -> new Value.Truth(readTruth(cell.strip().toLowerCase(Locale.ROOT)));
                case DATE -> new Value.Day(SqlTime.day(cell).orElseGet(() -> LocalDate.parse(cell.strip())));
                case TIMESTAMP -> new Value.Moment(SqlTime.moment(cell).orElseGet(() -> readInstant(cell.strip())));
            };
        } catch (RuntimeException e) {
            throw new UnreadableCell(cell, this, e);
        }
    }

    private static boolean readTruth(String cell) {
        return switch (cell) {
            case "t", "true", "1" -> true;
            case "f", "false", "0" -> false;
            default -> throw new IllegalArgumentException("not a truth value");
        };
    }

    private static Instant readInstant(String cell) {
        if (cell.length() > 10 && cell.charAt(10) == 'T') {
            return OffsetDateTime.parse(cell).toInstant();
        }
        var parsed = ZONED.parseBest(cell, OffsetDateTime::from, LocalDateTime::from);
        return parsed instanceof OffsetDateTime zoned
                ? zoned.toInstant()
                : ((LocalDateTime) parsed).toInstant(ZoneOffset.UTC);
    }

    /** A cell whose text is not of its column's type. */
    public static final class UnreadableCell extends RuntimeException {
        UnreadableCell(String cell, ColumnType type, RuntimeException cause) {
            super("\"" + cell + "\" is not " + type.name().toLowerCase(Locale.ROOT), cause);
        }
    }
}

package remitto.core.columnprofile;

import java.math.BigDecimal;
import java.math.MathContext;
import java.math.RoundingMode;
import java.time.Instant;
import java.time.LocalDate;
import java.time.ZoneOffset;
import java.time.format.DateTimeFormatter;
import remitto.core.dataset.ColumnType;
import remitto.core.value.Value;

/** Numbers, dates and times as places on a line, and back as text. */
final class Scale {
    private static final int DIGITS = 6;
    private static final int LONG_DIGITS = 18;
    private static final DateTimeFormatter TIME = DateTimeFormatter.ofPattern("uuuu-MM-dd HH:mm:ss");

    private Scale() {}

    static boolean has(ColumnType type) {
        return type != ColumnType.TEXT && type != ColumnType.BOOLEAN;
    }

    /** Where a cell lies: a number, days since 1970, or seconds since then; not a number if it cannot be read. */
    static double place(ColumnType type, String cell) {
        if ((type == ColumnType.INTEGER || type == ColumnType.DECIMAL) && isPlain(cell)) {
            return Double.parseDouble(cell);
        }
        try {
            Value value = type.read(cell);
            if (value instanceof Value.Decimal number) {
                return number.number().doubleValue();
            }
            if (value instanceof Value.Day day) {
                return day.day().toEpochDay();
            }
            return value instanceof Value.Moment moment ? moment.instant().getEpochSecond() : Double.NaN;
        } catch (ColumnType.UnreadableCell e) {
            return Double.NaN;
        }
    }

    /** Whether it is made of few digits with at most one point between them, as nearly all numbers are; others are read with more care. */
    private static boolean isPlain(String cell) {
        if (cell.isEmpty() || cell.length() > LONG_DIGITS) {
            return false;
        }
        int points = 0;
        for (int i = 0; i < cell.length(); i++) {
            char at = cell.charAt(i);
            if (at == '.' && i > 0) {
                points++;
            } else if (at < '0' || at > '9') {
                return false;
            }
        }
        return points <= 1;
    }

    /** Numbers with six digits, dates, and times in UTC to the second. */
    static String text(ColumnType type, double place) {
        return switch (type) {
            case DATE -> LocalDate.ofEpochDay((long) Math.floor(place)).toString();
            case TIMESTAMP ->
                Instant.ofEpochSecond((long) Math.floor(place))
                        .atOffset(ZoneOffset.UTC)
                        .format(TIME);
            default -> number(place);
        };
    }

    private static String number(double place) {
        BigDecimal rounded = new BigDecimal(place, new MathContext(DIGITS, RoundingMode.HALF_UP));
        return rounded.signum() == 0 ? "0" : rounded.stripTrailingZeros().toPlainString();
    }
}

package remitto.connect.rowfile;

import java.math.BigDecimal;
import java.math.RoundingMode;
import java.time.LocalDate;
import java.time.LocalDateTime;
import java.time.LocalTime;
import java.time.format.DateTimeFormatter;
import java.util.Locale;
import java.util.Optional;
import java.util.regex.Pattern;

/**
 * Numbers of a workbook as texts. Days are numbers there, told apart by how a cell is formatted (ECMA-376, part 1, sections 18.8.30,
 * number formats, and 18.17.4, dates and times).
 */
final class CellTexts {
    private static final DateTimeFormatter TIME = DateTimeFormatter.ofPattern("HH:mm:ss", Locale.ROOT);
    private static final BigDecimal SECONDS = BigDecimal.valueOf(86_400);
    private static final LocalDate BEGINNING = LocalDate.of(1899, 12, 31);
    private static final LocalDate BEGINNING_1904 = LocalDate.of(1904, 1, 1);
    /** The 29th of February 1900, which there was not, and which workbooks count. */
    private static final int NO_DAY = 60;

    private static final long LAST_DAY = 2_958_465;
    private static final Pattern ASIDE = Pattern.compile("\"[^\"]*\"|\\\\.|_.|\\*.|\\[(?![hms]+\\])[^\\]]*\\]");
    private static final Pattern OF_TIME = Pattern.compile("[ymdhs]");

    private CellTexts() {}

    /** The number without an exponent, and without zeros that say nothing. */
    static String number(BigDecimal number) {
        BigDecimal plain = number.stripTrailingZeros();
        return (plain.scale() < 0 ? plain.setScale(0) : plain).toPlainString();
    }

    /** @param format of a cell's numbers, or its number among those that every workbook has */
    static boolean isTime(int id, String format) {
        if (id >= 14 && id <= 22 || id >= 27 && id <= 36 || id >= 45 && id <= 47 || id >= 50 && id <= 58) {
            return true;
        }
        String first = format.split(";", 2)[0];
        String left = ASIDE.matcher(first).replaceAll("");
        return !left.toLowerCase(Locale.ROOT).contains("general")
                && OF_TIME.matcher(left.toLowerCase(Locale.ROOT)).find();
    }

    /**
     * A day, a time of day, or both, in the spelling of ISO 8601 with a space between the two.
     *
     * @param since1904 whether days are counted from 1904
     * @return empty if it is no day that a workbook knows
     */
    static Optional<String> time(BigDecimal serial, boolean since1904) {
        long days = serial.setScale(0, RoundingMode.FLOOR).longValue();
        long seconds = serial.subtract(BigDecimal.valueOf(days))
                .multiply(SECONDS)
                .setScale(0, RoundingMode.HALF_UP)
                .longValue();
        if (days < 0 || days > LAST_DAY || !since1904 && days == NO_DAY) {
            return Optional.empty();
        }
        if (days == 0 && !since1904) {
            return Optional.of(LocalTime.ofSecondOfDay(seconds % 86_400).format(TIME));
        }
        LocalDate day = since1904 ? BEGINNING_1904.plusDays(days) : BEGINNING.plusDays(days > NO_DAY ? days - 1 : days);
        LocalDateTime moment = day.atStartOfDay().plusSeconds(seconds);
        return Optional.of(
                seconds == 0
                        ? day.toString()
                        : moment.toLocalDate() + " " + moment.toLocalTime().format(TIME));
    }
}

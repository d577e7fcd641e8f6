package remitto.core.value;

import java.time.DateTimeException;
import java.time.Instant;
import java.time.LocalDate;
import java.time.LocalDateTime;
import java.time.ZoneOffset;
import java.util.Optional;

/**
 * Reads dates and times in the one spelling that warehouses write by the million, without a general parser: {@code
 * 2026-11-25} and {@code 2026-11-25 10:00:00[.123456][+01[:30]]}. Whatever is spelled otherwise is left to others.
 */
public final class SqlTime {
    private static final int DAY = 10;
    private static final int SECONDS = 19;
    private static final int MOST_DIGITS = 9;

    private SqlTime() {}

    public static Optional<LocalDate> day(String text) {
        return text.length() == DAY ? date(text) : Optional.empty();
    }

    public static Optional<Instant> moment(String text) {
        if (text.length() < SECONDS || text.charAt(DAY) != ' ' || text.charAt(13) != ':' || text.charAt(16) != ':') {
            return Optional.empty();
        }
        Optional<LocalDate> date = date(text);
        int hour = two(text, 11);
        int minute = two(text, 14);
        int second = two(text, 17);
        int at = SECONDS;
        int nanos = 0;
        if (at < text.length() && text.charAt(at) == '.') {
            int end = ++at;
            while (end < text.length() && end - at < MOST_DIGITS && isDigit(text.charAt(end))) {
                nanos = nanos * 10 + text.charAt(end++) - '0';
            }
            for (int i = end - at; i < MOST_DIGITS; i++) {
                nanos *= 10;
            }
            at = end;
        }
        int offset = offset(text, at);
        if (date.isEmpty() || hour < 0 || minute < 0 || second < 0 || offset == Integer.MIN_VALUE) {
            return Optional.empty();
        }
        try {
            return Optional.of(LocalDateTime.of(date.get(), java.time.LocalTime.of(hour, minute, second, nanos))
                    .toInstant(ZoneOffset.ofTotalSeconds(offset)));
        } catch (DateTimeException e) {
            return Optional.empty();
        }
    }

    /** Seconds ahead of UTC; the smallest number when it is not spelled as expected. */
    private static int offset(String text, int at) {
        int left = text.length() - at;
        if (left == 0) {
            return 0;
        }
        char sign = text.charAt(at);
        boolean shape = left == 3 || left == 6 && text.charAt(at + 3) == ':';
        if (sign != '+' && sign != '-' || !shape) {
            return Integer.MIN_VALUE;
        }
        int hours = two(text, at + 1);
        int minutes = left == 6 ? two(text, at + 4) : 0;
        if (hours < 0 || minutes < 0) {
            return Integer.MIN_VALUE;
        }
        int seconds = hours * 3600 + minutes * 60;
        return sign == '-' ? -seconds : seconds;
    }

    private static Optional<LocalDate> date(String text) {
        int century = two(text, 0);
        int year = two(text, 2);
        int month = two(text, 5);
        int day = two(text, 8);
        if (century < 0 || year < 0 || month < 0 || day < 0 || text.charAt(4) != '-' || text.charAt(7) != '-') {
            return Optional.empty();
        }
        try {
            return Optional.of(LocalDate.of(century * 100 + year, month, day));
        } catch (DateTimeException e) {
            return Optional.empty();
        }
    }

    private static int two(String text, int at) {
        char tens = text.charAt(at);
        char ones = text.charAt(at + 1);
        return isDigit(tens) && isDigit(ones) ? (tens - '0') * 10 + ones - '0' : -1;
    }

    private static boolean isDigit(char c) {
        return c >= '0' && c <= '9';
    }
}

package remitto.core.shaper;

import java.time.DateTimeException;
import java.time.LocalDate;
import java.time.ZoneId;
import java.time.format.DateTimeFormatter;
import java.time.format.ResolverStyle;
import java.util.Locale;
import remitto.core.dataset.Row;
import remitto.core.value.Value;

/**
 * A date out of a date, a point in time or a text.
 *
 * @param pattern how a text spells it (java.time pattern, for example {@code dd.MM.uuuu}); blank for ISO 8601
 * @param zone zone (tz database) in which a point in time is turned into its date
 */
public record ToDate(String pattern, String zone) implements PureShaper {
    @Override
    public String title() {
        return "Date" + (pattern.isBlank() ? "" : ", " + pattern);
    }

    @Override
    public Step ready(Stores stores) {
        ZoneId where = ZoneId.of(zone);
        DateTimeFormatter how = format();
        return (value, row) -> shape(value, where, how);
    }

    @Override
    public Shaped apply(Value value, Row row) {
        return ready(Stores.NONE).apply(value, row);
    }

    private DateTimeFormatter format() {
        return pattern.isBlank()
                ? DateTimeFormatter.ISO_LOCAL_DATE
                : DateTimeFormatter.ofPattern(pattern, Locale.ROOT).withResolverStyle(ResolverStyle.STRICT);
    }

    private Shaped shape(Value value, ZoneId where, DateTimeFormatter how) {
        if (value.isEmpty() || value instanceof Value.Day) {
            return new Shaped.Usable(value);
        }
        if (value instanceof Value.Moment moment) {
            return new Shaped.Usable(new Value.Day(LocalDate.ofInstant(moment.instant(), where)));
        }
        try {
            return new Shaped.Usable(
                    new Value.Day(LocalDate.parse(value.display().strip(), how)));
        } catch (DateTimeException e) {
            return new Shaped.Unusable("\"" + value.display() + "\" is not a date"
                    + (pattern.isBlank() ? " (year-month-day)" : " spelled " + pattern));
        }
    }
}

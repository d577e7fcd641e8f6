package remitto.core.shaper;

import java.time.ZoneId;
import java.time.format.DateTimeFormatter;
import java.util.Locale;
import remitto.core.dataset.Row;
import remitto.core.value.Value;

/**
 * A date or point in time as text.
 *
 * @param pattern how it is spelled (java.time pattern)
 * @param zone zone (tz database) a point in time is told in
 * @param language of the names of months and days (BCP 47)
 */
public record SpellTime(String pattern, String zone, String language) implements PureShaper {
    @Override
    public String title() {
        return "Spelled " + pattern;
    }

    @Override
    public Shaped apply(Value value, Row row) {
        DateTimeFormatter format = DateTimeFormatter.ofPattern(pattern, Locale.forLanguageTag(language));
        try {
            if (value instanceof Value.Day day) {
                return new Shaped.Usable(new Value.Text(format.format(day.day().atStartOfDay(ZoneId.of(zone)))));
            }
            if (value instanceof Value.Moment moment) {
                return new Shaped.Usable(
                        new Value.Text(format.format(moment.instant().atZone(ZoneId.of(zone)))));
            }
        } catch (RuntimeException e) {
            return new Shaped.Unusable("\"" + value.display() + "\" cannot be spelled " + pattern);
        }
        return value.isEmpty()
                ? new Shaped.Usable(value)
                : new Shaped.Unusable("\"" + value.display() + "\" is neither a date nor a point in time");
    }
}

package remitto.core.shaper;

import java.time.Instant;
import java.time.LocalDateTime;
import java.time.OffsetDateTime;
import java.time.ZoneId;
import java.time.ZoneOffset;
import java.time.format.DateTimeFormatter;
import java.time.format.ResolverStyle;
import java.util.List;
import java.util.Locale;
import remitto.core.dataset.Row;
import remitto.core.value.Value;

/**
 * A point in time out of a text, a date (its first moment) or a point in time. A local time that the clocks skip in
 * the zone, or that they show twice, is unusable rather than guessed.
 *
 * @param pattern how a text spells it (java.time pattern); blank for ISO 8601, with a T or a space
 * @param zone zone (tz database) of a text that names none
 */
public record ToMoment(String pattern, String zone) implements PureShaper {
    @Override
    public String title() {
        return "Point in time, " + zone + (pattern.isBlank() ? "" : ", " + pattern);
    }

    @Override
    public Shaped apply(Value value, Row row) {
        if (value.isEmpty() || value instanceof Value.Moment) {
            return new Shaped.Usable(value);
        }
        if (value instanceof Value.Day day) {
            return new Shaped.Usable(
                    new Value.Moment(day.day().atStartOfDay(ZoneId.of(zone)).toInstant()));
        }
        String text = Trim.strip(value.display());
        try {
            return pattern.isBlank()
                    ? iso(text)
                    : local(
                            LocalDateTime.parse(
                                    text,
                                    DateTimeFormatter.ofPattern(pattern, Locale.ROOT)
                                            .withResolverStyle(ResolverStyle.STRICT)),
                            text);
        } catch (RuntimeException e) {
            return new Shaped.Unusable("\"" + value.display() + "\" is not a date and time"
                    + (pattern.isBlank() ? " (ISO 8601)" : " spelled " + pattern));
        }
    }

    private Shaped iso(String text) {
        String joined =
                text.length() > 10 && text.charAt(10) == ' ' ? text.substring(0, 10) + "T" + text.substring(11) : text;
        if (joined.matches(".*(Z|[+-]\\d{2}(:?\\d{2})?)$") && joined.length() > 10) {
            String full = joined.matches(".*[+-]\\d{2}$")
                    ? joined + ":00"
                    : joined.replaceAll("([+-]\\d{2})(\\d{2})$", "$1:$2");
            return new Shaped.Usable(new Value.Moment(OffsetDateTime.parse(full).toInstant()));
        }
        return local(LocalDateTime.parse(joined), text);
    }

    private Shaped local(LocalDateTime time, String text) {
        List<ZoneOffset> offsets = ZoneId.of(zone).getRules().getValidOffsets(time);
        if (offsets.size() == 1) {
            Instant instant = time.toInstant(offsets.get(0));
            return new Shaped.Usable(new Value.Moment(instant));
        }
        return new Shaped.Unusable("\"" + text + "\" " + (offsets.isEmpty() ? "does not exist" : "happens twice")
                + " in " + zone + ", since the clocks change then");
    }
}

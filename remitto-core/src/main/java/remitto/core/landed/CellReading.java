package remitto.core.landed;

import java.math.BigDecimal;
import java.time.DateTimeException;
import java.time.Instant;
import java.time.LocalDate;
import java.time.ZoneId;
import java.time.format.DateTimeFormatter;
import java.util.List;
import java.util.Locale;
import java.util.Optional;
import java.util.regex.Pattern;
import remitto.core.dataset.ColumnType;
import remitto.core.dataset.Columns;
import remitto.core.dataset.Row;
import remitto.core.shaper.ReadNumber;
import remitto.core.shaper.Shaped;
import remitto.core.shaper.Step;
import remitto.core.shaper.Stores;
import remitto.core.shaper.ToDate;
import remitto.core.shaper.ToMoment;
import remitto.core.shaper.YesNo;
import remitto.core.value.SqlTime;
import remitto.core.value.Value;

/** Reads the cells of one column of a file into the spelling that they are kept in. */
public final class CellReading {
    /** How numbers with a decimal comma are marked. */
    public static final String COMMA = "comma";

    private static final Pattern NUMBER = Pattern.compile("[+-]?(?:\\d+(?:\\.\\d*)?|\\.\\d+)(?:[eE][+-]?\\d{1,3})?");
    private static final BigDecimal LEAST = BigDecimal.valueOf(Long.MIN_VALUE);
    private static final BigDecimal MOST = BigDecimal.valueOf(Long.MAX_VALUE);
    private static final int MOST_DIGITS = 1_000;
    private static final YesNo USUAL =
            new YesNo(List.of("true", "t", "yes", "y", "1"), List.of("false", "f", "no", "n", "0"));
    private static final Row NOTHING = Row.of(new Columns(List.of()), new String[0]);
    /** What a database spells the same, digits after the point and all. */
    private static final Pattern PLAIN = Pattern.compile("-?(?:0|[1-9]\\d*)(?:\\.\\d+)?");

    private static final Cell NOTHING_THERE = new Cell.Fits(Optional.empty());
    private static final int SAFE_DIGITS = 18;

    private final LandedColumn column;
    private final Step step;
    private final boolean usual;

    private CellReading(LandedColumn column, Step step) {
        this.column = column;
        this.step = step;
        this.usual = column.spelling().isBlank();
    }

    /** @param zone of times that name none */
    public static CellReading of(LandedColumn column, ZoneId zone) {
        String spelling = column.spelling().strip();
        return new CellReading(
                column,
                switch (column.type()) {
                    case TEXT -> (value, row) -> new Shaped.Usable(value);
                    case INTEGER, DECIMAL ->
                        spelling.isEmpty()
                                ? CellReading::number
                                : new ReadNumber(spelling.equals(COMMA)).ready(Stores.NONE);
                    case BOOLEAN -> (spelling.isEmpty() ? USUAL : words(spelling)).ready(Stores.NONE);
                    case DATE -> new ToDate(spelling, zone.getId()).ready(Stores.NONE);
                    case TIMESTAMP -> new ToMoment(spelling, zone.getId()).ready(Stores.NONE);
                });
    }

    private static YesNo words(String spelling) {
        int slash = spelling.indexOf('/');
        return new YesNo(List.of(spelling.substring(0, slash)), List.of(spelling.substring(slash + 1)));
    }

    /** What is wrong with a column's spelling; empty if nothing is. */
    static Optional<String> fault(LandedColumn column) {
        String spelling = column.spelling().strip();
        if (spelling.isEmpty()) {
            return Optional.empty();
        }
        return switch (column.type()) {
            case TEXT -> Optional.of("Column " + column.name() + " is text, which has one spelling.");
            case INTEGER, DECIMAL ->
                spelling.equals(COMMA)
                        ? Optional.empty()
                        : Optional.of("Numbers of " + column.name() + " have a decimal point, or a decimal comma.");
            case BOOLEAN ->
                spelling.matches("[^/]+/[^/]+")
                        ? Optional.empty()
                        : Optional.of("Enter the word for yes, a slash and the word for no for " + column.name() + ".");
            case DATE, TIMESTAMP -> pattern(column);
        };
    }

    private static Optional<String> pattern(LandedColumn column) {
        try {
            DateTimeFormatter format =
                    DateTimeFormatter.ofPattern(column.spelling().strip(), Locale.ROOT);
            format.format(Instant.EPOCH.atZone(ZoneId.of("UTC")));
            return Optional.empty();
        } catch (IllegalArgumentException | DateTimeException e) {
            return Optional.of("\"" + column.spelling() + "\" of " + column.name()
                    + " is no pattern of a date; patterns are like dd.MM.uuuu HH:mm.");
        }
    }

    /** What became of a cell. */
    public sealed interface Cell {
        /** @param text as it is kept; absent without a value */
        record Fits(Optional<String> text) implements Cell {}

        /** @param problem a sentence that names the column and the value */
        record DoesNotFit(String problem) implements Cell {}
    }

    /** @param text as it stands in the file; blank ones have a value only as text */
    public Cell read(String text) {
        if (column.type() == ColumnType.TEXT) {
            return new Cell.Fits(Optional.of(text));
        }
        if (text.isBlank()) {
            return NOTHING_THERE;
        }
        if (usual) {
            Optional<String> plain = plain(text);
            if (plain.isPresent()) {
                return new Cell.Fits(plain);
            }
        }
        Shaped shaped = step.apply(new Value.Text(text), NOTHING);
        if (shaped instanceof Shaped.Unusable unusable) {
            return new Cell.DoesNotFit(column.name() + ": " + unusable.reason());
        }
        return spelled(((Shaped.Usable) shaped).value(), text);
    }

    /** What databases and programs write by the million, without a general reader; empty for whatever else it may be. */
    private Optional<String> plain(String text) {
        return switch (column.type()) {
            case TEXT -> Optional.empty();
            case INTEGER -> isPlainWhole(text) ? Optional.of(text) : Optional.empty();
            case DECIMAL -> PLAIN.matcher(text).matches() ? Optional.of(text) : Optional.empty();
            case BOOLEAN ->
                switch (text) {
                    case "true", "t", "1" -> Optional.of("t");
                    case "false", "f", "0" -> Optional.of("f");
                    default -> Optional.empty();
                };
            case DATE -> SqlTime.day(text).filter(day -> day.getYear() > 0).map(LocalDate::toString);
            case TIMESTAMP -> moment(text);
        };
    }

    /** Only with an offset: what names none is of the zone. */
    private static Optional<String> moment(String text) {
        int last = text.length() - 1;
        if (last < 19 || text.charAt(last) != 'Z' || text.charAt(10) != 'T' && text.charAt(10) != ' ') {
            return Optional.empty();
        }
        return SqlTime.moment(text.substring(0, 10) + " " + text.substring(11, last))
                .filter(moment -> text.compareTo("0001") > 0)
                .map(Instant::toString);
    }

    private static boolean isPlainWhole(String text) {
        int from = text.charAt(0) == '-' ? 1 : 0;
        int digits = text.length() - from;
        if (digits < 1 || digits > SAFE_DIGITS || text.charAt(from) == '0' && (digits > 1 || from > 0)) {
            return false;
        }
        for (int i = from; i < text.length(); i++) {
            if (text.charAt(i) < '0' || text.charAt(i) > '9') {
                return false;
            }
        }
        return true;
    }

    private Cell spelled(Value value, String text) {
        if (value instanceof Value.Decimal number) {
            return number(number.number(), text);
        }
        if (value instanceof Value.Truth truth) {
            return new Cell.Fits(Optional.of(truth.truth() ? "t" : "f"));
        }
        if (value instanceof Value.Day day) {
            return day(day.day(), text).map(CellReading::fits).orElseGet(() -> far(text));
        }
        if (value instanceof Value.Moment moment) {
            return day(LocalDate.ofInstant(moment.instant(), ZoneId.of("UTC")), text)
                    .map(near -> fits(moment.instant().toString()))
                    .orElseGet(() -> far(text));
        }
        return new Cell.Fits(Optional.empty());
    }

    /** Years of other lengths are other spellings, and most of all mistakes. */
    private static Optional<String> day(LocalDate day, String text) {
        return day.getYear() < 1 || day.getYear() > 9_999 ? Optional.empty() : Optional.of(day.toString());
    }

    private Cell far(String text) {
        return new Cell.DoesNotFit(column.name() + ": \"" + text + "\" is not within the years 1 to 9999");
    }

    private static Cell fits(String text) {
        return new Cell.Fits(Optional.of(text));
    }

    private Cell number(BigDecimal number, String text) {
        if (column.type() == ColumnType.DECIMAL) {
            String stripped = text.strip();
            return fits(
                    column.spelling().isBlank() && PLAIN.matcher(stripped).matches()
                            ? stripped
                            : number.toPlainString());
        }
        BigDecimal whole = number.stripTrailingZeros();
        if (whole.scale() > 0) {
            return new Cell.DoesNotFit(column.name() + ": \"" + text + "\" is not a whole number");
        }
        return number.compareTo(LEAST) < 0 || number.compareTo(MOST) > 0
                ? new Cell.DoesNotFit(column.name() + ": \"" + text + "\" is too large for a whole number of 64 bits")
                : fits(whole.toPlainString());
    }

    private static Shaped number(Value value, Row row) {
        String text = value.display().strip();
        if (text.length() > MOST_DIGITS || !NUMBER.matcher(text).matches()) {
            return new Shaped.Unusable("\"" + shortened(text) + "\" is not a number");
        }
        return new Shaped.Usable(new Value.Decimal(new BigDecimal(text)));
    }

    private static String shortened(String text) {
        return text.length() <= 100 ? text : text.substring(0, 100) + "…";
    }
}

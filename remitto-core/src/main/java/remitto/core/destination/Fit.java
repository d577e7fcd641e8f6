package remitto.core.destination;

import java.math.BigDecimal;
import java.time.Instant;
import java.time.LocalDate;
import java.time.OffsetDateTime;
import java.util.EnumSet;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.TreeMap;
import java.util.regex.Pattern;
import remitto.core.shaper.Shaped;
import remitto.core.value.JsonForm;
import remitto.core.value.SqlTime;
import remitto.core.value.Value;

/** Fits a shaped value into a field: the field's own type and limits decide whether it would be refused. */
public final class Fit {
    /** E.164 (ITU-T, 11/2010): a plus, a country code that starts with 1 to 9, at most 15 digits. */
    private static final Pattern E164 = Pattern.compile("\\+[1-9]\\d{1,14}");

    /** A plausible address: one at sign, a dot in the domain, no spaces; the tool has the last word. */
    private static final Pattern EMAIL = Pattern.compile("[^@\\s]+@[^@\\s]+\\.[^@\\s]+");

    /** Kinds whose values are texts, whether they fit or not. */
    private static final Set<FieldKind> AS_TEXT =
            EnumSet.of(FieldKind.TEXT, FieldKind.CHOICE, FieldKind.EMAIL, FieldKind.PHONE);

    private Fit() {}

    /** The value as this field holds it, or why it cannot. Empty values fit every field here. */
    public static Shaped into(Field field, Value value) {
        if (value.isEmpty()) {
            return new Shaped.Usable(Value.EMPTY);
        }
        return switch (field.kind()) {
            case TEXT -> text(field, value);
            case EMAIL -> pattern(field, value, EMAIL, "an e-mail address");
            case PHONE -> pattern(field, value, E164, "a phone number as E.164, such as +4791244870");
            case INTEGER -> integer(field, value);
            case DECIMAL -> decimal(field, value);
            case BOOLEAN -> truth(field, value);
            case DATE -> day(field, value);
            case TIMESTAMP -> moment(field, value);
            case LIST -> list(value);
            case ROWS -> rows(field, value);
            case CHOICE ->
                field.choices().contains(value.display())
                        ? new Shaped.Usable(new Value.Text(value.display()))
                        : no(field, value, "is not in the choice list (" + String.join(", ", field.choices()) + ")");
        };
    }

    /** The same; a text that fits is handed back as it came, which spares two objects a value in a bulk run. */
    public static Shaped into(Field field, Shaped.Usable usable) {
        boolean asItIs = field.kind() == FieldKind.TEXT
                && usable.value() instanceof Value.Text text
                && (field.maxLength().isEmpty()
                        || text.text().length() <= field.maxLength().getAsInt())
                && !text.isEmpty();
        return asItIs ? usable : into(field, usable.value());
    }

    /** Reads what the tool returned for a field; a form that does not fit the field's type stays as it came. */
    public static Value read(Field field, Optional<?> json) {
        Value raw = JsonForm.read(json);
        if (raw.isEmpty()) {
            return Value.EMPTY;
        }
        if (raw instanceof Value.Text && AS_TEXT.contains(field.kind())) {
            return raw;
        }
        if (field.kind() == FieldKind.TEXT || field.kind() == FieldKind.CHOICE) {
            return raw instanceof Value.Items ? raw : new Value.Text(raw.display());
        }
        return into(field, raw) instanceof Shaped.Usable usable ? usable.value() : raw;
    }

    private static Shaped list(Value value) {
        List<Value> items = value instanceof Value.Items several ? several.items() : List.of(value);
        return new Shaped.Usable(new Value.Items(items.stream()
                .map(item -> (Value) new Value.Text(item.display()))
                .toList()));
    }

    private static Shaped rows(Field field, Value value) {
        Value.Items rows = value instanceof Value.Items several ? several : new Value.Items(List.of(value));
        return rows.items().stream().allMatch(Value.Parts.class::isInstance)
                ? new Shaped.Usable(new Value.Items(rows.items().stream()
                        .map(row -> plain((Value.Parts) row))
                        .toList()))
                : no(field, value, "is no list of rows");
    }

    /** As JSON spells it, so that what is read back is the same. */
    private static Value plain(Value.Parts row) {
        Map<String, Value> parts = new TreeMap<>();
        row.parts()
                .forEach((name, part) -> parts.put(
                        name,
                        part instanceof Value.Decimal || part instanceof Value.Truth || part instanceof Value.Parts
                                ? part
                                : part.isEmpty() ? Value.EMPTY : new Value.Text(part.display())));
        return new Value.Parts(parts);
    }

    private static Shaped text(Field field, Value value) {
        String text = value.display();
        int length = text.codePointCount(0, text.length());
        if (field.maxLength().isPresent() && length > field.maxLength().getAsInt()) {
            return no(
                    field,
                    value,
                    "is " + length + " characters; it takes "
                            + field.maxLength().getAsInt());
        }
        return new Shaped.Usable(new Value.Text(text));
    }

    private static Shaped pattern(Field field, Value value, Pattern pattern, String what) {
        return pattern.matcher(value.display()).matches() ? text(field, value) : no(field, value, "is not " + what);
    }

    private static Shaped integer(Field field, Value value) {
        Shaped shaped = decimal(field, value);
        if (shaped instanceof Shaped.Usable usable
                && usable.value() instanceof Value.Decimal decimal
                && decimal.number().scale() > 0) {
            return no(field, value, "is not a whole number");
        }
        return shaped;
    }

    private static Shaped decimal(Field field, Value value) {
        if (value instanceof Value.Decimal) {
            return new Shaped.Usable(value);
        }
        try {
            return new Shaped.Usable(
                    new Value.Decimal(new BigDecimal(value.display().strip())));
        } catch (NumberFormatException e) {
            return no(field, value, "is not a number");
        }
    }

    private static Shaped truth(Field field, Value value) {
        if (value instanceof Value.Truth) {
            return new Shaped.Usable(value);
        }
        return switch (value.display()) {
            case "true" -> new Shaped.Usable(new Value.Truth(true));
            case "false" -> new Shaped.Usable(new Value.Truth(false));
            default -> no(field, value, "is neither true nor false");
        };
    }

    private static Shaped day(Field field, Value value) {
        if (value instanceof Value.Day) {
            return new Shaped.Usable(value);
        }
        try {
            return new Shaped.Usable(
                    new Value.Day(SqlTime.day(value.display()).orElseGet(() -> LocalDate.parse(value.display()))));
        } catch (RuntimeException e) {
            return no(field, value, "is not a date (year-month-day)");
        }
    }

    private static Shaped moment(Field field, Value value) {
        if (value instanceof Value.Moment) {
            return new Shaped.Usable(value);
        }
        try {
            Instant instant = OffsetDateTime.parse(value.display()).toInstant();
            return new Shaped.Usable(new Value.Moment(instant));
        } catch (RuntimeException e) {
            return no(field, value, "is not a date and time with a zone");
        }
    }

    private static Shaped no(Field field, Value value, String why) {
        return new Shaped.Unusable(field.name() + ": \"" + value.display() + "\" " + why);
    }
}

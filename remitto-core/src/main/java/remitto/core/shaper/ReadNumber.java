package remitto.core.shaper;

import java.math.BigDecimal;
import java.util.regex.Pattern;
import remitto.core.dataset.Row;
import remitto.core.value.Value;

/**
 * A number out of a text as people write it. Spaces and apostrophes between digits group them.
 *
 * @param decimalComma a comma is the decimal sign and a full stop groups; otherwise the other way round
 */
public record ReadNumber(boolean decimalComma) implements PureShaper {
    private static final Signs POINT = new Signs("\\.", ",");
    private static final Signs COMMA = new Signs(",", "\\.");

    private record Signs(Pattern grouped, Pattern plain) {
        Signs(String decimal, String group) {
            this(
                    Pattern.compile("[+\\-\u2212]?\\d{1,3}(?:" + group + "\\d{3})+(?:" + decimal + "\\d*)?"),
                    Pattern.compile("[+\\-\u2212]?(?:\\d+(?:" + decimal + "\\d*)?|" + decimal + "\\d+)"));
        }
    }

    @Override
    public String title() {
        return decimalComma ? "Number with a decimal comma" : "Number with a decimal point";
    }

    @Override
    public Shaped apply(Value value, Row row) {
        if (value.isEmpty() || value instanceof Value.Decimal) {
            return new Shaped.Usable(value);
        }
        String text = Trim.strip(value.display()).replaceAll("(?<=\\d)[\\p{Zs}'\u2019](?=\\d{3}(?!\\d))", "");
        String decimal = decimalComma ? "," : ".";
        String group = decimalComma ? "." : ",";
        Signs signs = decimalComma ? COMMA : POINT;
        if (signs.grouped().matcher(text).matches()) {
            text = text.replace(group, "");
        }
        if (!signs.plain().matcher(text).matches()) {
            return new Shaped.Unusable(
                    "\"" + value.display() + "\" is not a number with a decimal " + (decimalComma ? "comma" : "point"));
        }
        try {
            return new Shaped.Usable(
                    new Value.Decimal(new BigDecimal(text.replace(decimal, ".").replace('\u2212', '-'))));
        } catch (NumberFormatException e) {
            return new Shaped.Unusable("The number has too many digits");
        }
    }
}

package remitto.core.shaper;

import java.math.BigDecimal;
import java.math.RoundingMode;
import remitto.core.dataset.Row;
import remitto.core.value.Numbers;
import remitto.core.value.Value;

/**
 * A number to so many digits after the decimal sign, halves away from zero.
 *
 * @param digits 0 to 12
 */
public record Rounded(int digits) implements PureShaper {
    @Override
    public String title() {
        return digits == 0 ? "Whole number" : "Rounded to " + digits + " digits";
    }

    @Override
    public Shaped apply(Value value, Row row) {
        if (value.isEmpty()) {
            return new Shaped.Usable(value);
        }
        try {
            BigDecimal number = value instanceof Value.Decimal decimal
                    ? decimal.number()
                    : new BigDecimal(Trim.strip(value.display()));
            return new Shaped.Usable(new Value.Decimal(Numbers.bounded(number).setScale(digits, RoundingMode.HALF_UP)));
        } catch (NumberFormatException e) {
            return new Shaped.Unusable("\"" + value.display() + "\" is not a number");
        }
    }
}

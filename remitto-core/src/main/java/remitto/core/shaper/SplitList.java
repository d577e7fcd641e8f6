package remitto.core.shaper;

import java.util.ArrayList;
import java.util.List;
import java.util.regex.Pattern;
import remitto.core.dataset.Row;
import remitto.core.value.Value;

/**
 * A list out of a text, its items trimmed, empty ones dropped.
 *
 * @param separator between the items, as it is
 */
public record SplitList(String separator) implements PureShaper {
    @Override
    public String title() {
        return "Split at \"" + separator + "\"";
    }

    @Override
    public Shaped apply(Value value, Row row) {
        if (value.isEmpty() || value instanceof Value.Items) {
            return new Shaped.Usable(value);
        }
        List<Value> items = new ArrayList<>();
        for (String part : value.display().split(Pattern.quote(separator))) {
            String item = Trim.strip(part);
            if (!item.isEmpty()) {
                items.add(new Value.Text(item));
            }
        }
        return new Shaped.Usable(new Value.Items(items));
    }
}

package remitto.core.shaper;

import java.util.stream.Collectors;
import remitto.core.dataset.Row;
import remitto.core.value.Value;

/** A text out of a list. */
public record JoinList(String separator) implements PureShaper {
    @Override
    public String title() {
        return "Join with \"" + separator + "\"";
    }

    @Override
    public Shaped apply(Value value, Row row) {
        return new Shaped.Usable(
                value instanceof Value.Items items && !items.isEmpty()
                        ? new Value.Text(
                                items.items().stream().map(Value::display).collect(Collectors.joining(separator)))
                        : value);
    }
}

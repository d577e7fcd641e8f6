package remitto.core.shaper;

import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import remitto.core.value.Value;

/**
 * What a crosswalk table says the value is called there.
 *
 * @param crosswalk the table
 * @param otherwise what happens to a value the table does not know
 * @param text used when {@code otherwise} is DEFAULT
 */
public record Crosswalked(long crosswalk, Otherwise otherwise, String text) implements Shaper {
    /** What happens to a value the table does not know. */
    public enum Otherwise {
        UNUSABLE,
        AS_IT_IS,
        EMPTY,
        DEFAULT
    }

    @Override
    public String title() {
        return "Crosswalk";
    }

    @Override
    public Step ready(Stores stores) {
        CrosswalkTable table = stores.crosswalk(crosswalk)
                .orElseThrow(() -> new IllegalArgumentException(
                        "Crosswalk " + crosswalk + " does not exist or has no version in service."));
        return (value, row) -> {
            if (value instanceof Value.Items items && !items.isEmpty()) {
                return each(table, items);
            }
            return value.isEmpty() ? new Shaped.Usable(value) : one(table, value);
        };
    }

    private Shaped each(CrosswalkTable table, Value.Items items) {
        List<Value> found = new ArrayList<>();
        for (Value item : items.items()) {
            Shaped shaped = one(table, item);
            if (shaped instanceof Shaped.Usable usable) {
                found.add(usable.value());
            } else {
                return shaped;
            }
        }
        return new Shaped.Usable(
                new Value.Items(found.stream().filter(one -> !one.isEmpty()).toList()));
    }

    private Shaped one(CrosswalkTable table, Value value) {
        Optional<String> found = table.find(value.display());
        if (found.isPresent()) {
            return new Shaped.Usable(found.get().isBlank() ? Value.EMPTY : new Value.Text(found.get()));
        }
        return switch (otherwise) {
            case UNUSABLE -> new Shaped.Unusable("\"" + value.display() + "\" is not in the crosswalk " + table.name());
            case AS_IT_IS -> new Shaped.Usable(value);
            case EMPTY -> new Shaped.Usable(Value.EMPTY);
            case DEFAULT -> new Shaped.Usable(new Value.Text(text));
        };
    }
}

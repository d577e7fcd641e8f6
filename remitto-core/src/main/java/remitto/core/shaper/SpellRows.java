package remitto.core.shaper;

import java.util.ArrayList;
import java.util.List;
import java.util.Set;
import java.util.TreeSet;
import java.util.regex.MatchResult;
import java.util.regex.Matcher;
import java.util.regex.Pattern;
import remitto.core.dataset.Row;
import remitto.core.value.Value;

/**
 * Each row of a list as a text.
 *
 * @param pattern what the text is, with the names of a row's parts in braces, such as {@code {port} on {day}}; a part
 *     without a value leaves nothing in its place
 */
public record SpellRows(String pattern) implements PureShaper {
    private static final Pattern NAME = Pattern.compile("\\{([^{}]+)}");

    @Override
    public String title() {
        return "Each row as \"" + pattern + "\"";
    }

    /** The parts that the pattern speaks of. */
    public Set<String> names() {
        return new TreeSet<>(
                NAME.matcher(pattern).results().map(found -> found.group(1)).toList());
    }

    @Override
    public Shaped apply(Value value, Row row) {
        if (value instanceof Value.Items items) {
            List<Value> texts = new ArrayList<>();
            for (Value item : items.items()) {
                texts.add(spell(item));
            }
            return new Shaped.Usable(new Value.Items(texts));
        }
        return new Shaped.Usable(spell(value));
    }

    private Value spell(Value value) {
        return value instanceof Value.Parts row
                ? new Value.Text(NAME.matcher(pattern).replaceAll(found -> part(row, found)))
                : value;
    }

    private static String part(Value.Parts row, MatchResult found) {
        return Matcher.quoteReplacement(
                row.parts().getOrDefault(found.group(1), Value.EMPTY).display());
    }
}

package remitto.core.audience;

import java.util.Map;
import java.util.TreeMap;
import remitto.core.dataset.ColumnType;

/**
 * What conditions may speak of.
 *
 * @param attributes of every person, measures among them
 * @param events columns by the name of the events
 */
public record Vocabulary(Map<String, ColumnType> attributes, Map<String, Map<String, ColumnType>> events) {
    public Vocabulary {
        attributes = new TreeMap<>(attributes);
        events = new TreeMap<>(events);
    }

    public ColumnType attribute(String name) {
        ColumnType type = attributes.get(name);
        if (type == null) {
            throw new AudienceFault("No attribute or measure of people has the name \"" + name + "\".");
        }
        return type;
    }

    public ColumnType column(String of, String name) {
        ColumnType type = columns(of).get(name);
        if (type == null) {
            throw new AudienceFault("The events \"" + of + "\" have no column \"" + name + "\".");
        }
        return type;
    }

    public Map<String, ColumnType> columns(String of) {
        Map<String, ColumnType> columns = events.get(of);
        if (columns == null) {
            throw new AudienceFault("No events have the name \"" + of + "\".");
        }
        return columns;
    }
}

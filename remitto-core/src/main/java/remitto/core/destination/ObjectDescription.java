package remitto.core.destination;

import java.util.List;
import java.util.Optional;

/**
 * A kind of thing in a destination, with its fields.
 *
 * @param people true when its records are individuals, so that a route to it needs a stated basis
 */
public record ObjectDescription(String name, String title, boolean people, Abilities abilities, List<Field> fields) {
    public ObjectDescription {
        fields = List.copyOf(fields);
    }

    /** An object whose records can be read, changed and removed. */
    public static ObjectDescription of(String name, String title, boolean people, List<Field> fields) {
        return new ObjectDescription(name, title, people, Abilities.all(), fields);
    }

    public Optional<Field> field(String name) {
        return fields.stream().filter(field -> field.name().equals(name)).findFirst();
    }
}

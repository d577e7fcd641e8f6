package remitto.server.manifest;

import java.util.List;
import java.util.Map;

/**
 * What the values of a line were made of, kept to explain them by.
 *
 * @param cells that the rules read, by column; without those of sensitive columns
 * @param beyond by field, the steps of a value that was found beyond the row
 */
public record Origins(Map<String, String> cells, Map<String, List<Step>> beyond) {
    public static final Origins NONE = new Origins(Map.of(), Map.of());
}

package remitto.core.shaper;

import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;

/**
 * A table that says what one word is called elsewhere. Words are compared as they are, without the space at their
 * ends.
 *
 * @param version the pinned version
 */
public record CrosswalkTable(long id, String name, int version, List<Pair> entries, Map<String, String> byWord) {

    /**
     * Two records with their evidence.
     *
     * @param to what {@code from} is called there; may be blank, which stands for no value
     */
    public record Pair(String from, String to) {}

    /** @throws IllegalArgumentException if a word stands twice, naming it */
    public static CrosswalkTable of(long id, String name, int version, List<Pair> entries) {
        Map<String, String> byWord = new LinkedHashMap<>();
        for (Pair entry : entries) {
            if (byWord.put(entry.from().strip(), entry.to()) != null) {
                throw new IllegalArgumentException("\"" + entry.from().strip() + "\" stands twice");
            }
        }
        return new CrosswalkTable(id, name, version, List.copyOf(entries), Map.copyOf(byWord));
    }

    public Optional<String> find(String word) {
        return Optional.ofNullable(byWord.get(word.strip()));
    }
}

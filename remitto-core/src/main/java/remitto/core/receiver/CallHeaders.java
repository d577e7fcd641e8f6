package remitto.core.receiver;

import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Optional;
import java.util.TreeMap;

/** Headers of a call, by their names in small letters (RFC 9110, section 5.1: names are the same in whatever letters). */
public record CallHeaders(Map<String, String> values) {
    public CallHeaders {
        Map<String, String> small = new TreeMap<>();
        values.forEach((name, value) -> small.put(name.toLowerCase(Locale.ROOT), value));
        values = java.util.Collections.unmodifiableMap(small);
    }

    /** @param name in whatever letters */
    public Optional<String> get(String name) {
        return Optional.ofNullable(values.get(name.toLowerCase(Locale.ROOT)));
    }

    /** The same without the values of some, which are shown as dots. */
    public CallHeaders masked(List<String> names) {
        Map<String, String> masked = new TreeMap<>(values);
        names.forEach(name -> masked.computeIfPresent(name.toLowerCase(Locale.ROOT), (key, value) -> "••••••"));
        return new CallHeaders(masked);
    }

    /** The same with dots for every value that holds one of these texts, such as a secret that was sent in a header of no meaning. */
    public CallHeaders without(List<String> texts) {
        return masked(values.entrySet().stream()
                .filter(header -> texts.stream()
                        .anyMatch(text -> !text.isEmpty() && header.getValue().contains(text)))
                .map(Map.Entry::getKey)
                .toList());
    }
}

package remitto.core.identity.tidy;

import java.util.ArrayList;
import java.util.List;
import java.util.Set;

/**
 * A person's name in its two parts, spelled as names are compared; either may be blank.
 *
 * @param given the given names, one space apart; initials are single letters
 * @param family the family name with its particles, without spaces
 */
public record PersonName(String given, String family) {
    private static final Set<String> PARTICLES = Set.of(
            "af", "al", "av", "bin", "da", "das", "de", "del", "den", "der", "di", "dos", "du", "el", "la", "le", "ten",
            "ter", "van", "vom", "von", "zu", "zum", "zur");
    private static final Set<String> TITLES =
            Set.of("dr", "fr", "fru", "frau", "herr", "hr", "miss", "mr", "mrs", "ms", "prof");
    private static final Set<String> SUFFIXES = Set.of("jr", "sr", "ii", "iii", "junior", "senior");

    /** From one text, "Given Family" or "Family, Given"; particles belong to the family name. */
    public static PersonName split(String full, PlainText plain) {
        int comma = full.indexOf(',');
        if (comma > 0) {
            return new PersonName(given(full.substring(comma + 1), plain), family(full.substring(0, comma), plain));
        }
        List<String> words = words(full, plain);
        if (words.isEmpty()) {
            return new PersonName("", "");
        }
        int from = words.size() - 1;
        while (from > 1 && PARTICLES.contains(words.get(from - 1))) {
            from--;
        }
        return new PersonName(
                String.join(" ", words.subList(0, from)), String.join("", words.subList(from, words.size())));
    }

    /** Given names alone. */
    public static String given(String spelled, PlainText plain) {
        return String.join(" ", words(spelled, plain));
    }

    /** A family name alone; "MacAllister", "Mac Allister" and "Mac-Allister" are spelled the same. */
    public static String family(String spelled, PlainText plain) {
        return String.join("", words(spelled, plain));
    }

    private static List<String> words(String text, PlainText plain) {
        List<String> words = new ArrayList<>();
        for (String word : plain.of(text).split(" ")) {
            if (!word.isEmpty() && !TITLES.contains(word) && !SUFFIXES.contains(word)) {
                words.add(word);
            }
        }
        return words;
    }
}

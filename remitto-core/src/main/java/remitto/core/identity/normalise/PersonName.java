package remitto.core.identity.normalise;

import java.util.ArrayList;
import java.util.List;
import java.util.Set;
import java.util.stream.Collectors;

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

    /** A word as it is spelled, with the plain words it comes to. */
    private record Word(String spelled, List<String> plain) {}

    private record Halves(List<Word> given, List<Word> family) {}

    /** From one text, "Given Family" or "Family, Given"; particles belong to the family name. */
    public static PersonName split(String full, PlainText plain) {
        Halves halves = halves(full, plain);
        return new PersonName(plain(halves.given(), " "), plain(halves.family(), ""));
    }

    /** The same two parts as they are spelled, without titles. */
    public static PersonName spelled(String full, PlainText plain) {
        Halves halves = halves(full, plain);
        return new PersonName(spelled(halves.given()), spelled(halves.family()));
    }

    private static Halves halves(String full, PlainText plain) {
        int comma = full.indexOf(',');
        if (comma > 0) {
            return new Halves(taken(full.substring(comma + 1), plain), taken(full.substring(0, comma), plain));
        }
        List<Word> words = taken(full, plain);
        int from = Math.max(0, words.size() - 1);
        while (from > 1
                && PARTICLES.contains(String.join("", words.get(from - 1).plain()))) {
            from--;
        }
        return new Halves(words.subList(0, from), words.subList(from, words.size()));
    }

    private static List<Word> taken(String text, PlainText plain) {
        List<Word> words = new ArrayList<>();
        for (String word : text.strip().split("\\s+")) {
            List<String> its = words(word, plain);
            if (!its.isEmpty()) {
                words.add(new Word(word, its));
            }
        }
        return words;
    }

    private static String plain(List<Word> words, String between) {
        return words.stream().flatMap(word -> word.plain().stream()).collect(Collectors.joining(between));
    }

    private static String spelled(List<Word> words) {
        return words.stream().map(Word::spelled).collect(Collectors.joining(" "));
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

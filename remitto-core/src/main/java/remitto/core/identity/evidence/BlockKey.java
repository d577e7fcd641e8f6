package remitto.core.identity.evidence;

import java.util.List;
import java.util.stream.Collectors;
import org.apache.commons.codec.language.Soundex;
import remitto.core.identity.compare.Comparison;
import remitto.core.identity.compare.Levels;

/** Records are compared when they agree in all of these; together the keys of a run say which pairs are looked at. */
public record BlockKey(List<Part> parts) {
    public BlockKey {
        parts = List.copyOf(parts);
    }

    /** How much of a value has to agree. */
    public enum Cut {
        WHOLE,
        /** The American Soundex code. */
        SOUND,
        /** The first four characters, such as the year of a date. */
        BEGINNING,
        INITIAL,
        /** The first word of a given name, unless it is an initial. */
        FIRST_WORD,
        /** The whole, whichever of the parts that are cut so it was typed into. */
        EITHER_ORDER,
        /** The end of an e-mail address's name. */
        TAIL;

        String of(String value) {
            return switch (this) {
                case WHOLE -> value;
                case SOUND -> sound(value);
                case BEGINNING -> value.length() < 4 ? "" : value.substring(0, 4);
                case INITIAL -> value.substring(0, 1);
                case FIRST_WORD -> firstWord(value);
                case EITHER_ORDER -> value.replace(" ", "");
                case TAIL -> Comparison.SameTail.of(value, Levels.TAIL);
            };
        }

        private static String firstWord(String value) {
            int space = value.indexOf(' ');
            int end = space < 0 ? value.length() : space;
            return end < 2 ? "" : value.substring(0, end);
        }

        private static String sound(String value) {
            String letters = value.replaceAll("[^a-z]", "");
            return letters.isEmpty() ? "" : Soundex.US_ENGLISH.encode(letters);
        }
    }

    /** A part of the key. */
    public record Part(String attribute, Cut cut) {}

    /** What it is made of. */
    List<String> attributes() {
        return parts.stream().map(Part::attribute).toList();
    }

    static Part whole(String attribute) {
        return new Part(attribute, Cut.WHOLE);
    }

    /** In words, such as "family name by sound and birth date". */
    public String words() {
        return parts.stream()
                .map(part -> part.attribute().replace('_', ' ')
                        + switch (part.cut()) {
                            case WHOLE -> "";
                            case SOUND -> " by sound";
                            case BEGINNING -> ", its beginning";
                            case INITIAL -> ", its initial";
                            case FIRST_WORD -> ", its first word";
                            case EITHER_ORDER -> " in either order";
                            case TAIL -> ", the end of its name";
                        })
                .collect(Collectors.joining(" and "));
    }
}

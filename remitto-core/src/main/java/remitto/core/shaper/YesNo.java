package remitto.core.shaper;

import java.util.HashSet;
import java.util.List;
import java.util.Locale;
import java.util.Set;
import remitto.core.dataset.Row;
import remitto.core.value.Value;

/**
 * True or false out of words. Upper and lower case make no difference.
 *
 * @param yes words that mean true
 * @param no words that mean false
 */
public record YesNo(List<String> yes, List<String> no) implements PureShaper {
    public YesNo {
        yes = List.copyOf(yes);
        no = List.copyOf(no);
    }

    @Override
    public String title() {
        return "Yes or no";
    }

    @Override
    public Shaped apply(Value value, Row row) {
        if (value.isEmpty() || value instanceof Value.Truth) {
            return new Shaped.Usable(value);
        }
        String word = plain(value.display());
        if (words(yes).contains(word)) {
            return new Shaped.Usable(new Value.Truth(true));
        }
        if (words(no).contains(word)) {
            return new Shaped.Usable(new Value.Truth(false));
        }
        return new Shaped.Unusable("\"" + value.display() + "\" is none of the values for yes ("
                + String.join(", ", yes) + ") and no (" + String.join(", ", no) + ")");
    }

    /** Words that stand on both sides. */
    public Set<String> onBothSides() {
        Set<String> both = words(yes);
        both.retainAll(words(no));
        return both;
    }

    private static Set<String> words(List<String> listed) {
        Set<String> words = new HashSet<>();
        listed.forEach(word -> words.add(plain(word)));
        return words;
    }

    private static String plain(String word) {
        return Trim.strip(word).toLowerCase(Locale.ROOT);
    }
}

package remitto.core.identity.normalise;

import com.ibm.icu.text.Transliterator;
import java.util.HashMap;
import java.util.Map;

/**
 * Texts without what tells spellings apart and people not: case, marks, scripts, punctuation and spaces. Scripts other
 * than Latin go through the transforms of the Unicode CLDR. Not safe to share between threads.
 */
public final class PlainText {
    /** Spellings whose plain ones are kept: names and places come again and again, and transliterating takes long. */
    private static final int KEPT = 20_000;

    private final Map<String, String> kept = new HashMap<>();
    private final Transliterator plain = Transliterator.getInstance("Any-Latin; Latin-ASCII; Lower");

    /** Letters and digits in ASCII and lower case, words one space apart; blank when there are none. */
    public String of(String text) {
        String ascii = isAscii(text) ? text : transliterated(text);
        StringBuilder out = new StringBuilder(ascii.length());
        boolean gap = false;
        for (int i = 0; i < ascii.length(); i++) {
            char c = ascii.charAt(i);
            char low = c >= 'A' && c <= 'Z' ? (char) (c + 32) : c;
            if (low >= 'a' && low <= 'z' || low >= '0' && low <= '9') {
                if (gap && out.length() > 0) {
                    out.append(' ');
                }
                gap = false;
                out.append(low);
            } else if (low != '\'' && low != '`') {
                gap = true;
            }
        }
        return out.toString();
    }

    private String transliterated(String text) {
        if (kept.size() >= KEPT) {
            kept.clear();
        }
        return kept.computeIfAbsent(text, plain::transliterate);
    }

    private static boolean isAscii(String text) {
        for (int i = 0; i < text.length(); i++) {
            if (text.charAt(i) > 127) {
                return false;
            }
        }
        return true;
    }
}

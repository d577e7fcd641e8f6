package remitto.core.columnprofile;

import com.dynatrace.hash4j.hashing.Hashing;
import java.nio.charset.StandardCharsets;
import org.jspecify.annotations.Nullable;

/** Texts that are too long to be kept by the thousand: their beginning with a hash stands for them, so that they are still told apart. */
final class LongTexts {
    private static final int LONGEST = 200;
    private static final int BEGINNING = 60;
    private static final char CUT = '\u2026';

    private LongTexts() {}

    static String bounded(String text) {
        return text.length() <= LONGEST
                ? text
                : text.substring(0, BEGINNING)
                        + CUT
                        + " ".repeat(LONGEST)
                        + Long.toHexString(Hashing.wyhashFinal4().hashCharsToLong(text));
    }

    /** The same of a row, copied. */
    static @Nullable String[] bounded(@Nullable String[] cells) {
        String[] bounded = cells.clone();
        for (int i = 0; i < bounded.length; i++) {
            String cell = bounded[i];
            if (cell != null && cell.length() > LONGEST) {
                bounded[i] = bounded(cell);
            }
        }
        return bounded;
    }

    /** Whether it is a text as it was read, and one that can be written down: no zero character, and no half of a pair. */
    static boolean isWhole(String text) {
        return text.length() <= LONGEST
                && text.indexOf('\0') < 0
                && StandardCharsets.UTF_8.newEncoder().canEncode(text);
    }
}

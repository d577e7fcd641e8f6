package remitto.core.file;

import java.util.regex.Pattern;

/** What a spreadsheet does with a cell of a file that it opens (OWASP, CSV Injection). */
public final class SpreadsheetText {
    private static final String BEGIN_FORMULAS = "=+-@\t\r\n";
    private static final Pattern NUMBER = Pattern.compile("[+-]?\\d+([.,]\\d+)?");

    private SpreadsheetText() {}

    /** The text with an apostrophe before it if a spreadsheet would run it; numbers stay numbers. */
    public static String neutralised(String text) {
        if (text.isEmpty() || BEGIN_FORMULAS.indexOf(text.charAt(0)) < 0) {
            return text;
        }
        return NUMBER.matcher(text).matches() ? text : "'" + text;
    }
}

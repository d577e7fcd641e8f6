package remitto.server.download;

import java.util.regex.Pattern;

/**
 * Cells of a file that a spreadsheet opens. A text that begins like a formula is run by spreadsheets, so it gets an apostrophe before it;
 * numbers stay numbers (OWASP, CSV Injection).
 */
final class CellText {
    private static final Pattern NUMBER = Pattern.compile("[+-]?\\d+([.,]\\d+)?");

    private CellText() {}

    static String of(Object cell) {
        String text = String.valueOf(cell);
        if (text.isEmpty() || "=+-@\t\r\n".indexOf(text.charAt(0)) < 0) {
            return text;
        }
        return NUMBER.matcher(text).matches() ? text : "'" + text;
    }
}

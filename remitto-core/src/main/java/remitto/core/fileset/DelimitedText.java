package remitto.core.fileset;

import java.io.IOException;
import java.io.Reader;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.List;
import org.jspecify.annotations.Nullable;
import remitto.core.landed.LandedColumns;

/**
 * Takes a text apart into records and cells, as RFC 4180 says, with any delimiter and quote and with any line end. A quote within an
 * unquoted cell is a character like others; blank lines are no records.
 *
 * <p>A record that is malformed costs no other: its first line alone is malformed, and the next line begins a new record, so that a quote
 * that is left open takes nothing with it. Not safe to share between threads.
 */
public final class DelimitedText {
    /** Characters of a cell; a longer one is malformed. */
    public static final int LONGEST_CELL = 1_000_000;

    /** Characters of a record; a longer one is malformed. */
    public static final int LONGEST_RECORD = 4_000_000;

    /** Lines of a record; one that goes on for longer is taken for a quote that was left open. */
    public static final int MOST_LINES = 1_000;

    private static final int END = -1;
    private static final int KEPT_OF_A_LINE = 100_000;

    private final Reader in;
    private final char delimiter;
    private final int quote;
    private int expected;

    private char[] buffer = new char[1 << 16];
    private int from;
    private int at;
    private int end;
    private boolean over;

    private long line = 1;
    private long recordLine = 1;
    private final List<@Nullable String> cells = new ArrayList<>();
    private final StringBuilder quoted = new StringBuilder();
    private String problem = "";
    private String text = "";

    /** @param quote 0 for none */
    public DelimitedText(Reader in, char delimiter, char quote) {
        this.in = in;
        this.delimiter = delimiter;
        this.quote = quote == 0 ? END - 1 : quote;
    }

    /** @param cells that every record has from now on; others are malformed */
    public void expect(int cells) {
        this.expected = cells;
    }

    /** Line at which the record begins, from 1. */
    public long line() {
        return recordLine;
    }

    /** Its cells, until the next record; an unquoted empty one has no value. */
    public List<@Nullable String> cells() {
        return cells;
    }

    /** What is wrong with the record; blank if nothing is. */
    public String problem() {
        return problem;
    }

    /** The line of a malformed record, at most its first 100,000 characters. */
    public String text() {
        return text;
    }

    /** Passes over lines. */
    public void skipLines(int lines) throws IOException {
        for (int i = 0; i < lines && peek() != END; i++) {
            from = at;
            skipLine();
        }
    }

    /** @return false at the end */
    public boolean next() throws IOException {
        do {
            from = at;
            recordLine = line;
            if (peek() == END) {
                return false;
            }
        } while (lineEnd());
        cells.clear();
        problem = "";
        text = "";
        String wrong = record();
        if (wrong.isEmpty() && expected > 0 && cells.size() != expected) {
            wrong = "has " + cells.size() + (cells.size() == 1 ? " cell" : " cells") + " where " + expected
                    + " are expected";
        }
        if (!wrong.isEmpty()) {
            malformed(wrong);
        }
        return true;
    }

    /** @return what is wrong; blank if nothing is */
    private String record() throws IOException {
        while (true) {
            String wrong = peek() == quote ? quotedCell() : plainCell();
            if (!wrong.isEmpty()) {
                return wrong;
            }
            if (at - from > LONGEST_RECORD) {
                return "is longer than 4,000,000 characters";
            }
            if (cells.size() > LandedColumns.MOST * 10) {
                return "has more than " + LandedColumns.MOST * 10 + " cells";
            }
            if (peek() == delimiter) {
                at++;
            } else {
                lineEnd();
                return "";
            }
        }
    }

    private String plainCell() throws IOException {
        int start = at - from;
        while (true) {
            int i = at;
            int stop = end;
            char[] some = buffer;
            while (i < stop) {
                char c = some[i];
                if (c == delimiter || c == '\n' || c == '\r') {
                    break;
                }
                i++;
            }
            at = i;
            if (i < stop || !fill()) {
                break;
            }
            if (at - from - start > LONGEST_CELL) {
                return tooLong();
            }
        }
        int length = at - from - start;
        if (length > LONGEST_CELL) {
            return tooLong();
        }
        cells.add(length == 0 ? null : new String(buffer, from + start, length));
        return "";
    }

    private String quotedCell() throws IOException {
        quoted.setLength(0);
        long lines = line;
        at++;
        while (true) {
            int c = peek();
            if (c == END) {
                return "opens a quote in cell " + (cells.size() + 1) + " that nothing closes";
            }
            if (c == quote) {
                at++;
                if (peek() != quote) {
                    break;
                }
                quoted.append((char) c);
                at++;
            } else if (c == '\n' || c == '\r') {
                quoted.append((char) c);
                at++;
                if (c == '\r' && peek() == '\n') {
                    quoted.append('\n');
                    at++;
                }
                line++;
            } else {
                quoted.append((char) c);
                at++;
            }
            if (quoted.length() > LONGEST_CELL || at - from > LONGEST_RECORD) {
                return tooLong();
            }
            if (line - lines > MOST_LINES) {
                return "opens a quote in cell " + (cells.size() + 1) + " that is not closed within 1,000 lines";
            }
        }
        int next = peek();
        if (next != delimiter && next != '\n' && next != '\r' && next != END) {
            return "has characters after the quotes of cell " + (cells.size() + 1);
        }
        cells.add(quoted.toString());
        return "";
    }

    private static String tooLong() {
        return "has a cell of more than 1,000,000 characters";
    }

    /** Goes back to the end of the record's first line. */
    private void malformed(String wrong) throws IOException {
        problem = "The row " + wrong + ".";
        cells.clear();
        line = recordLine;
        at = from;
        StringBuilder kept = new StringBuilder();
        while (true) {
            int c = peek();
            if (c == END || c == '\n' || c == '\r') {
                break;
            }
            if (kept.length() < KEPT_OF_A_LINE) {
                kept.append((char) c);
            }
            at++;
            if (at - from > KEPT_OF_A_LINE) {
                from = at;
            }
        }
        lineEnd();
        text = kept.toString();
    }

    private void skipLine() throws IOException {
        while (true) {
            int c = peek();
            if (c == END || lineEnd()) {
                return;
            }
            at++;
            from = at;
        }
    }

    /** Passes over a line end, if there is one. */
    private boolean lineEnd() throws IOException {
        int c = peek();
        if (c == '\r') {
            at++;
            if (peek() == '\n') {
                at++;
            }
        } else if (c == '\n') {
            at++;
        } else {
            return false;
        }
        line++;
        return true;
    }

    private int peek() throws IOException {
        return at < end || fill() ? buffer[at] : END;
    }

    /** Takes in more, and keeps everything from the record's beginning. */
    private boolean fill() throws IOException {
        if (over) {
            return false;
        }
        if (from > 0) {
            System.arraycopy(buffer, from, buffer, 0, end - from);
            at -= from;
            end -= from;
            from = 0;
        }
        if (end == buffer.length) {
            buffer = Arrays.copyOf(buffer, buffer.length * 2);
        }
        int more = in.read(buffer, end, buffer.length - end);
        if (more <= 0) {
            over = true;
            return false;
        }
        end += more;
        return true;
    }
}

package remitto.connect.rowfile;

import java.io.IOException;
import java.io.Reader;
import java.util.ArrayList;
import java.util.List;
import java.util.stream.Collectors;
import org.jspecify.annotations.Nullable;
import remitto.core.fileset.DelimitedText;
import remitto.core.fileset.FileFormat;
import remitto.core.landed.LandedColumns;

/** Rows of values between delimiters. */
final class DelimitedFile implements RowFile {
    private static final int KEPT = 100_000;

    private final DelimitedText text;
    private final FileFormat.Delimited format;
    private final int[] at;
    private final @Nullable String[] cells;
    private final List<String> others;
    private boolean ahead;
    private List<@Nullable String> record = List.of();

    /**
     * @param wanted names of columns
     * @throws FileFault if a wanted column is not there
     */
    DelimitedFile(Reader reader, FileFormat.Delimited format, List<String> wanted) throws IOException {
        this.format = format;
        this.text = new DelimitedText(
                reader,
                format.delimiter().charAt(0),
                format.quote().isEmpty() ? 0 : format.quote().charAt(0));
        text.skipLines(format.skippedLines());
        List<String> names = names(text, format);
        this.ahead = !format.header() && !names.isEmpty();
        this.at = new int[wanted.size()];
        List<String> gone = new ArrayList<>();
        for (int i = 0; i < at.length; i++) {
            at[i] = names.indexOf(wanted.get(i));
            if (at[i] < 0) {
                gone.add(wanted.get(i));
            }
        }
        if (!gone.isEmpty() && !names.isEmpty()) {
            throw gone(gone, names);
        }
        this.cells = new String[at.length];
        this.others =
                names.stream().filter(name -> !wanted.contains(name)).limit(100).toList();
        text.expect(names.size());
    }

    static FileFault gone(List<String> gone, List<String> names) {
        return new FileFault("The file has no column called "
                + gone.stream().limit(5).collect(Collectors.joining(", ")) + ". Its columns are "
                + names.stream().limit(30).collect(Collectors.joining(", ")) + (names.size() > 30 ? " …" : "")
                + ". Correct the file, or choose the column again in the file set.");
    }

    /** @return none of a file without rows */
    static List<String> names(DelimitedText text, FileFormat.Delimited format) throws IOException {
        if (!text.next()) {
            return List.of();
        }
        if (!text.problem().isEmpty()) {
            throw new FileFault(
                    "Line " + text.line() + " should tell the columns, but it is malformed: " + text.problem());
        }
        if (text.cells().size() > LandedColumns.MOST) {
            throw new FileFault("The file has " + text.cells().size()
                    + " columns; a file set takes files of up to 1,000. Look whether the delimiter is right.");
        }
        return format.header()
                ? HeaderNames.of(text.cells())
                : HeaderNames.numbered(text.cells().size());
    }

    @Override
    public @Nullable FileRecord next() throws IOException {
        if (ahead) {
            ahead = false;
        } else if (!text.next()) {
            return null;
        }
        if (!text.problem().isEmpty()) {
            record = List.of();
            return new FileRecord(text.line(), cells, text.problem(), text.text());
        }
        record = text.cells();
        for (int i = 0; i < at.length; i++) {
            cells[i] = record.get(at[i]);
        }
        return new FileRecord(text.line(), cells, "", "");
    }

    @Override
    public String text() {
        if (record.isEmpty()) {
            return text.text();
        }
        String quote = format.quote();
        String line = record.stream()
                .map(cell -> cell == null
                        ? ""
                        : quote.isEmpty() || !needsQuotes(cell)
                                ? cell
                                : quote + cell.replace(quote, quote + quote) + quote)
                .collect(Collectors.joining(format.delimiter()));
        return line.length() > KEPT ? line.substring(0, KEPT) : line;
    }

    private boolean needsQuotes(String cell) {
        return cell.isEmpty()
                || cell.contains(format.delimiter())
                || cell.contains(format.quote())
                || cell.indexOf('\n') >= 0
                || cell.indexOf('\r') >= 0;
    }

    @Override
    public List<String> others() {
        return others;
    }
}

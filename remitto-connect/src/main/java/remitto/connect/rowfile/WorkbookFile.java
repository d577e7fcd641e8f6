package remitto.connect.rowfile;

import java.io.IOException;
import java.io.InputStream;
import java.math.BigDecimal;
import java.util.ArrayList;
import java.util.Iterator;
import java.util.List;
import java.util.Optional;
import java.util.stream.Collectors;
import java.util.stream.Stream;
import org.dhatim.fastexcel.reader.Cell;
import org.dhatim.fastexcel.reader.ReadableWorkbook;
import org.dhatim.fastexcel.reader.ReadingOptions;
import org.dhatim.fastexcel.reader.Row;
import org.dhatim.fastexcel.reader.Sheet;
import org.jspecify.annotations.Nullable;
import remitto.core.fileset.FileFormat;
import remitto.core.landed.LandedColumns;

/** Rows of one sheet of a workbook (Office Open XML, ECMA-376). Formulas are read as what they came to when it was saved. */
final class WorkbookFile implements RowFile {
    private static final int KEPT = 100_000;

    private final WorkbookCopy copy;
    private final ReadableWorkbook workbook;
    private final Stream<Row> stream;
    private final Iterator<Row> rows;
    private final String sheet;
    private final List<String> names;
    private final int[] at;
    private final @Nullable String[] cells;
    private final List<String> others;
    private @Nullable Row ahead;
    private List<@Nullable String> record = List.of();

    /**
     * @param wanted names of columns; none to learn the names alone
     * @throws FileFault if it is no workbook, or has no such sheet or column
     */
    WorkbookFile(InputStream bytes, FileFormat.Workbook format, List<String> wanted) throws IOException {
        copy = WorkbookCopy.of(bytes);
        ReadableWorkbook opened = null;
        try {
            opened = new ReadableWorkbook(copy.path().toFile(), new ReadingOptions(copy.isFormatted(), true));
            workbook = opened;
            Sheet found = sheet(format.sheet());
            sheet = found.getName();
            stream = found.openStream();
            rows = stream.iterator();
            Row first = first(format.skippedLines());
            names = first == null ? List.of() : names(first, format.header());
            ahead = format.header() ? null : first;
            at = wanted.stream().mapToInt(names::indexOf).toArray();
            cells = new String[at.length];
            List<String> gone =
                    wanted.stream().filter(name -> !names.contains(name)).toList();
            if (!gone.isEmpty() && !names.isEmpty()) {
                throw DelimitedFile.gone(gone, names);
            }
            others = names.stream()
                    .filter(name -> !wanted.contains(name))
                    .limit(100)
                    .toList();
        } catch (IOException | RuntimeException e) {
            if (opened != null) {
                opened.close();
            }
            copy.close();
            throw e instanceof FileFault fault ? fault : damaged(e);
        }
    }

    private static FileFault damaged(Exception e) {
        return new FileFault("The file cannot be read as an XLSX workbook; it is damaged or not complete.");
    }

    private Sheet sheet(String wanted) {
        if (wanted.isBlank()) {
            return workbook.getFirstSheet();
        }
        return workbook.findSheet(wanted)
                .orElseThrow(() -> new FileFault("The workbook has no sheet called " + wanted + ". Its sheets are "
                        + workbook.getSheets().map(Sheet::getName).limit(30).collect(Collectors.joining(", "))
                        + "."));
    }

    /** The first row that holds something, of those that are not passed over. */
    private @Nullable Row first(int skipped) {
        while (rows.hasNext()) {
            Row row = rows.next();
            if (row.getRowNum() > skipped && !isBlank(row)) {
                return row;
            }
        }
        return null;
    }

    private static boolean isBlank(Row row) {
        return row.stream().allMatch(cell -> cell == null || cell.getText().isBlank());
    }

    private List<String> names(Row first, boolean header) {
        int count = first.getCellCount();
        if (count > LandedColumns.MOST) {
            throw new FileFault("The sheet has " + count + " columns; a file set takes files of up to 1,000.");
        }
        return header ? HeaderNames.of(texts(first, count)) : HeaderNames.numbered(count);
    }

    /** Names of its columns. */
    List<String> names() {
        return names;
    }

    String sheet() {
        return sheet;
    }

    /** Names of all its sheets. */
    List<String> sheets() {
        return workbook.getSheets().map(Sheet::getName).toList();
    }

    @Override
    public @Nullable FileRecord next() {
        Row row = ahead;
        ahead = null;
        try {
            while (row == null || isBlank(row)) {
                if (!rows.hasNext()) {
                    return null;
                }
                row = rows.next();
            }
        } catch (RuntimeException e) {
            throw damaged(e);
        }
        record = texts(row, Math.max(names.size(), row.getCellCount()));
        for (int i = 0; i < at.length; i++) {
            cells[i] = record.get(at[i]);
        }
        for (int i = names.size(); i < record.size(); i++) {
            if (record.get(i) != null) {
                return new FileRecord(
                        row.getRowNum(),
                        cells,
                        "The row has a value beside the " + names.size() + " columns that the first row names.",
                        text());
            }
        }
        return new FileRecord(row.getRowNum(), cells, "", "");
    }

    private List<@Nullable String> texts(Row row, int count) {
        List<@Nullable String> texts = new ArrayList<>();
        for (int i = 0; i < count; i++) {
            texts.add(row.hasCell(i) ? text(row.getCell(i)) : null);
        }
        return texts;
    }

    private @Nullable String text(@Nullable Cell cell) {
        if (cell == null || cell.getValue() == null) {
            return null;
        }
        if (cell.getValue() instanceof BigDecimal number) {
            int id = cell.getDataFormatId() == null ? 0 : cell.getDataFormatId();
            Optional<String> time = CellTexts.isTime(
                            id, Optional.ofNullable(cell.getDataFormatString()).orElse(""))
                    ? CellTexts.time(number, workbook.isDate1904())
                    : Optional.empty();
            return time.orElseGet(() -> CellTexts.number(number));
        }
        String text = String.valueOf(cell.getValue());
        return text.isEmpty() ? null : text;
    }

    @Override
    public String text() {
        String line = record.stream().map(cell -> cell == null ? "" : cell).collect(Collectors.joining("\t"));
        return line.length() > KEPT ? line.substring(0, KEPT) : line;
    }

    @Override
    public List<String> others() {
        return others;
    }

    @Override
    public void close() {
        stream.close();
        try {
            workbook.close();
        } catch (IOException e) {
            throw new java.io.UncheckedIOException(e);
        } finally {
            copy.close();
        }
    }
}

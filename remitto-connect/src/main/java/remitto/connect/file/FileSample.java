package remitto.connect.file;

import java.io.ByteArrayOutputStream;
import java.io.IOException;
import java.io.UncheckedIOException;
import java.math.BigDecimal;
import java.nio.charset.Charset;
import java.time.Instant;
import java.time.LocalDate;
import java.time.ZoneId;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import remitto.connect.destination.WholeFiles.FileRow;
import remitto.core.file.FileColumn;
import remitto.core.file.FileForm;
import remitto.core.file.FileLayout;
import remitto.core.manifest.Verdict;
import remitto.core.value.Value;

/**
 * A file made of examples, to see what a layout comes to.
 *
 * @param text as it reads, before it is packed
 */
public record FileSample(String name, String text) {
    public static FileSample of(FileLayout layout, String route, Instant now) {
        ByteArrayOutputStream bytes = new ByteArrayOutputStream();
        try {
            RowWriter writer = new RowWriter(layout, bytes);
            int row = 1;
            for (Verdict verdict : List.of(Verdict.ADDED, Verdict.CHANGED, Verdict.REMOVED)) {
                if (layout.content().changes().isPresent() || verdict != Verdict.REMOVED) {
                    writer.row(new FileRow(verdict, example(layout, row++, now)));
                }
            }
            writer.finish();
        } catch (IOException e) {
            throw new UncheckedIOException(e);
        }
        String charset =
                layout.form() instanceof FileForm.Csv csv ? csv.encoding().charset() : "UTF-8";
        return new FileSample(
                layout.fileName().of(route, 1, now, ZoneId.of(layout.zone()), 1, layout.ending()),
                bytes.toString(Charset.forName(charset)).replace("\uFEFF", ""));
    }

    private static Map<String, Value> example(FileLayout layout, int row, Instant now) {
        Map<String, Value> values = new HashMap<>();
        for (FileColumn column : layout.columns()) {
            values.put(column.name(), example(column, row, now));
        }
        return values;
    }

    private static Value example(FileColumn column, int row, Instant now) {
        return switch (column.kind()) {
            case TEXT, CHOICE -> new Value.Text(row == 1 ? "Bø, \"" + row + "\"" : "text " + row);
            case EMAIL -> new Value.Text("nobody" + row + "@kai.example");
            case PHONE -> new Value.Text("+479124487" + row);
            case INTEGER -> new Value.Decimal(BigDecimal.valueOf(row * 7L));
            case DECIMAL -> new Value.Decimal(new BigDecimal("12.5" + row));
            case BOOLEAN -> new Value.Truth(row % 2 == 1);
            case DATE -> new Value.Day(LocalDate.of(2026, 1, row));
            case TIMESTAMP -> new Value.Moment(now);
            case ROWS -> new Value.Items(List.of(new Value.Parts(Map.of("one", new Value.Text("1")))));
            case LIST -> new Value.Items(List.of(new Value.Text("one"), new Value.Text("two")));
        };
    }
}

package remitto.connect.file;

import java.io.IOException;
import java.io.OutputStream;
import java.io.OutputStreamWriter;
import java.io.Writer;
import java.nio.charset.Charset;
import java.nio.charset.CharsetEncoder;
import java.nio.charset.CodingErrorAction;
import java.util.ArrayList;
import java.util.List;
import java.util.stream.Collectors;
import org.apache.commons.csv.CSVFormat;
import org.apache.commons.csv.CSVPrinter;
import org.apache.commons.csv.QuoteMode;
import remitto.connect.destination.WholeFiles.FileRow;
import remitto.core.file.FileColumn;
import remitto.core.file.FileForm;
import remitto.core.file.FileLayout;
import remitto.core.shaper.AsJson;
import remitto.core.value.JsonForm;
import remitto.core.value.Value;
import tools.jackson.core.JsonGenerator;
import tools.jackson.core.StreamWriteFeature;
import tools.jackson.databind.json.JsonMapper;

/** Spells rows as a layout says. Not safe to share between threads. */
final class RowWriter {
    private static final JsonMapper JSON = JsonMapper.builder()
            .configure(StreamWriteFeature.WRITE_BIGDECIMAL_AS_PLAIN, true)
            .configure(StreamWriteFeature.AUTO_CLOSE_TARGET, false)
            // Else every row would be a packet of its own on the way to another machine.
            .configure(StreamWriteFeature.FLUSH_PASSED_TO_STREAM, false)
            .build();

    private interface Printer {
        void print(FileRow row) throws IOException;
    }

    private final FileLayout layout;
    private final Writer out;
    private final Printer printer;
    private long rows;

    RowWriter(FileLayout layout, OutputStream bytes) throws IOException {
        this.layout = layout;
        if (layout.form() instanceof FileForm.Csv csv) {
            if (csv.encoding() == FileForm.Encoding.UTF_8_WITH_MARK) {
                bytes.write(new byte[] {(byte) 0xEF, (byte) 0xBB, (byte) 0xBF});
            }
            this.out = new OutputStreamWriter(bytes, strict(csv.encoding()));
            CSVPrinter table = new CSVPrinter(out, format(csv));
            if (csv.header()) {
                table.printRecord(layout.header().stream().map(csv::cell).toList());
            }
            this.printer = row -> table.printRecord(texts(csv, row));
        } else {
            this.out = new OutputStreamWriter(bytes, strict(FileForm.Encoding.UTF_8));
            this.printer = this::object;
        }
    }

    /** What cannot be spelled is an error, never a question mark. */
    static CharsetEncoder strict(FileForm.Encoding encoding) {
        return Charset.forName(encoding.charset())
                .newEncoder()
                .onMalformedInput(CodingErrorAction.REPORT)
                .onUnmappableCharacter(CodingErrorAction.REPORT);
    }

    private static CSVFormat format(FileForm.Csv csv) {
        return CSVFormat.RFC4180
                .builder()
                .setDelimiter(csv.delimiter())
                .setQuoteMode(csv.quoting() == FileForm.Quoting.EVERY_VALUE ? QuoteMode.ALL : QuoteMode.MINIMAL)
                .setRecordSeparator(csv.lineEnd() == FileForm.LineEnd.CRLF ? "\r\n" : "\n")
                .get();
    }

    void row(FileRow row) throws IOException {
        printer.print(row);
        rows++;
    }

    long rows() {
        return rows;
    }

    void finish() throws IOException {
        out.flush();
    }

    private List<String> texts(FileForm.Csv csv, FileRow row) {
        List<String> texts = new ArrayList<>();
        layout.content().changes().ifPresent(changes -> texts.add(csv.cell(changes.word(row.verdict()))));
        for (FileColumn column : layout.columns()) {
            texts.add(csv.cell(text(csv, row.values().getOrDefault(column.name(), Value.EMPTY))));
        }
        return texts;
    }

    static String text(FileForm.Csv csv, Value value) {
        if (value instanceof Value.Items items && items.items().stream().anyMatch(Value.Parts.class::isInstance)) {
            return AsJson.json(items);
        }
        if (value instanceof Value.Items items) {
            return items.items().stream().map(Value::display).collect(Collectors.joining(csv.listDelimiter()));
        }
        return value.isEmpty() ? "" : value.display();
    }

    private void object(FileRow row) throws IOException {
        JsonGenerator json = JSON.createGenerator(out);
        json.writeStartObject();
        layout.content()
                .changes()
                .ifPresent(changes -> json.writeStringProperty(changes.column(), changes.word(row.verdict())));
        for (FileColumn column : layout.columns()) {
            json.writeName(column.name());
            JsonForm.write(row.values().getOrDefault(column.name(), Value.EMPTY))
                    .ifPresentOrElse(json::writePOJO, json::writeNull);
        }
        json.writeEndObject();
        json.flush();
        out.write('\n');
    }
}

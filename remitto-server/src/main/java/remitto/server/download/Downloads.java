package remitto.server.download;

import jakarta.servlet.http.HttpServletResponse;
import java.io.BufferedWriter;
import java.io.IOException;
import java.io.OutputStreamWriter;
import java.io.UncheckedIOException;
import java.io.Writer;
import java.nio.charset.StandardCharsets;
import java.util.Arrays;
import java.util.List;
import java.util.concurrent.Semaphore;
import java.util.function.Consumer;
import org.apache.commons.csv.CSVFormat;
import org.apache.commons.csv.CSVPrinter;
import org.springframework.http.ContentDisposition;
import org.springframework.http.HttpHeaders;
import org.springframework.http.HttpStatus;
import org.springframework.stereotype.Component;
import remitto.core.file.SpreadsheetText;
import remitto.server.journal.Journal;
import remitto.server.permission.CurrentUser;
import remitto.server.permission.Right;
import remitto.server.platform.Json;
import remitto.server.platform.Lane;
import remitto.server.platform.Problem;

/**
 * Writes files of personal values: for whoever may download them, written down first, with connections of their own and so many at a
 * time. A download that fails half-way ends without the end of its encoding, so that the browser sees that it is not whole.
 */
@Component
public class Downloads {
    private static final int AT_A_TIME = 6;

    private final CurrentUser user;
    private final Journal journal;
    private final Json json;
    private final Semaphore places = new Semaphore(AT_A_TIME);

    Downloads(CurrentUser user, Journal journal, Json json) {
        this.user = user;
        this.journal = journal;
        this.json = json;
    }

    /**
     * What is downloaded.
     *
     * @param name of the file
     * @param action as it stands in the journal
     */
    public record Download(String name, String action, Journal.Subject subject) {}

    /** Takes rows of a CSV file. */
    public static final class CsvRows {
        private final CSVPrinter csv;

        private CsvRows(CSVPrinter csv) {
            this.csv = csv;
        }

        public void row(List<?> cells) {
            try {
                csv.printRecord(cells.stream().map(Downloads::text).toList());
            } catch (IOException e) {
                throw new UncheckedIOException(e);
            }
        }

        public void row(Object... cells) {
            row(Arrays.asList(cells));
        }
    }

    private static String text(Object cell) {
        return SpreadsheetText.neutralised(String.valueOf(cell));
    }

    /** CSV (RFC 4180), in UTF-8; cells that look like formulas are neutralised. */
    public void csv(Download download, List<String> header, HttpServletResponse response, Consumer<CsvRows> rows) {
        write(download, "text/csv;charset=utf-8", response, out -> {
            CSVPrinter csv = new CSVPrinter(
                    out,
                    CSVFormat.RFC4180
                            .builder()
                            .setHeader(header.stream().map(Downloads::text).toArray(String[]::new))
                            .get());
            rows.accept(new CsvRows(csv));
            csv.flush();
        });
    }

    /** JSON Lines: one object a line. */
    public void jsonLines(Download download, HttpServletResponse response, Consumer<Consumer<Object>> rows) {
        write(
                download,
                "application/jsonl",
                response,
                out -> rows.accept(row -> {
                    try {
                        out.write(json.write(row) + "\n");
                    } catch (IOException e) {
                        throw new UncheckedIOException(e);
                    }
                }));
    }

    /** Lets a download begin that its controller writes itself. */
    public void begin(Download download) {
        user.require(Right.DOWNLOAD_PERSONAL_VALUES);
        journal.write(user.id().orElseThrow(), download.action(), download.subject(), download.name());
    }

    private interface Body {
        void write(Writer out) throws IOException;
    }

    private void write(Download download, String type, HttpServletResponse response, Body body) {
        user.require(Right.DOWNLOAD_PERSONAL_VALUES);
        if (!places.tryAcquire()) {
            throw new Problem(
                    HttpStatus.SERVICE_UNAVAILABLE,
                    "Too many downloads are under way. Try again when one has ended.",
                    List.of());
        }
        try {
            begin(download);
            response.setContentType(type);
            response.setHeader(
                    HttpHeaders.CONTENT_DISPOSITION,
                    ContentDisposition.attachment()
                            .filename(download.name())
                            .build()
                            .toString());
            Lane.DOWNLOADS.run(() -> {
                try {
                    Writer out = new BufferedWriter(
                            new OutputStreamWriter(response.getOutputStream(), StandardCharsets.UTF_8), 64 * 1024);
                    body.write(out);
                    out.flush();
                } catch (IOException e) {
                    throw new UncheckedIOException(e);
                }
            });
        } finally {
            places.release();
        }
    }
}

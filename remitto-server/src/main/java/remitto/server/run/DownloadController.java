package remitto.server.run;

import jakarta.servlet.http.HttpServletResponse;
import java.io.BufferedWriter;
import java.io.IOException;
import java.io.OutputStreamWriter;
import java.io.UncheckedIOException;
import java.io.Writer;
import java.nio.charset.StandardCharsets;
import java.security.Principal;
import org.apache.commons.csv.CSVFormat;
import org.apache.commons.csv.CSVPrinter;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PathVariable;
import org.springframework.web.bind.annotation.RequestMapping;
import org.springframework.web.bind.annotation.RestController;
import remitto.server.journal.Journal;
import remitto.server.platform.Json;

/** Manifests as files. Streamed, so that their size does not matter; every download is journaled. */
@RestController
@RequestMapping("/api/runs/{id}")
class DownloadController {
    private final Runs runs;
    private final LineViews lines;
    private final Json json;
    private final Journal journal;

    DownloadController(Runs runs, LineViews lines, Json json, Journal journal) {
        this.runs = runs;
        this.lines = lines;
        this.json = json;
        this.journal = journal;
    }

    /** CSV (RFC 4180): one row a field that is written, held or kept, or one for a record without such fields. */
    @GetMapping(path = "/manifest.csv", produces = "text/csv")
    void csv(@PathVariable long id, Principal who, HttpServletResponse response) throws IOException {
        Writer out = open(id, who, response, "text/csv;charset=utf-8", "csv");
        try (CSVPrinter csv = new CSVPrinter(
                out,
                CSVFormat.RFC4180
                        .builder()
                        .setHeader(
                                "line",
                                "key",
                                "label",
                                "verdict",
                                "state",
                                "reason",
                                "destination_id",
                                "field",
                                "outcome",
                                "old",
                                "new",
                                "field_reason",
                                "answer")
                        .get())) {
            lines.each(id, line -> rows(csv, line));
        }
    }

    /** JSON Lines: one object a record. */
    @GetMapping(path = "/manifest.jsonl", produces = "application/jsonl")
    void jsonLines(@PathVariable long id, Principal who, HttpServletResponse response) throws IOException {
        try (Writer out = open(id, who, response, "application/jsonl", "jsonl")) {
            lines.each(id, line -> write(out, json.write(line) + "\n"));
        }
    }

    private Writer open(long id, Principal who, HttpServletResponse response, String type, String ending)
            throws IOException {
        Run run = runs.get(id);
        journal.write(who.getName(), "downloaded manifest", new Journal.Subject("manifest", id, run.route()), ending);
        response.setContentType(type);
        response.setHeader("Content-Disposition", "attachment; filename=\"manifest-" + id + "." + ending + "\"");
        return new BufferedWriter(new OutputStreamWriter(response.getOutputStream(), StandardCharsets.UTF_8));
    }

    private static void rows(CSVPrinter csv, LineView line) {
        try {
            if (line.fields().isEmpty()) {
                csv.printRecord(
                        line.line(),
                        line.key(),
                        line.label(),
                        line.verdict(),
                        line.state(),
                        line.reason(),
                        line.remoteId(),
                        "",
                        "",
                        "",
                        "",
                        "",
                        line.answer());
            }
            for (LineView.FieldView field : line.fields()) {
                csv.printRecord(
                        line.line(),
                        line.key(),
                        line.label(),
                        line.verdict(),
                        line.state(),
                        line.reason(),
                        line.remoteId(),
                        field.field(),
                        field.outcome(),
                        field.old().orElse(""),
                        field.fresh().orElse(""),
                        field.reason(),
                        line.answer());
            }
        } catch (IOException e) {
            throw new UncheckedIOException(e);
        }
    }

    private static void write(Writer out, String text) {
        try {
            out.write(text);
        } catch (IOException e) {
            throw new UncheckedIOException(e);
        }
    }
}

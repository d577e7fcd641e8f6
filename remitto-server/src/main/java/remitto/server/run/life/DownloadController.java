package remitto.server.run.life;

import jakarta.servlet.http.HttpServletResponse;
import java.util.List;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PathVariable;
import org.springframework.web.bind.annotation.RequestMapping;
import org.springframework.web.bind.annotation.RestController;
import remitto.server.download.Downloads;
import remitto.server.journal.Journal;
import remitto.server.manifest.LineView;
import remitto.server.manifest.LineViews;
import remitto.server.run.Runs;

/** Manifests as files. Streamed, so that their size does not matter; every download is journaled. */
@RestController
@RequestMapping("/api/runs/{id}")
class DownloadController {
    private final Runs runs;
    private final LineViews lines;
    private final Downloads downloads;

    DownloadController(Runs runs, LineViews lines, Downloads downloads) {
        this.runs = runs;
        this.lines = lines;
        this.downloads = downloads;
    }

    /** CSV (RFC 4180): one row a field that is written, held or kept, or one for a record without such fields. */
    @GetMapping(path = "/manifest.csv", produces = "text/csv")
    void csv(@PathVariable long id, HttpServletResponse response) {
        downloads.csv(
                download(id, "csv"),
                List.of(
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
                        "answer"),
                response,
                csv -> lines.each(id, line -> rows(csv, line)));
    }

    /** JSON Lines: one object a record. */
    @GetMapping(path = "/manifest.jsonl", produces = "application/jsonl")
    void jsonLines(@PathVariable long id, HttpServletResponse response) {
        downloads.jsonLines(download(id, "jsonl"), response, rows -> lines.each(id, rows::accept));
    }

    private Downloads.Download download(long id, String ending) {
        return new Downloads.Download(
                "manifest-" + id + "." + ending,
                "downloaded manifest",
                new Journal.Subject("manifest", id, runs.get(id).route()));
    }

    private static void rows(Downloads.CsvRows csv, LineView line) {
        if (line.fields().isEmpty()) {
            csv.row(
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
            csv.row(
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
    }
}

package remitto.server.held;

import jakarta.servlet.http.HttpServletResponse;
import java.util.List;
import java.util.Optional;
import java.util.function.Consumer;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.RequestMapping;
import org.springframework.web.bind.annotation.RequestParam;
import org.springframework.web.bind.annotation.RestController;
import remitto.server.download.Downloads;
import remitto.server.journal.Journal;
import remitto.server.platform.Json;

@RestController
@RequestMapping("/api/held")
class HeldController {
    private static final int PAGE = 100;
    private static final int DOWNLOAD_PAGE = 1_000;

    private final HeldRecords held;
    private final Json json;
    private final Downloads downloads;

    HeldController(HeldRecords held, Json json, Downloads downloads) {
        this.held = held;
        this.json = json;
        this.downloads = downloads;
    }

    record HeldOverview(long total, List<HeldRecords.HeldGroup> groups) {}

    /** @param next pass as {@code after} for the records that follow; absent when there are none */
    record HeldPage(List<HeldRecords.HeldRecord> records, Optional<Long> next) {}

    @GetMapping
    HeldOverview held() {
        return new HeldOverview(held.count(), held.groups());
    }

    @GetMapping("/records")
    HeldPage heldRecords(
            @RequestParam(defaultValue = "0") long routeId,
            @RequestParam(defaultValue = "") String code,
            @RequestParam(defaultValue = "") String field,
            @RequestParam(defaultValue = "") String find,
            @RequestParam(defaultValue = "0") long after) {
        List<HeldRecords.HeldRecord> records =
                held.page(new HeldRecords.Filter(routeId, code, field, find), after, PAGE);
        return new HeldPage(
                records,
                records.size() < PAGE
                        ? Optional.empty()
                        : Optional.of(records.get(records.size() - 1).id()));
    }

    /** Held records as CSV (RFC 4180), streamed; the download is journaled. */
    @GetMapping(path = "/held.csv", produces = "text/csv")
    void heldCsv(
            @RequestParam(defaultValue = "0") long routeId,
            @RequestParam(defaultValue = "") String code,
            @RequestParam(defaultValue = "") String field,
            HttpServletResponse response) {
        downloads.csv(
                download("held.csv"),
                List.of(
                        "route",
                        "key",
                        "label",
                        "field",
                        "reason",
                        "manifest",
                        "first_seen",
                        "last_seen",
                        "tries",
                        "values"),
                response,
                csv -> each(
                        new HeldRecords.Filter(routeId, code, field, ""),
                        one -> csv.row(
                                one.route(),
                                one.key(),
                                one.label(),
                                one.field(),
                                one.reason(),
                                one.runId(),
                                one.firstSeen(),
                                one.lastSeen(),
                                one.tries(),
                                json.write(one.values()))));
    }

    /** Held records as JSON Lines, streamed; the download is journaled. */
    @GetMapping(path = "/held.jsonl", produces = "application/jsonl")
    void heldJsonLines(
            @RequestParam(defaultValue = "0") long routeId,
            @RequestParam(defaultValue = "") String code,
            @RequestParam(defaultValue = "") String field,
            HttpServletResponse response) {
        downloads.jsonLines(
                download("held.jsonl"),
                response,
                lines -> each(new HeldRecords.Filter(routeId, code, field, ""), lines::accept));
    }

    private static Downloads.Download download(String name) {
        return new Downloads.Download(name, "downloaded held records", new Journal.Subject("held", 0, "held records"));
    }

    private void each(HeldRecords.Filter filter, Consumer<HeldRecords.HeldRecord> sink) {
        long after = 0;
        while (true) {
            List<HeldRecords.HeldRecord> page = held.page(filter, after, DOWNLOAD_PAGE);
            for (HeldRecords.HeldRecord one : page) {
                sink.accept(one);
                after = one.id();
            }
            if (page.size() < DOWNLOAD_PAGE) {
                return;
            }
        }
    }
}

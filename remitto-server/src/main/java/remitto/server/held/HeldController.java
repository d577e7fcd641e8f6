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

    /** What is held, by reason. */
    record HeldOverview(long total, List<HeldRecords.HeldGroup> groups) {}

    /**
     * A page of held records.
     *
     * @param next pass as {@code after} for the records that follow; absent when there are none
     */
    record HeldPage(List<HeldRecords.HeldRecord> records, Optional<Long> next) {}

    /** What is held, by reason. */
    @GetMapping
    HeldOverview held() {
        return new HeldOverview(held.count(), held.groups());
    }

    /**
     * A page of held records.
     *
     * @param routeId of this route only; 0 for all
     * @param code of this cause only
     * @param field of this field only
     * @param find text in key, name or reason
     * @param after number of the last record of the page before; 0 for the first
     */
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

    /**
     * Held records as CSV (RFC 4180), streamed; the download is journaled.
     *
     * @param routeId of this route only; 0 for all
     * @param code of this cause only
     * @param field of this field only
     */
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

    /**
     * Held records as JSON Lines, streamed; the download is journaled.
     *
     * @param routeId of this route only; 0 for all
     * @param code of this cause only
     * @param field of this field only
     */
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

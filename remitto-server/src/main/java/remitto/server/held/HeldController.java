package remitto.server.held;

import jakarta.servlet.http.HttpServletResponse;
import java.io.BufferedWriter;
import java.io.IOException;
import java.io.OutputStreamWriter;
import java.io.Writer;
import java.nio.charset.StandardCharsets;
import java.security.Principal;
import java.util.List;
import java.util.Optional;
import org.apache.commons.csv.CSVFormat;
import org.apache.commons.csv.CSVPrinter;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.RequestMapping;
import org.springframework.web.bind.annotation.RequestParam;
import org.springframework.web.bind.annotation.RestController;
import remitto.server.journal.Journal;
import remitto.server.platform.Json;

@RestController
@RequestMapping("/api/held")
class HeldController {
    private static final int PAGE = 100;
    private static final int DOWNLOAD_PAGE = 1_000;

    private final HeldRecords held;
    private final Json json;
    private final Journal journal;

    HeldController(HeldRecords held, Json json, Journal journal) {
        this.held = held;
        this.json = json;
        this.journal = journal;
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
            Principal who,
            HttpServletResponse response)
            throws IOException {
        Writer out = open(who, response, "text/csv;charset=utf-8", "csv");
        try (CSVPrinter csv = new CSVPrinter(
                out,
                CSVFormat.RFC4180
                        .builder()
                        .setHeader(
                                "route",
                                "key",
                                "label",
                                "field",
                                "reason",
                                "manifest",
                                "first_seen",
                                "last_seen",
                                "tries",
                                "values")
                        .get())) {
            each(
                    new HeldRecords.Filter(routeId, code, field, ""),
                    one -> csv.printRecord(
                            one.route(),
                            one.key(),
                            one.label(),
                            one.field(),
                            one.reason(),
                            one.runId(),
                            one.firstSeen(),
                            one.lastSeen(),
                            one.tries(),
                            json.write(one.values())));
        }
    }

    /** Held records as JSON Lines, streamed; the download is journaled. */
    @GetMapping(path = "/held.jsonl", produces = "application/jsonl")
    void heldJsonLines(
            @RequestParam(defaultValue = "0") long routeId,
            @RequestParam(defaultValue = "") String code,
            @RequestParam(defaultValue = "") String field,
            Principal who,
            HttpServletResponse response)
            throws IOException {
        try (Writer out = open(who, response, "application/jsonl", "jsonl")) {
            each(new HeldRecords.Filter(routeId, code, field, ""), one -> out.write(json.write(one) + "\n"));
        }
    }

    private Writer open(Principal who, HttpServletResponse response, String type, String ending) throws IOException {
        journal.write(who.getName(), "downloaded held records", new Journal.Subject("held", 0, "held records"), ending);
        response.setContentType(type);
        response.setHeader("Content-Disposition", "attachment; filename=\"held." + ending + "\"");
        return new BufferedWriter(new OutputStreamWriter(response.getOutputStream(), StandardCharsets.UTF_8));
    }

    private interface Sink {
        void take(HeldRecords.HeldRecord record) throws IOException;
    }

    private void each(HeldRecords.Filter filter, Sink sink) throws IOException {
        long after = 0;
        while (true) {
            List<HeldRecords.HeldRecord> page = held.page(filter, after, DOWNLOAD_PAGE);
            for (HeldRecords.HeldRecord one : page) {
                sink.take(one);
                after = one.id();
            }
            if (page.size() < DOWNLOAD_PAGE) {
                return;
            }
        }
    }
}

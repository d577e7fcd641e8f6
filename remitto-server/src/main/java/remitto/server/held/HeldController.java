package remitto.server.held;

import java.security.Principal;
import java.util.List;
import java.util.Optional;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PostMapping;
import org.springframework.web.bind.annotation.RequestBody;
import org.springframework.web.bind.annotation.RequestMapping;
import org.springframework.web.bind.annotation.RequestParam;
import org.springframework.web.bind.annotation.RestController;
import remitto.server.journal.Journal;

@RestController
@RequestMapping("/api/held")
class HeldController {
    private static final int PAGE = 100;

    private final HeldRecords held;
    private final Journal journal;

    HeldController(HeldRecords held, Journal journal) {
        this.held = held;
        this.journal = journal;
    }

    record HeldOverview(long total, List<HeldRecords.HeldGroup> groups) {}

    /** @param next pass as {@code after} for the records that follow; absent when there are none */
    record HeldPage(List<HeldRecords.HeldRecord> records, Optional<Long> next) {}

    record Retry(long routeId, String code) {}

    record Retried(int records) {}

    @GetMapping
    HeldOverview held() {
        return new HeldOverview(held.count(), held.groups());
    }

    @GetMapping("/records")
    HeldPage heldRecords(
            @RequestParam(defaultValue = "0") long routeId,
            @RequestParam(defaultValue = "") String code,
            @RequestParam(defaultValue = "") String find,
            @RequestParam(defaultValue = "0") long after) {
        List<HeldRecords.HeldRecord> records = held.page(routeId, code, find, after, PAGE);
        return new HeldPage(
                records,
                records.size() < PAGE
                        ? Optional.empty()
                        : Optional.of(records.get(records.size() - 1).id()));
    }

    /** The records of a group are judged anew in the route's next run, with the values of then. */
    @PostMapping("/retry")
    Retried retry(@RequestBody Retry wanted, Principal who) {
        int records = held.retry(wanted.routeId(), wanted.code());
        journal.write(
                who.getName(),
                "released held records for the next run",
                new Journal.Subject("route", wanted.routeId(), wanted.code()),
                records + " records");
        return new Retried(records);
    }
}

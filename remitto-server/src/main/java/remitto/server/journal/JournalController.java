package remitto.server.journal;

import java.util.List;
import java.util.Optional;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.RequestMapping;
import org.springframework.web.bind.annotation.RequestParam;
import org.springframework.web.bind.annotation.RestController;

@RestController
@RequestMapping("/api/journal")
class JournalController {
    private final Journal journal;

    JournalController(Journal journal) {
        this.journal = journal;
    }

    /**
     * A page of the journal.
     *
     * @param next pass as {@code before} for the entries that follow; absent when there are none
     */
    record JournalPage(List<Journal.Entry> entries, Optional<Long> next) {}

    /**
     * A page of the journal, the newest first.
     *
     * @param before number of the oldest entry of the page before; 0 for the first
     * @param find text to find
     */
    @GetMapping
    JournalPage journal(@RequestParam(defaultValue = "0") long before, @RequestParam(defaultValue = "") String find) {
        List<Journal.Entry> entries = journal.page(before, find);
        return new JournalPage(
                entries,
                entries.size() < 100
                        ? Optional.empty()
                        : Optional.of(entries.get(entries.size() - 1).id()));
    }
}

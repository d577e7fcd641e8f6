package remitto.server.stocktake;

import java.security.Principal;
import java.util.List;
import java.util.Optional;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PathVariable;
import org.springframework.web.bind.annotation.PostMapping;
import org.springframework.web.bind.annotation.RequestBody;
import org.springframework.web.bind.annotation.RequestMapping;
import org.springframework.web.bind.annotation.RequestParam;
import org.springframework.web.bind.annotation.RestController;
import remitto.server.journal.Journal;

@RestController
@RequestMapping("/api")
class StocktakeController {
    private static final int PAGE = 100;

    private final Stocktakes stocktakes;
    private final StocktakeCount count;
    private final StocktakeActions actions;
    private final Journal journal;

    StocktakeController(Stocktakes stocktakes, StocktakeCount count, StocktakeActions actions, Journal journal) {
        this.stocktakes = stocktakes;
        this.count = count;
        this.actions = actions;
        this.journal = journal;
    }

    /** The stocktake that was started. */
    record StartedStocktake(long id) {}

    /**
     * A page of findings.
     *
     * @param next pass as {@code after} for the findings that follow; absent when there are none
     */
    record FindingPage(List<Stocktake.Finding> findings, Optional<Integer> next) {}

    /** How many findings were decided. */
    record Decided(int findings) {}

    /**
     * Starts a stocktake of an object in the background.
     *
     * @param changesOnly read what changed in the destination since the last stocktake, rather than every record
     */
    @PostMapping("/destinations/{id}/objects/{object}/stocktakes")
    StartedStocktake takeStock(
            @PathVariable long id,
            @PathVariable String object,
            @RequestParam(defaultValue = "false") boolean changesOnly,
            Principal who) {
        long started = count.start(id, object, who.getName(), changesOnly);
        journal.write(
                who.getName(),
                "took stock",
                new Journal.Subject("destination", id, object),
                changesOnly ? "changes since the last stocktake" : "");
        return new StartedStocktake(started);
    }

    /** The stocktakes of a destination, the newest first. */
    @GetMapping("/destinations/{id}/stocktakes")
    List<Stocktake> stocktakes(@PathVariable long id) {
        boolean tells = count.tellsChanges(id);
        return stocktakes.of(id).stream()
                .map(one -> one.followed(tells && one.state() == Stocktake.State.DONE))
                .toList();
    }

    /** A stocktake with its counts. */
    @GetMapping("/stocktakes/{id}")
    Stocktake stocktake(@PathVariable long id) {
        Stocktake one = stocktakes.get(id);
        return one.followed(one.state() == Stocktake.State.DONE && count.tellsChanges(one.destinationId()));
    }

    /**
     * A page of what a stocktake found.
     *
     * @param kind which findings
     * @param after number of the last finding of the page before; 0 for the first
     */
    @GetMapping("/stocktakes/{id}/findings")
    FindingPage findings(
            @PathVariable long id,
            @RequestParam(required = false) Optional<FindingKind> kind,
            @RequestParam(defaultValue = "0") int after) {
        List<Stocktake.Finding> found = stocktakes.findings(id, kind, after, PAGE);
        return new FindingPage(
                found,
                found.size() < PAGE
                        ? Optional.empty()
                        : Optional.of(found.get(found.size() - 1).number()));
    }

    /** Decides about findings. Nothing is sent; the next run acts on it. */
    @PostMapping("/stocktakes/{id}/decisions")
    Decided decide(@PathVariable long id, @RequestBody StocktakeActions.StocktakeDecision wanted, Principal who) {
        return new Decided(actions.act(id, wanted, who.getName()));
    }
}

package remitto.server.run.life;

import java.security.Principal;
import java.time.Clock;
import java.time.Instant;
import java.util.List;
import java.util.Optional;
import org.springframework.web.bind.annotation.PathVariable;
import org.springframework.web.bind.annotation.PostMapping;
import org.springframework.web.bind.annotation.RequestBody;
import org.springframework.web.bind.annotation.RequestMapping;
import org.springframework.web.bind.annotation.RestController;
import remitto.core.route.RouteSpec;
import remitto.server.journal.Journal;
import remitto.server.route.Routes;

/** What is done with a route as it runs: pausing, resending all, and deciding about its held records. */
@RestController
@RequestMapping("/api/routes/{id}")
class RouteRunController {
    private final Routes routes;
    private final RunDecisions decisions;
    private final HeldDecisions heldDecisions;
    private final ResendAll resendAll;
    private final Journal journal;
    private final Clock clock;

    RouteRunController(
            Routes routes,
            RunDecisions decisions,
            HeldDecisions heldDecisions,
            ResendAll resendAll,
            Journal journal,
            Clock clock) {
        this.routes = routes;
        this.decisions = decisions;
        this.heldDecisions = heldDecisions;
        this.resendAll = resendAll;
        this.journal = journal;
        this.clock = clock;
    }

    /** Whether a route is paused. */
    record Pause(boolean paused) {}

    /**
     * Which held records are to be retried.
     *
     * @param keys of the records; none means all of the code
     */
    record Retry(String code, List<String> keys) {}

    /**
     * A state of lines in words.
     *
     * @param keys of the records; none means all whose outcome is unknown
     */
    record OutcomeWord(List<String> keys, boolean arrived) {}

    /** How many records an action concerns. */
    record AffectedRecords(int records) {}

    /** A pause lets the calls in flight finish and keeps the rest; resuming draws what it kept up again. */
    @PostMapping("/pause")
    Routes.Route pauseRoute(@PathVariable long id, @RequestBody Pause wanted, Principal who) {
        Routes.Route route = routes.get(id);
        Optional<Instant> next = wanted.paused()
                ? Optional.empty()
                : route.liveSpec().map(RouteSpec::schedule).flatMap(schedule -> schedule.begins(clock.instant()));
        routes.pause(id, wanted.paused(), next);
        journal.write(
                who.getName(),
                wanted.paused() ? "paused route" : "resumed route",
                new Journal.Subject("route", id, route.name()),
                "");
        if (wanted.paused()) {
            decisions.paused(id);
        } else {
            decisions.resumed(id, who.getName());
        }
        return routes.get(id);
    }

    /** Tries held records again now, with their values read again. */
    @PostMapping("/held/retry")
    RunController.Started retryHeld(@PathVariable long id, @RequestBody Retry wanted, Principal who) {
        return new RunController.Started(heldDecisions.retry(id, wanted.code(), wanted.keys(), who.getName()));
    }

    /** Says whether records arrived of which nobody knows. */
    @PostMapping("/held/unknown")
    AffectedRecords settleUnknown(@PathVariable long id, @RequestBody OutcomeWord word, Principal who) {
        return new AffectedRecords(heldDecisions.settle(id, word.keys(), word.arrived(), who.getName()));
    }

    /** Forgets what is known of a route's records, so that the next run compares with what is really there. */
    @PostMapping("/resend")
    AffectedRecords resendAll(@PathVariable long id, @RequestBody ResendAll.ResendRequest wanted, Principal who) {
        return new AffectedRecords(resendAll.forget(id, wanted, who.getName()));
    }
}

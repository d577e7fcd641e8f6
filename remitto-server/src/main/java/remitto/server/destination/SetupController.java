package remitto.server.destination;

import java.security.Principal;
import java.util.List;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PathVariable;
import org.springframework.web.bind.annotation.PutMapping;
import org.springframework.web.bind.annotation.RequestBody;
import org.springframework.web.bind.annotation.RequestMapping;
import org.springframework.web.bind.annotation.RestController;
import remitto.connect.profile.Profile;
import remitto.connect.profile.Setup;
import remitto.server.journal.Journal;

/** What is asked of a tool while it is being connected. */
@RestController
@RequestMapping("/api/destinations/{id}")
class SetupController {
    private final Prerequisites prerequisites;
    private final Connections connections;
    private final Destinations destinations;
    private final Journal journal;

    SetupController(Prerequisites prerequisites, Connections connections, Destinations destinations, Journal journal) {
        this.prerequisites = prerequisites;
        this.connections = connections;
        this.destinations = destinations;
        this.journal = journal;
    }

    /**
     * The accounts of a login, and the one that is used.
     *
     * @param setting connection setting that keeps the choice; blank where the tool has no accounts to choose from
     */
    record AccountChoice(String setting, List<Setup.Account> accounts) {}

    /** Whether a requirement is confirmed. */
    record RequirementConfirmation(boolean ticked) {}

    /** The accounts that this login can use in the destination. */
    @GetMapping("/accounts")
    AccountChoice accounts(@PathVariable long id) {
        var connection = connections.open(id);
        return new AccountChoice(
                connection.profile().accounts().map(Profile.Accounts::setting).orElse(""),
                connection.setup().accounts());
    }

    /** What the tool requires before it can be used, and whether it is met. */
    @GetMapping("/prerequisites")
    List<Prerequisites.PrerequisiteView> prerequisites(@PathVariable long id) {
        return prerequisites.of(id);
    }

    /** Confirms, or withdraws, a requirement that no call can check. */
    @PutMapping("/prerequisites/{name}")
    List<Prerequisites.PrerequisiteView> tickPrerequisite(
            @PathVariable long id,
            @PathVariable String name,
            @RequestBody RequirementConfirmation tick,
            Principal who) {
        prerequisites.tick(id, name, tick.ticked(), who.getName());
        journal.write(
                who.getName(),
                tick.ticked() ? "confirmed requirement" : "withdrew requirement",
                new Journal.Subject("destination", id, destinations.get(id).name()),
                name);
        return prerequisites.of(id);
    }
}

package remitto.server.rights;

import java.security.Principal;
import java.util.List;
import java.util.Optional;
import java.util.Set;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PathVariable;
import org.springframework.web.bind.annotation.PostMapping;
import org.springframework.web.bind.annotation.RequestBody;
import org.springframework.web.bind.annotation.RequestMapping;
import org.springframework.web.bind.annotation.RestController;
import remitto.core.consent.AddressHash;
import remitto.server.journal.Journal;
import remitto.server.permission.ActorNames;
import remitto.server.platform.Problem;
import remitto.server.rights.mark.ErasedMarks;

/** People who asked to be forgotten. */
@RestController
@RequestMapping("/api/erasures")
class ErasureController {
    private final ActorNames names;
    private final Erasures erasures;
    private final ErasedMarks marks;
    private final Journal journal;

    ErasureController(ActorNames names, Erasures erasures, ErasedMarks marks, Journal journal) {
        this.names = names;
        this.erasures = erasures;
        this.marks = marks;
        this.journal = journal;
    }

    /**
     * Asks to erase a person.
     *
     * @param reference of the request, such as a letter's number; no name, since it stays
     */
    record ErasureRequest(long personId, String reference) {}

    /** Asks whether an address was erased. */
    record AddressQuestion(String address) {}

    /**
     * Whether records with an address are rejected, and since which erasure.
     *
     * @param erasureId that turns the address away; absent where none does
     */
    record AddressVerdict(Optional<Long> erasureId) {}

    /** Lets a person who was erased be included again. */
    record AllowAgainRequest(String reason) {}

    /** All erasures, the newest first. No name or address is among them. */
    @GetMapping
    List<Erasures.Erasure> erasures() {
        return erasures.all();
    }

    /** The receipt, as far as it has come. */
    @GetMapping("/{id}")
    Erasures.Erasure erasure(@PathVariable long id) {
        return erasures.get(id);
    }

    /** What erasing a person would do. Changes nothing. */
    @PostMapping("/outlook/{personId}")
    Erasures.ErasureOutlook erasureOutlook(@PathVariable long personId) {
        return erasures.outlook(personId);
    }

    /** Erases a person in the background: at once in Remitto, then in every destination. Approvers and administrators only. */
    @PostMapping
    Erasures.Erasure erase(@RequestBody ErasureRequest request, Principal who) {
        if (request.reference().isBlank()) {
            throw Problem.invalid("Enter the request, for example the number of a letter.");
        }
        long id = erasures.ask(request.personId(), request.reference().strip(), who.getName());
        note(who, "asked to erase a person", id, request.reference());
        return erasures.get(id);
    }

    /** Says that a record that could not be removed from here was removed there. */
    @PostMapping("/{id}/removals/{number}/done")
    Erasures.Erasure removedByHand(@PathVariable long id, @PathVariable int number, Principal who) {
        byHand(id, number);
        erasures.settled(
                id, number, Erasures.RemovalState.DONE_BY_HAND, "By hand, as " + names.of(who.getName()) + " says.");
        note(who, "marked a record of an erasure as removed", id, "");
        return erasures.get(id);
    }

    /** Tries a removal again that was refused. */
    @PostMapping("/{id}/removals/{number}/again")
    Erasures.Erasure removeAgain(@PathVariable long id, @PathVariable int number) {
        byHand(id, number);
        erasures.settled(id, number, Erasures.RemovalState.PENDING, "");
        erasures.release(id);
        return erasures.get(id);
    }

    private void byHand(long id, int number) {
        if (erasures.removal(id, number).state() != Erasures.RemovalState.BY_HAND) {
            throw Problem.conflict("This record needs no manual step.");
        }
    }

    /** Whether an address is turned away since somebody who had it was erased. */
    @PostMapping("/question")
    AddressVerdict erasedAddress(@RequestBody AddressQuestion question) {
        Set<String> hashes = AddressHash.meanings(question.address(), "");
        if (hashes.isEmpty()) {
            throw Problem.invalid("This is neither an e-mail address nor a phone number.");
        }
        return new AddressVerdict(marks.now().ofAddresses(hashes));
    }

    /** Lets a person come in again that was erased, since the person asked for it. What was erased does not come back. */
    @PostMapping("/{id}/let-back-in")
    Erasures.Erasure letBackIn(@PathVariable long id, @RequestBody AllowAgainRequest request, Principal who) {
        erasures.get(id);
        if (request.reason().isBlank()) {
            throw Problem.invalid("Enter the reason, for example the person's request.");
        }
        erasures.letBackIn(id, request.reason().strip());
        note(who, "allowed an erased person again", id, request.reason());
        return erasures.get(id);
    }

    private void note(Principal who, String what, long id, String detail) {
        journal.write(who.getName(), what, new Journal.Subject("erasure", id, "erasure " + id), detail);
    }
}

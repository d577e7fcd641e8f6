package remitto.server.access;

import java.security.Principal;
import java.util.List;
import java.util.Locale;
import org.springframework.http.HttpStatus;
import org.springframework.web.bind.annotation.DeleteMapping;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PathVariable;
import org.springframework.web.bind.annotation.PostMapping;
import org.springframework.web.bind.annotation.RequestBody;
import org.springframework.web.bind.annotation.RequestMapping;
import org.springframework.web.bind.annotation.ResponseStatus;
import org.springframework.web.bind.annotation.RestController;
import remitto.server.journal.Journal;
import remitto.server.permission.Role;
import remitto.server.platform.Problem;

/** Inviting people by a link, which administrators hand over themselves. */
@RestController
@RequestMapping("/api/users/invitations")
class InvitationController {
    private final Invitations invitations;
    private final Journal journal;

    InvitationController(Invitations invitations, Journal journal) {
        this.invitations = invitations;
        this.journal = journal;
    }

    /** Whom to invite, and as what. */
    record NewInvitation(String email, Role role) {}

    /** Invitations that nobody has used yet, the newest first. */
    @GetMapping
    List<Invitations.Invitation> invitations() {
        return invitations.open();
    }

    /** Makes a link that lasts seven days. It is told once. */
    @PostMapping
    Invitations.MadeInvitation invite(@RequestBody NewInvitation wanted, Principal who) {
        String email = new Users.Profile(wanted.email(), "Invited person", wanted.role())
                .valid()
                .email();
        Invitations.MadeInvitation made = invitations.make(email, wanted.role(), who.getName(), Invitations.LASTS);
        journal.write(
                who.getName(),
                "invited user",
                new Journal.Subject("user", 0, email),
                wanted.role().name().toLowerCase(Locale.ROOT));
        return made;
    }

    /** Withdraws an invitation: its link leads nowhere from then on. 404 when it is not open. */
    @DeleteMapping("/{id}")
    @ResponseStatus(HttpStatus.NO_CONTENT)
    void withdraw(@PathVariable long id, Principal who) {
        Invitations.Invitation invitation = invitations.open().stream()
                .filter(one -> one.id() == id)
                .findFirst()
                .orElseThrow(() -> Problem.notFound("open invitation " + id));
        invitations.withdraw(id);
        journal.write(who.getName(), "withdrew invitation", new Journal.Subject("user", 0, invitation.email()), "");
    }
}

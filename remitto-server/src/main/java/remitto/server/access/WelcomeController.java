package remitto.server.access;

import java.time.Instant;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PathVariable;
import org.springframework.web.bind.annotation.PostMapping;
import org.springframework.web.bind.annotation.RequestBody;
import org.springframework.web.bind.annotation.RequestMapping;
import org.springframework.web.bind.annotation.RestController;
import remitto.server.journal.Journal;
import remitto.server.permission.Role;
import remitto.server.permission.UserAccount;

/** What somebody does who opens an invitation; nobody is signed in yet. */
@RestController
@RequestMapping("/api/welcome")
class WelcomeController {
    private final Invitations invitations;
    private final Journal journal;

    WelcomeController(Invitations invitations, Journal journal) {
        this.invitations = invitations;
        this.journal = journal;
    }

    /**
     * An invitation as whoever opens it sees it.
     *
     * @param email blank when they say their own
     */
    record Welcome(String email, Role role, Instant expiresAt) {}

    /**
     * The account to be made.
     *
     * @param email counts where the invitation names none
     */
    record NewAccount(String email, String name, String password) {}

    /** The account that was made, to sign in with. */
    record MadeAccount(String email) {}

    /** An open invitation; 404 when the link was used, has expired or was withdrawn. */
    @GetMapping("/{token}")
    Welcome welcome(@PathVariable String token) {
        return invitations
                .of(token)
                .map(one -> new Welcome(one.email(), one.role(), one.expiresAt()))
                .orElseThrow(Invitations::notOpen);
    }

    /** Makes the account that the invitation is for. The link works once. */
    @PostMapping("/{token}")
    MadeAccount accept(@PathVariable String token, @RequestBody NewAccount wanted) {
        UserAccount account = invitations.accept(token, wanted.email(), wanted.name(), wanted.password());
        journal.write(
                Long.toString(account.id()),
                "accepted invitation",
                new Journal.Subject("user", account.id(), account.name()),
                account.role().name());
        return new MadeAccount(account.email());
    }
}

package remitto.server.token;

import java.security.Principal;
import java.util.List;
import java.util.stream.Collectors;
import org.springframework.web.bind.annotation.DeleteMapping;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PathVariable;
import org.springframework.web.bind.annotation.PostMapping;
import org.springframework.web.bind.annotation.PutMapping;
import org.springframework.web.bind.annotation.RequestBody;
import org.springframework.web.bind.annotation.RequestMapping;
import org.springframework.web.bind.annotation.RestController;
import remitto.server.journal.Journal;

/** Accounts and tokens of programs. For administrators. */
@RestController
@RequestMapping("/api/service-accounts")
class ServiceAccountController {
    private final ServiceAccounts accounts;
    private final Tokens tokens;
    private final Journal journal;

    ServiceAccountController(ServiceAccounts accounts, Tokens tokens, Journal journal) {
        this.accounts = accounts;
        this.tokens = tokens;
        this.journal = journal;
    }

    /** All service accounts with their tokens, by name. */
    @GetMapping
    List<ServiceAccount> serviceAccounts() {
        return accounts.all();
    }

    /** Adds a service account. It can do nothing before it has a token. 409 when the name is taken. */
    @PostMapping
    ServiceAccount addServiceAccount(@RequestBody ServiceAccounts.Wanted wanted, Principal who) {
        ServiceAccount account = accounts.add(wanted);
        note(who, "added service account", account, rights(account));
        return account;
    }

    /** Changes name and rights, and whether its tokens are let in. In effect with their next request. */
    @PutMapping("/{id}")
    ServiceAccount changeServiceAccount(
            @PathVariable long id, @RequestBody ServiceAccounts.Wanted wanted, Principal who) {
        ServiceAccount account = accounts.change(id, wanted);
        note(
                who,
                "changed service account",
                account,
                (account.active() ? "active; " : "deactivated; ") + rights(account));
        return account;
    }

    /** Makes a token. What the program has to send is in the answer and is told once. */
    @PostMapping("/{id}/tokens")
    Tokens.MadeToken makeToken(@PathVariable long id, @RequestBody Tokens.NewToken wanted, Principal who) {
        ServiceAccount account = accounts.get(id);
        Tokens.MadeToken made = tokens.make(id, wanted, who.getName());
        note(
                who,
                "made token",
                account,
                made.made().name() + " (…" + made.made().tail() + "): "
                        + made.made().scopes().stream().map(Scope::words).collect(Collectors.joining(", ")) + ", until "
                        + made.made().expiresAt());
        return made;
    }

    /** Revokes a token: it is refused from its next request on. */
    @DeleteMapping("/{id}/tokens/{token}")
    ServiceAccount revokeToken(@PathVariable long id, @PathVariable long token, Principal who) {
        ServiceAccount account = accounts.get(id);
        ApiToken found = tokens.get(id, token);
        if (tokens.revoke(id, token, who.getName())) {
            note(who, "revoked token", account, found.name() + " (…" + found.tail() + ")");
        }
        return accounts.get(id);
    }

    private static String rights(ServiceAccount account) {
        return account.rights().isEmpty()
                ? "personal values are masked"
                : account.rights().stream()
                        .map(right -> "may " + right.words())
                        .sorted()
                        .collect(Collectors.joining(", "));
    }

    private void note(Principal who, String what, ServiceAccount account, String detail) {
        journal.write(
                who.getName(), what, new Journal.Subject("service account", account.id(), account.name()), detail);
    }
}

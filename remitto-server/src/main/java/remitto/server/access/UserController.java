package remitto.server.access;

import java.security.Principal;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.stream.Collectors;
import org.springframework.http.HttpStatus;
import org.springframework.web.bind.annotation.DeleteMapping;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PathVariable;
import org.springframework.web.bind.annotation.PostMapping;
import org.springframework.web.bind.annotation.PutMapping;
import org.springframework.web.bind.annotation.RequestBody;
import org.springframework.web.bind.annotation.RequestMapping;
import org.springframework.web.bind.annotation.ResponseStatus;
import org.springframework.web.bind.annotation.RestController;
import remitto.server.journal.Journal;
import remitto.server.permission.Accounts;
import remitto.server.permission.Right;
import remitto.server.permission.Role;
import remitto.server.permission.UserAccount;
import remitto.server.platform.Problem;

/** What administrators decide about users. An account is deactivated and never removed, since history names it. */
@RestController
@RequestMapping("/api/users")
class UserController {
    private final Users users;
    private final Accounts accounts;
    private final RoleRights roleRights;
    private final SignedInSessions sessions;
    private final SecondFactors factors;
    private final Journal journal;

    UserController(
            Users users,
            Accounts accounts,
            RoleRights roleRights,
            SignedInSessions sessions,
            SecondFactors factors,
            Journal journal) {
        this.users = users;
        this.accounts = accounts;
        this.roleRights = roleRights;
        this.sessions = sessions;
        this.factors = factors;
        this.journal = journal;
    }

    /** A user to be added. */
    record NewUser(String email, String name, Role role, String password) {}

    /**
     * A change of a user.
     *
     * @param rights what differs from the role's: given (true) or taken away (false)
     */
    record UserChange(String email, String name, Role role, Map<Right, Boolean> rights) {}

    /** A new password for a user. */
    record PasswordReset(String password) {}

    /** All users, deactivated ones among them. */
    @GetMapping
    List<UserAccount> users() {
        return accounts.all();
    }

    /** Adds a user with a first password. */
    @PostMapping
    UserAccount addUser(@RequestBody NewUser wanted, Principal who) {
        UserAccount user =
                users.add(new Users.Profile(wanted.email(), wanted.name(), wanted.role()), wanted.password());
        note(who, "added user", user, user.role().name());
        return user;
    }

    /** Changes name, address, role and rights; in effect with the user's next request. */
    @PutMapping("/{id}")
    UserAccount changeUser(@PathVariable long id, @RequestBody UserChange wanted, Principal who) {
        UserAccount before = users.get(id);
        UserAccount after = users.change(
                id,
                new Users.Profile(wanted.email(), wanted.name(), wanted.role()),
                Optional.ofNullable(wanted.rights()).orElse(Map.of()));
        note(
                who,
                "changed user",
                after,
                before.role() + " to " + after.role() + "; may "
                        + after.rights().stream().map(Right::words).sorted().collect(Collectors.joining(", ")));
        return after;
    }

    /** Ends all sessions of a user and lets no new one begin. */
    @PostMapping("/{id}/deactivate")
    UserAccount deactivateUser(@PathVariable long id, Principal who) {
        UserAccount user = users.activate(users.get(id).id(), false);
        int ended = sessions.endAll(id, Optional.empty());
        note(who, "deactivated user", user, ended + " sessions ended");
        return user;
    }

    /** Lets a deactivated user sign in again. */
    @PostMapping("/{id}/activate")
    UserAccount activateUser(@PathVariable long id, Principal who) {
        UserAccount user = users.activate(users.get(id).id(), true);
        note(who, "activated user", user, "");
        return user;
    }

    /** Gives a user another password and ends all of their sessions. */
    @PutMapping("/{id}/password")
    @ResponseStatus(HttpStatus.NO_CONTENT)
    void resetPassword(@PathVariable long id, @RequestBody PasswordReset wanted, Principal who) {
        users.setPassword(id, wanted.password());
        int ended = sessions.endAll(id, Optional.empty());
        note(who, "reset password", users.get(id), ended + " sessions ended");
    }

    /** Turns the second factor of a user off who lost it, and ends all of their sessions. 409 when it is off. */
    @PostMapping("/{id}/second-factor/reset")
    @ResponseStatus(HttpStatus.NO_CONTENT)
    void resetSecondFactor(@PathVariable long id, Principal who) {
        UserAccount user = users.get(id);
        if (!factors.turnOff(id)) {
            throw Problem.conflict("The second factor of " + user.name() + " is off.");
        }
        note(who, "reset second factor", user, sessions.endAll(id, Optional.empty()) + " sessions ended");
    }

    /** Where a user is signed in. */
    @GetMapping("/{id}/sessions")
    List<SignedInSessions.SignedInSession> userSessions(@PathVariable long id) {
        return sessions.of(users.get(id).id(), Optional.empty());
    }

    /** Ends all sessions of a user. */
    @DeleteMapping("/{id}/sessions")
    List<SignedInSessions.SignedInSession> endUserSessions(@PathVariable long id, Principal who) {
        UserAccount user = users.get(id);
        note(who, "ended sessions", user, Integer.toString(sessions.endAll(id, Optional.empty())));
        return sessions.of(id, Optional.empty());
    }

    /** What each role may do beyond the role itself. */
    @GetMapping("/role-rights")
    Map<Role, List<Right>> roleRights() {
        return roleRights.all();
    }

    /** Sets the rights of every role. Takes effect with the next request of each user. */
    @PutMapping("/role-rights")
    Map<Role, List<Right>> changeRoleRights(@RequestBody Map<Role, List<Right>> wanted, Principal who) {
        roleRights.change(wanted);
        journal.write(
                who.getName(), "changed rights of roles", new Journal.Subject("rights", 0, ""), wanted.toString());
        return roleRights.all();
    }

    private void note(Principal who, String what, UserAccount user, String detail) {
        journal.write(who.getName(), what, new Journal.Subject("user", user.id(), user.name()), detail);
    }
}

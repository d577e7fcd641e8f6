package remitto.server.access;

import io.swagger.v3.oas.annotations.Parameter;
import jakarta.servlet.http.HttpServletRequest;
import jakarta.servlet.http.HttpServletResponse;
import jakarta.servlet.http.HttpSession;
import java.security.Principal;
import java.time.Clock;
import java.time.Instant;
import java.util.List;
import java.util.Optional;
import java.util.Set;
import java.util.TreeSet;
import org.springframework.http.HttpStatus;
import org.springframework.security.core.context.SecurityContextHolder;
import org.springframework.security.web.csrf.CsrfToken;
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

/** Signing in and out, and what a user decides about their own account. */
@RestController
@RequestMapping("/api/session")
class SessionController {
    private static final int SHORTEST_PURPOSE = 8;
    private static final int LONGEST_PURPOSE = 300;

    private final SignIns signIns;
    private final Users users;
    private final Accounts accounts;
    private final SessionBegin begin;
    private final SignedInSessions sessions;
    private final SessionLimits limits;
    private final UserSettings settings;
    private final Journal journal;
    private final Clock clock;

    SessionController(
            SignIns signIns,
            Users users,
            Accounts accounts,
            SessionBegin begin,
            SignedInSessions sessions,
            SessionLimits limits,
            UserSettings settings,
            Journal journal,
            Clock clock) {
        this.signIns = signIns;
        this.users = users;
        this.accounts = accounts;
        this.begin = begin;
        this.sessions = sessions;
        this.limits = limits;
        this.settings = settings;
        this.journal = journal;
        this.clock = clock;
    }

    /**
     * The signed-in user.
     *
     * @param id of the account; 0 where nobody is signed in
     * @param rights in effect
     * @param purpose for which sensitive values are shown in this session; blank where none is stated
     * @param settings how things are shown
     */
    record Session(
            boolean signedIn,
            long id,
            String name,
            Optional<Role> role,
            Set<Right> rights,
            String purpose,
            UserSettings.Settings settings) {}

    /**
     * Who signs in.
     *
     * @param code of the second factor; absent where there is none, or before it is asked for
     */
    record SignIn(String email, String password, Optional<String> code) {}

    /** The name that others see. */
    record OwnName(String name) {}

    /** A change of one's own password. */
    record PasswordChange(String current, String fresh) {}

    /** The purpose for which sensitive values are shown. */
    record StatedPurpose(String purpose) {}

    /** The signed-in user with rights and settings; 401 when nobody is signed in. */
    @GetMapping
    Session session(HttpServletRequest request, @Parameter(hidden = true) CsrfToken token) {
        token.getToken();
        return Optional.ofNullable(request.getUserPrincipal())
                .flatMap(who -> accounts.find(Long.parseLong(who.getName())))
                .map(account -> of(account, request))
                .orElse(new Session(false, 0, "", Optional.empty(), Set.of(), "", UserSettings.Settings.NONE));
    }

    /**
     * Signs in. Failures are counted, and slow down whoever goes on. 401 with a detail about {@code second-factor} asks for the code of
     * the second factor: sign in again with all three.
     */
    @PostMapping
    Session signIn(@RequestBody SignIn wanted, HttpServletRequest request, HttpServletResponse response) {
        UserAccount account = signIns.signIn(
                wanted.email(),
                wanted.password(),
                Optional.ofNullable(wanted.code()).flatMap(code -> code).orElse(""),
                request.getRemoteAddr());
        begin.begin(account, "signed in", request, response);
        return of(account, request);
    }

    /** Ends the session that asks. */
    @DeleteMapping
    @ResponseStatus(HttpStatus.NO_CONTENT)
    void signOut(HttpServletRequest request) {
        Optional.ofNullable(request.getUserPrincipal())
                .flatMap(who -> accounts.find(Long.parseLong(who.getName())))
                .ifPresent(account -> signIns.note(account, "signed out", request.getRemoteAddr()));
        Optional.ofNullable(request.getSession(false)).ifPresent(HttpSession::invalidate);
        SecurityContextHolder.clearContext();
    }

    /** Changes one's own password; other sessions of the account end. */
    @PutMapping("/password")
    @ResponseStatus(HttpStatus.NO_CONTENT)
    void changePassword(@RequestBody PasswordChange wanted, HttpServletRequest request, Principal who) {
        UserAccount account = mine(who);
        if (!signIns.isPassword(account, wanted.current(), request.getRemoteAddr())) {
            throw Problem.invalid("The current password is wrong.");
        }
        users.setPassword(account.id(), wanted.fresh());
        sessions.endAll(account.id(), current(request));
        signIns.note(account, "changed password", request.getRemoteAddr());
    }

    /** Changes one's own name. 409 when another account has it. */
    @PutMapping("/name")
    Session changeName(@RequestBody OwnName wanted, HttpServletRequest request, Principal who) {
        UserAccount account = mine(who);
        UserAccount renamed = users.rename(account.id(), wanted.name());
        signIns.note(renamed, "changed name from " + account.name(), request.getRemoteAddr());
        return of(renamed, request);
    }

    /** Changes how things are shown to whoever asks. */
    @PutMapping("/settings")
    Session changeSettings(@RequestBody UserSettings.Settings wanted, HttpServletRequest request, Principal who) {
        UserAccount account = mine(who);
        settings.change(account.id(), wanted);
        return of(account, request);
    }

    /** One's own sessions, the last used first. */
    @GetMapping("/all")
    List<SignedInSessions.SignedInSession> mySessions(HttpServletRequest request, Principal who) {
        return sessions.of(mine(who).id(), current(request));
    }

    /** Ends one of one's own sessions. */
    @DeleteMapping("/all/{handle}")
    List<SignedInSessions.SignedInSession> endMySession(
            @PathVariable String handle, HttpServletRequest request, Principal who) {
        UserAccount account = mine(who);
        sessions.end(account.id(), handle);
        signIns.note(account, "ended session", request.getRemoteAddr());
        return sessions.of(account.id(), current(request));
    }

    /** States for what sensitive values are looked at. Needs the right to see them, and ends by itself. */
    @PutMapping("/purpose")
    Session statePurpose(@RequestBody StatedPurpose stated, HttpServletRequest request, Principal who) {
        UserAccount account = mine(who);
        if (!account.rights().contains(Right.SEE_SENSITIVE_VALUES)) {
            throw new Problem(
                    HttpStatus.FORBIDDEN,
                    "Your account may not see sensitive values. An administrator can grant this right.",
                    List.of());
        }
        String purpose = stated.purpose().strip();
        if (purpose.length() < SHORTEST_PURPOSE || purpose.length() > LONGEST_PURPOSE) {
            throw Problem.invalid(
                    "State the purpose in " + SHORTEST_PURPOSE + " to " + LONGEST_PURPOSE + " characters.");
        }
        HttpSession session = request.getSession();
        session.setAttribute(SignedInSessions.PURPOSE, purpose);
        session.setAttribute(
                SignedInSessions.PURPOSE_UNTIL,
                clock.instant().plus(limits.purpose()).toEpochMilli());
        journal.write(
                who.getName(),
                "stated purpose to see sensitive values",
                new Journal.Subject("user", account.id(), account.name()),
                purpose);
        return of(account, request);
    }

    private UserAccount mine(Principal who) {
        return accounts.find(Long.parseLong(who.getName())).orElseThrow(() -> Problem.notFound("account"));
    }

    private static Optional<String> current(HttpServletRequest request) {
        return Optional.ofNullable(request.getSession(false)).map(HttpSession::getId);
    }

    private Session of(UserAccount account, HttpServletRequest request) {
        return new Session(
                true,
                account.id(),
                account.name(),
                Optional.of(account.role()),
                new TreeSet<>(account.rights()),
                purpose(request),
                settings.of(account.id()));
    }

    private String purpose(HttpServletRequest request) {
        HttpSession session = request.getSession(false);
        boolean holds = session != null
                && session.getAttribute(SignedInSessions.PURPOSE_UNTIL) instanceof Long until
                && Instant.ofEpochMilli(until).isAfter(clock.instant());
        return holds ? String.valueOf(session.getAttribute(SignedInSessions.PURPOSE)) : "";
    }
}

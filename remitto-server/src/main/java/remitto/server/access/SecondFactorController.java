package remitto.server.access;

import jakarta.servlet.http.HttpServletRequest;
import jakarta.servlet.http.HttpSession;
import java.security.Principal;
import java.util.Optional;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PostMapping;
import org.springframework.web.bind.annotation.RequestBody;
import org.springframework.web.bind.annotation.RequestMapping;
import org.springframework.web.bind.annotation.RestController;
import remitto.server.permission.Accounts;
import remitto.server.permission.UserAccount;
import remitto.server.platform.Problem;

/** A second factor of one's own sign-in: codes of an authenticator (RFC 6238), and recovery codes. */
@RestController
@RequestMapping("/api/session/second-factor")
class SecondFactorController {
    private final SecondFactors factors;
    private final SignIns signIns;
    private final SignedInSessions sessions;
    private final Accounts accounts;

    SecondFactorController(SecondFactors factors, SignIns signIns, SignedInSessions sessions, Accounts accounts) {
        this.factors = factors;
        this.signIns = signIns;
        this.sessions = sessions;
        this.accounts = accounts;
    }

    /** One's own password, so that an open screen alone changes nothing. */
    record OwnPassword(String password) {}

    /** A code that the authenticator shows. */
    record AuthenticatorCode(String code) {}

    /** Whether one signs in with a second factor. */
    @GetMapping
    SecondFactors.SecondFactor secondFactor(Principal who) {
        return factors.of(mine(who).id());
    }

    /** Begins to set one up, with a secret that is told now alone. 409 when it is on. */
    @PostMapping
    SecondFactors.AuthenticatorSetup beginSecondFactor(
            @RequestBody OwnPassword own, HttpServletRequest request, Principal who) {
        return factors.begin(proved(own, request, who));
    }

    /** Turns it on, with the code that the authenticator shows; other sessions end. Tells the recovery codes, once. */
    @PostMapping("/confirm")
    SecondFactors.RecoveryCodes confirmSecondFactor(
            @RequestBody AuthenticatorCode shown, HttpServletRequest request, Principal who) {
        UserAccount account = mine(who);
        SecondFactors.RecoveryCodes codes = factors.confirm(account.id(), shown.code());
        sessions.endAll(
                account.id(), Optional.ofNullable(request.getSession(false)).map(HttpSession::getId));
        signIns.note(account, "turned on second factor", request.getRemoteAddr());
        return codes;
    }

    /** Makes new recovery codes; the former are worth nothing from then on. */
    @PostMapping("/recovery-codes")
    SecondFactors.RecoveryCodes newRecoveryCodes(
            @RequestBody OwnPassword own, HttpServletRequest request, Principal who) {
        UserAccount account = proved(own, request, who);
        SecondFactors.RecoveryCodes codes = factors.freshRecoveryCodes(account.id());
        signIns.note(account, "made recovery codes", request.getRemoteAddr());
        return codes;
    }

    /** Turns it off. */
    @PostMapping("/off")
    SecondFactors.SecondFactor turnOffSecondFactor(
            @RequestBody OwnPassword own, HttpServletRequest request, Principal who) {
        UserAccount account = proved(own, request, who);
        if (factors.turnOff(account.id())) {
            signIns.note(account, "turned off second factor", request.getRemoteAddr());
        }
        return factors.of(account.id());
    }

    private UserAccount proved(OwnPassword own, HttpServletRequest request, Principal who) {
        UserAccount account = mine(who);
        if (!signIns.isPassword(account, own.password(), request.getRemoteAddr())) {
            throw Problem.invalid("The password is wrong.");
        }
        return account;
    }

    private UserAccount mine(Principal who) {
        return accounts.findPerson(Long.parseLong(who.getName())).orElseThrow(() -> Problem.notFound("account"));
    }
}

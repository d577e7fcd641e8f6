package remitto.server.destination;

import jakarta.servlet.http.HttpServletRequest;
import java.net.URI;
import java.security.Principal;
import java.time.Instant;
import java.util.Optional;
import org.springframework.http.HttpHeaders;
import org.springframework.http.HttpStatus;
import org.springframework.http.ResponseEntity;
import org.springframework.web.bind.annotation.DeleteMapping;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PathVariable;
import org.springframework.web.bind.annotation.PostMapping;
import org.springframework.web.bind.annotation.RequestMapping;
import org.springframework.web.bind.annotation.RequestParam;
import org.springframework.web.bind.annotation.RestController;
import org.springframework.web.servlet.support.ServletUriComponentsBuilder;
import remitto.connect.destination.DestinationProblem;
import remitto.connect.signin.TokenCalls;
import remitto.server.journal.Journal;
import remitto.server.platform.ActorName;
import remitto.server.platform.Problem;
import remitto.server.platform.RemittoProperties;

/** Signing in at the tool itself, there and back. */
@RestController
@RequestMapping("/api")
class DelegatedSignInController {
    private static final String BACK = "/api/sign-in/back";

    private final Destinations destinations;
    private final Connections connections;
    private final DestinationTest test;
    private final Grants grants;
    private final SignInAttempts attempts;
    private final Journal journal;
    private final String publicAddress;

    DelegatedSignInController(
            Destinations destinations,
            Connections connections,
            DestinationTest test,
            Grants grants,
            SignInAttempts attempts,
            Journal journal,
            RemittoProperties properties) {
        this.publicAddress = properties.publicAddress();
        this.destinations = destinations;
        this.connections = connections;
        this.test = test;
        this.grants = grants;
        this.attempts = attempts;
        this.journal = journal;
    }

    /**
     * Who signed in to a destination, if somebody did.
     *
     * @param delegated the way that was chosen is one by which a person signs in at the tool
     * @param by blank for nobody
     */
    record DelegatedState(boolean delegated, @ActorName String by, Optional<Instant> at, Optional<Instant> renewedAt) {}

    /** Where the browser goes to sign in to a destination. */
    record SignInRedirect(String address) {}

    /** Whether somebody signed in to the destination, and who. */
    @GetMapping("/destinations/{id}/sign-in")
    DelegatedState delegatedState(@PathVariable long id) {
        Optional<Grants.SignedIn> signedIn = grants.signedIn(id);
        return new DelegatedState(
                connections.isDelegated(id),
                signedIn.map(Grants.SignedIn::by).orElse(""),
                signedIn.map(Grants.SignedIn::at),
                signedIn.flatMap(Grants.SignedIn::renewedAt));
    }

    /** Destination go to sign in; the tool sends the person back here. */
    @PostMapping("/destinations/{id}/sign-in")
    SignInRedirect beginSignIn(@PathVariable long id, Principal who) {
        if (!connections.isDelegated(id)) {
            throw Problem.invalid("This destination is not signed in to by a person.");
        }
        // Behind a proxy the request does not tell how people reach this server.
        URI back = publicAddress.isBlank()
                ? ServletUriComponentsBuilder.fromCurrentContextPath()
                        .path(BACK)
                        .build()
                        .toUri()
                : URI.create(publicAddress.replaceAll("/+$", "") + BACK);
        String verifier = TokenCalls.verifier();
        String state = attempts.begin(id, verifier, back, who.getName());
        return new SignInRedirect(
                connections.delegation(id).authorize(back, state, verifier).toString());
    }

    /** Forgets the sign-in; the routes stay as they are and cannot send until somebody signs in again. */
    @DeleteMapping("/destinations/{id}/sign-in")
    DelegatedState signOutThere(@PathVariable long id, Principal who) {
        grants.forget(id);
        connections.changed(id);
        note(who.getName(), id, "signed out of destination");
        return delegatedState(id);
    }

    /**
     * A person comes back from the tool, with a code or with the reason why not.
     *
     * @param state which sign-in this ends
     * @param code to be exchanged for a token
     * @param error what the destination refused it with
     */
    @GetMapping("/sign-in/back")
    ResponseEntity<Void> signedIn(
            @RequestParam(defaultValue = "") String state,
            @RequestParam(defaultValue = "") String code,
            @RequestParam(defaultValue = "") String error,
            Principal who,
            HttpServletRequest request) {
        SignInAttempts.Attempt attempt = attempts.end(state, who.getName())
                .orElseThrow(() -> Problem.invalid("This sign-in was not begun by you, or more than ten minutes ago;"
                        + " start it again on the destination's page."));
        long id = attempt.destinationId();
        if (code.isEmpty()) {
            destinations.tested(
                    id,
                    "",
                    error.equals("access_denied")
                            ? "The destination refused the sign-in. Nothing was changed."
                            : "The tool refused the sign-in: " + error);
        } else {
            finish(attempt, code, who.getName());
        }
        return ResponseEntity.status(HttpStatus.SEE_OTHER)
                .header(HttpHeaders.LOCATION, request.getContextPath() + "/destinations/" + id)
                .build();
    }

    private void finish(SignInAttempts.Attempt attempt, String code, String who) {
        long id = attempt.destinationId();
        try {
            var tokens = connections.delegation(id).byCode(code, attempt.back(), attempt.verifier());
            grants.keep(id, tokens, who);
            connections.changed(id);
            note(who, id, "signed in to destination");
            test.run(id);
        } catch (DestinationProblem e) {
            destinations.tested(id, "", String.valueOf(e.getMessage()));
        }
    }

    private void note(String who, long id, String what) {
        journal.write(
                who,
                what,
                new Journal.Subject("destination", id, destinations.get(id).name()),
                "");
    }
}

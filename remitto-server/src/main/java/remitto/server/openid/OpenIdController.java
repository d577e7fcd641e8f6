package remitto.server.openid;

import jakarta.servlet.http.HttpServletRequest;
import jakarta.servlet.http.HttpServletResponse;
import jakarta.servlet.http.HttpSession;
import java.net.URI;
import java.time.Clock;
import java.time.Duration;
import java.time.Instant;
import java.util.Optional;
import org.slf4j.Logger;
import org.slf4j.LoggerFactory;
import org.springframework.http.HttpHeaders;
import org.springframework.http.HttpStatus;
import org.springframework.http.ResponseEntity;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PostMapping;
import org.springframework.web.bind.annotation.RequestBody;
import org.springframework.web.bind.annotation.RequestMapping;
import org.springframework.web.bind.annotation.RequestParam;
import org.springframework.web.bind.annotation.RestController;
import org.springframework.web.servlet.support.ServletUriComponentsBuilder;
import remitto.server.access.SessionBegin;
import remitto.server.permission.UserAccount;
import remitto.server.platform.Problem;
import remitto.server.platform.RemittoProperties;

/** Signing in at the sign-in server of the company. */
@RestController
@RequestMapping("/api/session/open-id")
class OpenIdController {
    private static final Logger LOG = LoggerFactory.getLogger(OpenIdController.class);
    private static final String BACK = "/api/session/open-id/back";
    private static final Duration LASTS = Duration.ofMinutes(10);
    private static final String STATE = "remitto.open-id.state";
    private static final String NONCE = "remitto.open-id.nonce";
    private static final String VERIFIER = "remitto.open-id.verifier";
    private static final String TO = "remitto.open-id.to";
    private static final String UNTIL = "remitto.open-id.until";
    private static final String PROBLEM = "remitto.open-id.problem";

    private final OpenIdSettings settings;
    private final OpenIdSignIn signIn;
    private final SessionBegin sessions;
    private final String publicAddress;
    private final Clock clock;

    OpenIdController(
            OpenIdSettings settings,
            OpenIdSignIn signIn,
            SessionBegin sessions,
            RemittoProperties properties,
            Clock clock) {
        this.settings = settings;
        this.signIn = signIn;
        this.sessions = sessions;
        this.publicAddress = properties.publicAddress();
        this.clock = clock;
    }

    /**
     * How people can sign in.
     *
     * @param available whether there is a sign-in server
     * @param name what people call it; blank where there is none
     * @param localAccounts whether a password kept here lets in too
     * @param problem why the last sign-in of this browser came to nothing, told once; blank when it did not
     */
    record OpenIdEntrance(boolean available, String name, boolean localAccounts, String problem) {}

    /** Where somebody wanted to go. */
    record OpenIdBeginning(String to) {}

    /** Where the browser goes to sign in. */
    record OpenIdRedirect(String address) {}

    /** How people can sign in here. */
    @GetMapping
    OpenIdEntrance openIdEntrance(HttpServletRequest request) {
        Optional<HttpSession> session = Optional.ofNullable(request.getSession(false));
        String problem = session.map(one -> one.getAttribute(PROBLEM))
                .map(String::valueOf)
                .orElse("");
        session.ifPresent(one -> one.removeAttribute(PROBLEM));
        return new OpenIdEntrance(
                settings.isOn(),
                settings.isOn() ? settings.name() : "",
                !settings.isOn() || settings.localAccounts(),
                problem);
    }

    /** Begins a sign-in of this browser; it has ten minutes. 409 where there is no sign-in server, 503 when it does not answer. */
    @PostMapping
    OpenIdRedirect beginOpenId(@RequestBody OpenIdBeginning wanted, HttpServletRequest request) {
        if (!settings.isOn()) {
            throw Problem.conflict("This installation has no sign-in server.");
        }
        OpenIdProvider.Attempt attempt = OpenIdProvider.Attempt.fresh();
        try {
            String address = signIn.authorize(attempt, back()).toString();
            HttpSession session = kept(request);
            session.setAttribute(STATE, attempt.state());
            session.setAttribute(NONCE, attempt.nonce());
            session.setAttribute(VERIFIER, attempt.verifier());
            session.setAttribute(TO, isOurs(wanted.to()) ? wanted.to() : "/");
            session.setAttribute(UNTIL, clock.instant().plus(LASTS).toEpochMilli());
            return new OpenIdRedirect(address);
        } catch (OpenIdFailure e) {
            LOG.warn("The sign-in server cannot be reached", e);
            throw new Problem(HttpStatus.SERVICE_UNAVAILABLE, e.getMessage(), java.util.List.of());
        }
    }

    /** What is kept of somebody who is not signed in lasts as long as signing in may take, and no session longer: anybody can ask for one. */
    private static HttpSession kept(HttpServletRequest request) {
        return Optional.ofNullable(request.getSession(false)).orElseGet(() -> {
            HttpSession session = request.getSession(true);
            session.setMaxInactiveInterval((int) LASTS.toSeconds());
            return session;
        });
    }

    /** A path of this installation, and no address of another. */
    private static boolean isOurs(String to) {
        return to.startsWith("/") && !to.startsWith("//") && !to.contains("\\");
    }

    private URI back() {
        // Behind a proxy the request does not tell how people reach this server.
        return publicAddress.isBlank()
                ? ServletUriComponentsBuilder.fromCurrentContextPath()
                        .path(BACK)
                        .build()
                        .toUri()
                : URI.create(publicAddress.replaceAll("/+$", "") + BACK);
    }

    /**
     * Somebody comes back from the sign-in server, with a code or with the reason why not.
     *
     * @param state which sign-in this ends; it counts once, and in the browser that began it
     * @param code to be exchanged for what the sign-in server says of them
     * @param error what it refused with
     */
    @GetMapping("/back")
    ResponseEntity<Void> signedInThere(
            @RequestParam(defaultValue = "") String state,
            @RequestParam(defaultValue = "") String code,
            @RequestParam(defaultValue = "") String error,
            HttpServletRequest request,
            HttpServletResponse response) {
        try {
            Begun begun = taken(request, state);
            if (code.isEmpty()) {
                throw new OpenIdFailure(
                        error.equals("access_denied")
                                ? "The sign-in was refused there."
                                : "The sign-in server could not sign you in. Try again.");
            }
            UserAccount account = signIn.account(code, begun.attempt(), back());
            sessions.begin(account, "signed in by " + settings.name(), request, response);
            return go(request.getContextPath() + begun.to());
        } catch (OpenIdFailure e) {
            LOG.warn("A sign-in at the sign-in server came to nothing", e);
            kept(request).setAttribute(PROBLEM, String.valueOf(e.getMessage()));
            return go(request.getContextPath() + "/sign-in");
        }
    }

    private static ResponseEntity<Void> go(String to) {
        return ResponseEntity.status(HttpStatus.SEE_OTHER)
                .header(HttpHeaders.LOCATION, to)
                .build();
    }

    private record Begun(OpenIdProvider.Attempt attempt, String to) {}

    /** The sign-in that this browser began; nothing is left of it, so that it ends once. */
    private Begun taken(HttpServletRequest request, String state) {
        HttpSession session = Optional.ofNullable(request.getSession(false)).orElseThrow(OpenIdController::notBegun);
        if (!state.equals(session.getAttribute(STATE))
                || !(session.getAttribute(UNTIL) instanceof Long until)
                || !clock.instant().isBefore(Instant.ofEpochMilli(until))) {
            throw notBegun();
        }
        Begun begun = new Begun(
                new OpenIdProvider.Attempt(
                        state,
                        String.valueOf(session.getAttribute(NONCE)),
                        String.valueOf(session.getAttribute(VERIFIER))),
                String.valueOf(session.getAttribute(TO)));
        session.removeAttribute(STATE);
        session.removeAttribute(NONCE);
        session.removeAttribute(VERIFIER);
        return begun;
    }

    private static OpenIdFailure notBegun() {
        return new OpenIdFailure(
                "This sign-in was not begun in this browser, or more than ten minutes ago. Sign in again.");
    }
}

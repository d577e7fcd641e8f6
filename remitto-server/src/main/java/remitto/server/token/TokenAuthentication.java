package remitto.server.token;

import jakarta.servlet.FilterChain;
import jakarta.servlet.ServletException;
import jakarta.servlet.http.HttpServletRequest;
import jakarta.servlet.http.HttpServletResponse;
import java.io.IOException;
import java.time.Clock;
import java.time.Duration;
import java.util.List;
import java.util.Optional;
import java.util.regex.Pattern;
import java.util.stream.Collectors;
import org.springframework.http.HttpHeaders;
import org.springframework.http.HttpMethod;
import org.springframework.http.HttpStatus;
import org.springframework.security.core.context.SecurityContext;
import org.springframework.security.core.context.SecurityContextHolder;
import org.springframework.web.filter.OncePerRequestFilter;
import remitto.server.failure.SecurityAnswers;
import remitto.server.permission.Accounts;
import remitto.server.permission.CurrentUser;
import remitto.server.permission.UserAccount;

/**
 * Lets in programs that show a token as RFC 6750 says, for what its scopes and narrowing allow. Such a request belongs to no session,
 * whatever cookies it carries, and nobody can forge it from a page, so that it needs no token against that.
 */
public final class TokenAuthentication extends OncePerRequestFilter {
    private static final String CONTEXT = TokenAuthentication.class.getName();
    private static final String BEARER = "Bearer ";
    private static final Pattern TOKEN = Pattern.compile(Tokens.PREFIX + "[A-Za-z0-9_-]{43}");

    private final Tokens tokens;
    private final TokenRates rates;
    private final TokenReach reach;
    private final OperationScopes scopes;
    private final Accounts accounts;
    private final SecurityAnswers answers;
    private final Clock clock;

    TokenAuthentication(
            Tokens tokens,
            TokenRates rates,
            TokenReach reach,
            OperationScopes scopes,
            Accounts accounts,
            SecurityAnswers answers,
            Clock clock) {
        this.tokens = tokens;
        this.rates = rates;
        this.reach = reach;
        this.scopes = scopes;
        this.accounts = accounts;
        this.answers = answers;
        this.clock = clock;
    }

    /** Whether a request was let in by a token. */
    public static boolean letIn(HttpServletRequest request) {
        return request.getAttribute(CONTEXT) != null;
    }

    /** Why a request is not let in. */
    private static final class Refused extends Exception {
        private final HttpStatus status;
        private final Optional<Duration> wait;

        Refused(HttpStatus status, String words) {
            this(status, words, Optional.empty());
        }

        Refused(HttpStatus status, String words, Optional<Duration> wait) {
            super(words);
            this.status = status;
            this.wait = wait;
        }
    }

    /** What answers in parts goes through the filters again, on another thread. */
    @Override
    protected boolean shouldNotFilterAsyncDispatch() {
        return false;
    }

    @Override
    protected void doFilterInternal(HttpServletRequest request, HttpServletResponse response, FilterChain chain)
            throws ServletException, IOException {
        Optional<String> shown = shown(request);
        if (shown.isEmpty()) {
            chain.doFilter(request, response);
            return;
        }
        if (request.getAttribute(CONTEXT) instanceof SecurityContext context) {
            SecurityContextHolder.setContext(context);
            chain.doFilter(request, response);
            return;
        }
        try {
            SecurityContext context = SecurityContextHolder.createEmptyContext();
            context.setAuthentication(CurrentUser.authentication(account(shown.get(), request), false));
            request.setAttribute(CONTEXT, context);
            SecurityContextHolder.setContext(context);
        } catch (Refused refused) {
            if (refused.status == HttpStatus.UNAUTHORIZED) {
                response.setHeader(HttpHeaders.WWW_AUTHENTICATE, "Bearer error=\"invalid_token\"");
            }
            refused.wait.ifPresent(wait ->
                    response.setHeader(HttpHeaders.RETRY_AFTER, Long.toString(Math.max(1, wait.toSeconds() + 1))));
            answers.write(response, refused.status, refused.getMessage());
            return;
        }
        chain.doFilter(request, response);
    }

    private static Optional<String> shown(HttpServletRequest request) {
        return Optional.ofNullable(request.getHeader(HttpHeaders.AUTHORIZATION))
                .filter(header -> header.regionMatches(true, 0, BEARER, 0, BEARER.length()))
                .map(header -> header.substring(BEARER.length()).strip());
    }

    private UserAccount account(String shown, HttpServletRequest request) throws Refused {
        Optional<Tokens.ShownToken> known = TOKEN.matcher(shown).matches() ? tokens.shown(shown) : Optional.empty();
        if (known.isEmpty()) {
            throw new Refused(HttpStatus.UNAUTHORIZED, "This token is not one of this installation.");
        }
        ApiToken token = known.get().token();
        if (token.revokedAt().isPresent()) {
            throw new Refused(HttpStatus.UNAUTHORIZED, "This token was revoked. Ask an administrator for a new one.");
        }
        if (!token.isOpen(clock.instant())) {
            throw new Refused(
                    HttpStatus.UNAUTHORIZED,
                    "This token expired at " + token.expiresAt() + ". Ask an administrator for a new one.");
        }
        UserAccount account = accounts.find(known.get().accountId())
                .filter(UserAccount::active)
                .orElseThrow(() ->
                        new Refused(HttpStatus.UNAUTHORIZED, "The service account of this token is deactivated."));
        Optional<Duration> wait = rates.count(token.id());
        if (wait.isPresent()) {
            throw new Refused(
                    HttpStatus.TOO_MANY_REQUESTS,
                    "This token may call " + rates.callsPerMinute() + " times a minute. Wait as Retry-After says.",
                    wait);
        }
        mayCall(token, request);
        tokens.used(token, request.getRemoteAddr());
        return new UserAccount(account.id(), "", account.name(), Scope.role(token.scopes()), true, account.rights());
    }

    private void mayCall(ApiToken token, HttpServletRequest request) throws Refused {
        String path = request.getRequestURI().substring(request.getContextPath().length());
        if (!path.startsWith("/api/")) {
            return;
        }
        Scope needed = scopes.needed(HttpMethod.valueOf(request.getMethod()), path)
                .orElseThrow(() -> new Refused(
                        HttpStatus.FORBIDDEN, "This operation is for people who sign in. No token may call it."));
        if (!token.scopes().contains(needed)) {
            throw new Refused(
                    HttpStatus.FORBIDDEN,
                    "This operation needs the scope " + needed.words() + ". This token has " + words(token.scopes())
                            + ".");
        }
        if (!reach.covers(token.narrowing(), path, Optional.ofNullable(request.getParameter("routeId")))) {
            throw new Refused(
                    HttpStatus.FORBIDDEN,
                    "This token is narrowed to some routes or destinations, and this operation is about others or about more.");
        }
    }

    private static String words(List<Scope> scopes) {
        return scopes.stream().map(Scope::words).collect(Collectors.joining(", "));
    }
}

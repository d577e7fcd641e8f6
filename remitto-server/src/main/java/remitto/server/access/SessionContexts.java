package remitto.server.access;

import jakarta.servlet.http.HttpServletRequest;
import jakarta.servlet.http.HttpServletResponse;
import jakarta.servlet.http.HttpSession;
import java.time.Clock;
import java.time.Instant;
import java.util.Optional;
import java.util.function.Supplier;
import org.springframework.security.core.context.DeferredSecurityContext;
import org.springframework.security.core.context.SecurityContext;
import org.springframework.security.core.context.SecurityContextHolder;
import org.springframework.security.core.context.SecurityContextImpl;
import org.springframework.security.web.context.HttpRequestResponseHolder;
import org.springframework.security.web.context.SecurityContextRepository;
import org.springframework.session.FindByIndexNameSessionRepository;
import org.springframework.stereotype.Component;
import remitto.server.permission.Accounts;
import remitto.server.permission.ActorNames;
import remitto.server.permission.CurrentUser;

/**
 * A session holds the id of an account and nothing else of it. Role, rights and whether it is active are read with every request, so that
 * what an administrator takes away is gone at once.
 */
@Component
class SessionContexts implements SecurityContextRepository {
    private static final String USER = FindByIndexNameSessionRepository.PRINCIPAL_NAME_INDEX_NAME;
    private static final int LONGEST_BROWSER = 200;

    private final Accounts accounts;
    private final SessionLimits limits;
    private final Clock clock;

    SessionContexts(Accounts accounts, SessionLimits limits, Clock clock) {
        this.accounts = accounts;
        this.limits = limits;
        this.clock = clock;
    }

    @Override
    public DeferredSecurityContext loadDeferredContext(HttpServletRequest request) {
        return new Deferred(() -> load(request));
    }

    @Override
    @Deprecated
    public SecurityContext loadContext(HttpRequestResponseHolder holder) {
        return load(holder.getRequest()).orElseGet(SecurityContextHolder::createEmptyContext);
    }

    @Override
    public void saveContext(SecurityContext context, HttpServletRequest request, HttpServletResponse response) {
        var who = Optional.ofNullable(context.getAuthentication()).filter(one -> ActorNames.isUser(one.getName()));
        if (who.isEmpty()) {
            Optional.ofNullable(request.getSession(false)).ifPresent(HttpSession::invalidate);
            return;
        }
        HttpSession session = request.getSession(true);
        session.setAttribute(USER, who.get().getName());
        session.setAttribute(SignedInSessions.SINCE, clock.instant().toEpochMilli());
        session.setAttribute(SignedInSessions.ADDRESS, request.getRemoteAddr());
        String browser = Optional.ofNullable(request.getHeader("User-Agent")).orElse("");
        session.setAttribute(
                SignedInSessions.BROWSER, browser.substring(0, Math.min(LONGEST_BROWSER, browser.length())));
    }

    @Override
    public boolean containsContext(HttpServletRequest request) {
        HttpSession session = request.getSession(false);
        return session != null && session.getAttribute(USER) != null;
    }

    private Optional<SecurityContext> load(HttpServletRequest request) {
        HttpSession session = request.getSession(false);
        if (session == null || !(session.getAttribute(USER) instanceof String id)) {
            return Optional.empty();
        }
        Instant since = Instant.ofEpochMilli((Long) session.getAttribute(SignedInSessions.SINCE));
        Optional<SecurityContext> context = accounts.find(Long.parseLong(id))
                .filter(account -> account.active() && clock.instant().isBefore(since.plus(limits.longest())))
                .map(account -> new SecurityContextImpl(CurrentUser.authentication(account, hasPurpose(session))));
        if (context.isEmpty()) {
            session.invalidate();
        }
        return context;
    }

    private boolean hasPurpose(HttpSession session) {
        return session.getAttribute(SignedInSessions.PURPOSE_UNTIL) instanceof Long until
                && clock.instant().toEpochMilli() < until;
    }

    /** Read when it is first asked for, and once. */
    private static final class Deferred implements DeferredSecurityContext {
        private final Supplier<Optional<SecurityContext>> load;
        private Optional<Optional<SecurityContext>> loaded = Optional.empty();
        private Optional<SecurityContext> context = Optional.empty();

        Deferred(Supplier<Optional<SecurityContext>> load) {
            this.load = load;
        }

        @Override
        public SecurityContext get() {
            if (loaded.isEmpty()) {
                loaded = Optional.of(load.get());
                context = Optional.of(loaded.get().orElseGet(SecurityContextHolder::createEmptyContext));
            }
            return context.orElseThrow();
        }

        @Override
        public boolean isGenerated() {
            get();
            return loaded.flatMap(one -> one).isEmpty();
        }
    }
}

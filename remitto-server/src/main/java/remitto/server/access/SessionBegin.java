package remitto.server.access;

import jakarta.servlet.http.HttpServletRequest;
import jakarta.servlet.http.HttpServletResponse;
import jakarta.servlet.http.HttpSession;
import java.util.Optional;
import org.springframework.security.core.context.SecurityContext;
import org.springframework.security.core.context.SecurityContextHolder;
import org.springframework.stereotype.Component;
import remitto.server.permission.CurrentUser;
import remitto.server.permission.UserAccount;

/** Begins the session of somebody who was let in, by whatever way. What the browser had before ends with it. */
@Component
public class SessionBegin {
    private final SessionContexts contexts;
    private final SignIns signIns;

    SessionBegin(SessionContexts contexts, SignIns signIns) {
        this.contexts = contexts;
        this.signIns = signIns;
    }

    /** @param how they were let in, as the journal tells it */
    public void begin(UserAccount account, String how, HttpServletRequest request, HttpServletResponse response) {
        Optional.ofNullable(request.getSession(false)).ifPresent(HttpSession::invalidate);
        SecurityContext context = SecurityContextHolder.createEmptyContext();
        context.setAuthentication(CurrentUser.authentication(account, false));
        SecurityContextHolder.setContext(context);
        contexts.saveContext(context, request, response);
        signIns.note(account, how, request.getRemoteAddr());
    }
}

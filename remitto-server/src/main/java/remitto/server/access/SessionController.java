package remitto.server.access;

import io.swagger.v3.oas.annotations.Parameter;
import jakarta.servlet.http.HttpServletRequest;
import jakarta.servlet.http.HttpServletResponse;
import java.util.List;
import java.util.Optional;
import org.springframework.http.HttpStatus;
import org.springframework.security.authentication.AuthenticationManager;
import org.springframework.security.authentication.UsernamePasswordAuthenticationToken;
import org.springframework.security.core.Authentication;
import org.springframework.security.core.AuthenticationException;
import org.springframework.security.core.context.SecurityContext;
import org.springframework.security.core.context.SecurityContextHolder;
import org.springframework.security.web.context.SecurityContextRepository;
import org.springframework.security.web.csrf.CsrfToken;
import org.springframework.web.bind.annotation.DeleteMapping;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PostMapping;
import org.springframework.web.bind.annotation.RequestBody;
import org.springframework.web.bind.annotation.RequestMapping;
import org.springframework.web.bind.annotation.ResponseStatus;
import org.springframework.web.bind.annotation.RestController;
import remitto.server.platform.Problem;

@RestController
@RequestMapping("/api/session")
class SessionController {
    private final AuthenticationManager manager;
    private final SecurityContextRepository contexts;

    SessionController(AuthenticationManager manager, SecurityContextRepository contexts) {
        this.manager = manager;
        this.contexts = contexts;
    }

    record Session(boolean signedIn, String name, Optional<Role> role) {}

    record SignIn(String email, String password) {}

    @GetMapping
    Session session(HttpServletRequest request, @Parameter(hidden = true) CsrfToken token) {
        token.getToken();
        return Optional.ofNullable((Authentication) request.getUserPrincipal())
                .filter(Authentication::isAuthenticated)
                .map(SessionController::of)
                .orElse(new Session(false, "", Optional.empty()));
    }

    @PostMapping
    Session signIn(@RequestBody SignIn wanted, HttpServletRequest request, HttpServletResponse response) {
        try {
            Authentication who = manager.authenticate(
                    UsernamePasswordAuthenticationToken.unauthenticated(wanted.email(), wanted.password()));
            if (request.getSession(false) != null) {
                request.changeSessionId();
            }
            SecurityContext context = SecurityContextHolder.createEmptyContext();
            context.setAuthentication(who);
            SecurityContextHolder.setContext(context);
            contexts.saveContext(context, request, response);
            return of(who);
        } catch (AuthenticationException e) {
            throw new Problem(HttpStatus.UNAUTHORIZED, "E-mail or password is wrong.", List.of());
        }
    }

    @DeleteMapping
    @ResponseStatus(HttpStatus.NO_CONTENT)
    void signOut(HttpServletRequest request) {
        var session = request.getSession(false);
        if (session != null) {
            session.invalidate();
        }
        SecurityContextHolder.clearContext();
    }

    private static Session of(Authentication who) {
        return new Session(
                true,
                who.getName(),
                who.getAuthorities().stream()
                        .map(authority ->
                                String.valueOf(authority.getAuthority()).replace("ROLE_", ""))
                        .filter(name -> java.util.Arrays.stream(Role.values())
                                .anyMatch(role -> role.name().equals(name)))
                        .map(Role::valueOf)
                        .findFirst());
    }
}

package remitto.server.permission;

import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import org.springframework.http.HttpStatus;
import org.springframework.security.authentication.UsernamePasswordAuthenticationToken;
import org.springframework.security.core.Authentication;
import org.springframework.security.core.GrantedAuthority;
import org.springframework.security.core.authority.SimpleGrantedAuthority;
import org.springframework.security.core.context.SecurityContextHolder;
import org.springframework.stereotype.Component;
import remitto.server.platform.Problem;

/**
 * Whoever the current request comes from. Outside a request nobody is signed in and every question is answered with no, so
 * that what shows values has to be asked on the thread of the request.
 */
@Component
public class CurrentUser {
    private static final String SENSITIVE_PURPOSE = "SENSITIVE_PURPOSE";

    /** An authentication of an account as it is now; its name is the id of the account. */
    public static Authentication authentication(UserAccount account, boolean hasStatedPurpose) {
        List<GrantedAuthority> authorities = new ArrayList<>();
        authorities.add(new SimpleGrantedAuthority("ROLE_" + account.role().name()));
        account.rights().forEach(right -> authorities.add(new SimpleGrantedAuthority(right.authority())));
        if (hasStatedPurpose) {
            authorities.add(new SimpleGrantedAuthority(SENSITIVE_PURPOSE));
        }
        return UsernamePasswordAuthenticationToken.authenticated(Long.toString(account.id()), "not kept", authorities);
    }

    public boolean may(Right right) {
        return has(right.authority());
    }

    /** Whether values of sensitive columns may be shown: the right, and a purpose stated in this session. */
    public boolean maySeeSensitive() {
        return may(Right.SEE_PERSONAL_VALUES) && may(Right.SEE_SENSITIVE_VALUES) && has(SENSITIVE_PURPOSE);
    }

    /** Whether the user has the role, or one above it. */
    public boolean isAtLeast(Role role) {
        return role().filter(mine -> mine.compareTo(role) >= 0).isPresent();
    }

    /** Whether a request may make calls to destinations: editors, and what goes on by itself. Looking alone calls nobody. */
    public boolean mayCallOut() {
        return authentication().isEmpty() || isAtLeast(Role.EDITOR);
    }

    public Optional<Role> role() {
        return java.util.Arrays.stream(Role.values())
                .filter(role -> has("ROLE_" + role.name()))
                .findFirst();
    }

    /** The id of the account, as other tables know it; empty where nobody is signed in. */
    public Optional<String> id() {
        return authentication().map(Authentication::getName);
    }

    /** @throws Problem that says which right is missing */
    public void require(Right right) {
        if (!may(right)) {
            throw new Problem(
                    HttpStatus.FORBIDDEN,
                    "Your account may not " + right.words() + ". An administrator can grant this right.",
                    List.of());
        }
    }

    private boolean has(String authority) {
        return authentication()
                .filter(who ->
                        who.getAuthorities().stream().anyMatch(granted -> authority.equals(granted.getAuthority())))
                .isPresent();
    }

    private static Optional<Authentication> authentication() {
        return Optional.ofNullable(SecurityContextHolder.getContext().getAuthentication())
                .filter(Authentication::isAuthenticated)
                .filter(who -> ActorNames.isUser(who.getName()));
    }
}

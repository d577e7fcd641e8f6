package remitto.server.openid;

import java.util.Arrays;
import java.util.Comparator;
import java.util.List;
import java.util.Optional;
import org.springframework.boot.context.properties.ConfigurationProperties;
import remitto.server.permission.Role;

/**
 * The sign-in server of the company.
 *
 * @param issuer its address, whose {@code /.well-known/openid-configuration} describes it; blank where there is none
 * @param clientId what it knows this installation by
 * @param clientSecret of this installation; blank where it is a public client, which PKCE protects
 * @param name what people call it
 * @param roleClaim which claim of the ID token tells the role
 * @param roles a value of that claim and the role it stands for, such as {@code remitto-editors=EDITOR}
 * @param localAccounts whether people can sign in by a password kept here too
 */
@ConfigurationProperties("remitto.open-id")
public record OpenIdSettings(
        String issuer,
        String clientId,
        String clientSecret,
        String name,
        String roleClaim,
        List<String> roles,
        boolean localAccounts) {
    public OpenIdSettings {
        roles = List.copyOf(roles);
        for (String one : roles) {
            String[] pair = one.split("=", 2);
            if (pair.length < 2
                    || Arrays.stream(Role.values())
                            .noneMatch(role -> role.name().equals(pair[1].strip()))) {
                throw new IllegalArgumentException("open_id.roles holds " + one
                        + "; write a value of the claim, = and one of VIEWER, EDITOR, APPROVER and ADMIN.");
            }
        }
    }

    public boolean isOn() {
        return !issuer.isBlank();
    }

    /** The highest role that any of the values stands for. */
    Optional<Role> role(List<String> values) {
        return roles.stream()
                .map(one -> one.split("=", 2))
                .filter(pair -> values.contains(pair[0].strip()))
                .map(pair -> Role.valueOf(pair[1].strip()))
                .max(Comparator.naturalOrder());
    }
}

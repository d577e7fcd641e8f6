package remitto.server.token;

import java.time.Instant;
import java.util.List;
import java.util.Optional;
import remitto.server.platform.ActorName;

/**
 * A token of a service account. What a program sends is told once, when it is made.
 *
 * @param name what it is for
 * @param tail the last characters of the token itself, to tell it from others
 * @param narrowing what it may be used on
 * @param expiresAt from when on it is refused
 * @param revokedAt from when on it was refused, however long it would have lasted
 * @param lastUsedAt to the minute; empty while it was never used
 * @param lastUsedFrom address that it was last used from
 */
record ApiToken(
        long id,
        String name,
        String tail,
        List<Scope> scopes,
        Narrowing narrowing,
        @ActorName String madeBy,
        Instant madeAt,
        Instant expiresAt,
        Optional<Instant> revokedAt,
        Optional<Instant> lastUsedAt,
        Optional<String> lastUsedFrom) {
    ApiToken {
        scopes = List.copyOf(scopes);
    }

    boolean isOpen(Instant now) {
        return revokedAt.isEmpty() && now.isBefore(expiresAt);
    }
}

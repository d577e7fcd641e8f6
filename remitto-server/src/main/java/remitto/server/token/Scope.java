package remitto.server.token;

import java.util.Collection;
import java.util.Comparator;
import java.util.Locale;
import remitto.server.permission.Role;

/** What a token may be used for. A token has one or more; none contains another. */
public enum Scope {
    /** To read what everyone who is signed in may read. */
    READ(Role.VIEWER, "read"),
    /** To prepare manifests and everything else that reads sources or asks destinations, and writes to none. */
    PREPARE(Role.EDITOR, "prepare"),
    /** To send what was prepared. */
    SEND(Role.EDITOR, "send"),
    /** To approve what a guard stopped. */
    APPROVE(Role.APPROVER, "approve"),
    /** To change definitions: sources, datasets, routes, audiences, profiles and all else. */
    DEFINE(Role.EDITOR, "define"),
    /** To manage users, tokens, rights and what needs an administrator. */
    ADMINISTER(Role.ADMIN, "administer");

    private final Role role;
    private final String words;

    Scope(Role role, String words) {
        this.role = role;
        this.words = words;
    }

    /** As it stands in a sentence and in the OpenAPI document. */
    public String words() {
        return words;
    }

    /** The least role that a person needs for what the scopes allow. */
    static Role role(Collection<Scope> scopes) {
        return scopes.stream()
                .map(scope -> scope.role)
                .max(Comparator.naturalOrder())
                .orElse(Role.VIEWER);
    }

    static Scope of(String kept) {
        return valueOf(kept.toUpperCase(Locale.ROOT));
    }
}

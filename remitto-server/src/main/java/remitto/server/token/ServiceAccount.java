package remitto.server.token;

import java.util.List;
import java.util.Set;
import remitto.server.permission.Right;

/**
 * An account that a program uses by its tokens. Nobody can sign in to it.
 *
 * @param id stable; history knows what it did by this
 * @param rights what it may see beyond what its tokens' scopes allow
 * @param tokens the newest first, revoked and expired ones among them
 */
record ServiceAccount(long id, String name, boolean active, Set<Right> rights, List<ApiToken> tokens) {
    ServiceAccount {
        rights = Set.copyOf(rights);
        tokens = List.copyOf(tokens);
    }
}

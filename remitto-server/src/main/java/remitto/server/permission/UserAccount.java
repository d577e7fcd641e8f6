package remitto.server.permission;

import java.util.Set;

/**
 * A user who may sign in, or a program that calls by tokens.
 *
 * @param id stable; what every other table knows the user by
 * @param email blank for a program
 * @param rights in effect: those of the role, with what was given to or taken from this user
 */
public record UserAccount(long id, String email, String name, Role role, boolean active, Set<Right> rights) {
    public UserAccount {
        rights = Set.copyOf(rights);
    }
}

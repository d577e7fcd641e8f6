package remitto.connect.profile;

import java.util.List;

/** What is asked of a tool while it is being connected. */
public interface Setup {
    /**
     * An account that a login can use in a destination.
     *
     * An account the login reaches.
     */
    record Account(String id, String title) {}

    /** @param there what the tool says, values separated by commas; blank for nothing */
    record Found(boolean met, String there) {}

    /** Empty when the tool has no accounts to choose from. */
    List<Account> accounts();

    /** Whether something is as it must be. */
    Found ask(Profile.Ask how);
}

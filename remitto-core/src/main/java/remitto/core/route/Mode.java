package remitto.core.route;

/** What a route does to records of its object. */
public enum Mode {
    /** Adds records that are not there; never touches one that is. */
    ADD_ONLY,
    /** Changes records that are there; never adds one. */
    UPDATE_ONLY,
    ADD_OR_UPDATE,
    /** Adds and changes, and also acts on records that left the dataset. */
    KEEP_EQUAL,
    /** Removes there what the dataset names; never adds or changes. */
    REMOVE,
    /** Who is in the dataset is on the list, and who is not is taken off it. */
    MEMBERSHIP,
    /** Adds each event once by its key; what was appended is never changed or removed. */
    APPEND;

    public boolean adds() {
        return this != UPDATE_ONLY && this != REMOVE;
    }

    public boolean updates() {
        return this == UPDATE_ONLY || this == ADD_OR_UPDATE || this == KEEP_EQUAL;
    }

    /** True when a record that left the dataset must have a consequence. */
    public boolean actsOnLeavers() {
        return this == KEEP_EQUAL || this == MEMBERSHIP;
    }

    /** True when what is there is never looked at again once it was sent. */
    public boolean onceOnly() {
        return this == APPEND || this == MEMBERSHIP;
    }
}

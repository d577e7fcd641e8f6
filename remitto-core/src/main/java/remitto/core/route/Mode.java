package remitto.core.route;

/** What a route does to records of its object. */
public enum Mode {
    /** Adds records that are not there; never touches one that is. */
    ADD_ONLY,
    /** Changes records that are there; never adds one. */
    UPDATE_ONLY,
    ADD_OR_UPDATE;

    public boolean adds() {
        return this != UPDATE_ONLY;
    }

    public boolean updates() {
        return this != ADD_ONLY;
    }
}

package remitto.core.known;

/** What stands between a record of a route and its being sent again with the same input. Order is stored. */
public enum RecordState {
    NONE,
    /** The destination refused this very input; held until something changes. */
    REFUSED,
    /** What a run did was taken back; stays so until its rule or source value changes. */
    UNDONE,
    /** A row older than the route, not to be sent until it changes. */
    OLDER,
    /** Found there before the route touched it, and to be left as it is. */
    THERE_BEFORE,
    /** It left the dataset and what its leaving asks for was done. */
    GONE,
    /** It was sent, and nobody knows whether it arrived; a person decides. */
    UNKNOWN;

    /** True when a record with the same input as before is left out without another look. */
    public boolean leftOut() {
        return this == UNDONE || this == OLDER || this == THERE_BEFORE;
    }

    /** True when a record with the same input as before is held without another look. */
    public boolean held() {
        return this == REFUSED || this == UNKNOWN;
    }
}

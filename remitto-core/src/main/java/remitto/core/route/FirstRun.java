package remitto.core.route;

/** What happens when a route meets records and rows that are older than itself. Asked, never assumed. */
public record FirstRun(AlreadyThere alreadyThere, OlderRows olderRows) {

    /** A record there that matches a row and is not bound to one yet. */
    public enum AlreadyThere {
        /** It is bound to its row and kept by the rules from then on. */
        ADOPT,
        /** It is left out for as long as it is there. */
        LEAVE
    }

    /** Rows of the first read. */
    public enum OlderRows {
        SEND,
        /** Each is left out until something in it changes. */
        WAIT_FOR_CHANGE
    }
}

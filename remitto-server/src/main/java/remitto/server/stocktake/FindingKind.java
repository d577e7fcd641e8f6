package remitto.server.stocktake;

/** What a stocktake found about a record there. */
public enum FindingKind {
    /** A field that a route wrote holds something else now. */
    EDITED,
    /** A record that a route keeps is no longer there. */
    DELETED,
    /** A record there that no route keeps. */
    STRAY,
    /** Several records there share a value that tells people or companies apart. */
    DOUBLE
}

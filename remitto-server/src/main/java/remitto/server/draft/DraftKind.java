package remitto.server.draft;

/** What can be edited for long enough to be kept meanwhile. */
public enum DraftKind {
    ROUTE,
    DATASET,
    AUDIENCE,
    CROSSWALK,
    PROFILE,
    MATCH_RULES,
    FILE_LAYOUT,
    MEASURE
}

package remitto.server.label;

/** What stands in lists, with the table that it is in. */
public enum LabelKind {
    SOURCE,
    DATASET,
    CROSSWALK,
    AUDIENCE,
    ROUTE,
    DESTINATION;

    String table() {
        return name().toLowerCase(java.util.Locale.ROOT);
    }
}

package remitto.core.destination;

/** What a destination field accepts, as its tool describes it. */
public enum FieldKind {
    TEXT,
    EMAIL,
    PHONE,
    INTEGER,
    DECIMAL,
    BOOLEAN,
    DATE,
    TIMESTAMP,
    CHOICE,
    /** Several texts, in order. */
    LIST,
    /** Rows of named values, in order. */
    ROWS
}

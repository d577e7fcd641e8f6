package remitto.core.dataset;

/** What a column means to the job. A sensitive column cannot be routed in the clear. */
public enum ColumnRole {
    KEY,
    IDENTIFIER,
    ATTRIBUTE,
    EVENT_TIME,
    UPDATED_AT,
    CONSENT,
    SENSITIVE
}

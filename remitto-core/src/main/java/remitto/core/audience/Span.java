package remitto.core.audience;

/** A stretch of the calendar. */
public enum Span {
    DAY,
    /** From Monday (ISO 8601). */
    WEEK,
    MONTH,
    YEAR
}

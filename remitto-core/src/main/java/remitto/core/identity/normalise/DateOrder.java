package remitto.core.identity.normalise;

/** Which number comes first in a date that is spelled day and month, in whatever order, and then the year. */
public enum DateOrder {
    /** As is written nearly everywhere. */
    DAY_FIRST,
    /** As is written in the United States. */
    MONTH_FIRST
}

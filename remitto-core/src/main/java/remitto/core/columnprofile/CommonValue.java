package remitto.core.columnprofile;

/** A value and how many rows hold it. */
public record CommonValue(String text, long rows) {}

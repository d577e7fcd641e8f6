package remitto.connect.source;

import java.util.OptionalInt;

/** Something a source did not do, told so that a person can act on it. */
public final class SourceProblem extends RuntimeException {

    /** What decides what happens next. */
    public enum Kind {
        UNREACHABLE,
        SIGN_IN_REFUSED,
        SQL_FAULT,
        NOT_PERMITTED,
        WOULD_WRITE,
        TOOK_TOO_LONG,
        COLUMN_GONE,
        CANCELLED,
        LOGIN_REFUSED,
        ADDRESS_REFUSED,
        ROWS_TOO_LARGE,
        NOT_OFFERED,
        BUSY
    }

    private final Kind kind;
    private final transient OptionalInt position;
    private final String serversWords;

    public SourceProblem(Kind kind, String message, OptionalInt position, Throwable cause) {
        this(kind, message, "", position, cause);
    }

    /** @param serversWords what the server said; it can hold values of rows, so it is kept apart from the message */
    public SourceProblem(Kind kind, String message, String serversWords, OptionalInt position, Throwable cause) {
        super(message, cause);
        this.kind = kind;
        this.position = position;
        this.serversWords = serversWords;
    }

    public SourceProblem(Kind kind, String message, int position) {
        this(kind, message, OptionalInt.of(position), new IllegalArgumentException(message));
    }

    public SourceProblem(Kind kind, String message) {
        this(kind, message, OptionalInt.empty(), new IllegalStateException(message));
    }

    /** The message with the server's own words; for those only who may see values of its rows. */
    public String withServersWords() {
        String message = String.valueOf(getMessage());
        return serversWords.isEmpty() ? message : message.replaceAll("\\.$", "") + ": " + serversWords;
    }

    public Kind kind() {
        return kind;
    }

    /** Where in the SQL text the fault is, counted in characters from 1. */
    public OptionalInt position() {
        return position;
    }
}

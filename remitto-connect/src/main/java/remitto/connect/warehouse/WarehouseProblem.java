package remitto.connect.warehouse;

import java.util.OptionalInt;

/** Something the warehouse did not do, told so that a person can act on it. */
public final class WarehouseProblem extends RuntimeException {

    /** What decides what happens next. */
    public enum Kind {
        UNREACHABLE,
        SIGN_IN_REFUSED,
        SQL_FAULT,
        NOT_PERMITTED,
        WOULD_WRITE,
        TOOK_TOO_LONG,
        COLUMN_GONE,
        CANCELLED
    }

    private final Kind kind;
    private final transient OptionalInt position;

    public WarehouseProblem(Kind kind, String message, OptionalInt position, Throwable cause) {
        super(message, cause);
        this.kind = kind;
        this.position = position;
    }

    public WarehouseProblem(Kind kind, String message) {
        this(kind, message, OptionalInt.empty(), new IllegalStateException(message));
    }

    public Kind kind() {
        return kind;
    }

    /** Where in the SQL text the fault is, counted in characters from 1. */
    public OptionalInt position() {
        return position;
    }
}

package remitto.connect.destination;

/** A reading call that failed for good, told so that a person can act on it. */
public final class DestinationProblem extends RuntimeException {
    /** What decides what happens next. */
    public enum Kind {
        UNREACHABLE,
        SIGN_IN_REFUSED,
        REFUSED,
        UNREADABLE
    }

    private final Kind kind;

    public DestinationProblem(Kind kind, String message) {
        super(message);
        this.kind = kind;
    }

    public Kind kind() {
        return kind;
    }
}

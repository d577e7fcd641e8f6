package remitto.connect.profile;

/** A call without an answer that can be read. */
abstract sealed class CallFailure extends RuntimeException {
    private CallFailure(String message) {
        super(message);
    }

    /** Nothing left this machine, or the tool could not be reached at all. */
    static final class NotSent extends CallFailure {
        NotSent(String message) {
            super(message);
        }
    }

    /** The call may have been taken. */
    static final class Unknown extends CallFailure {
        Unknown(String message) {
            super(message);
        }
    }
}

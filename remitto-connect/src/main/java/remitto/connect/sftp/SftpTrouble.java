package remitto.connect.sftp;

/** Why nothing came of a session, in words. */
public final class SftpTrouble extends RuntimeException {
    /** What decides what happens next. */
    public enum Kind {
        UNREACHABLE,
        SIGN_IN_REFUSED,
        /** The server shows another key than the one that is known, or may not be called. */
        REFUSED
    }

    private final Kind kind;

    public SftpTrouble(Kind kind, String message) {
        super(message);
        this.kind = kind;
    }

    public Kind kind() {
        return kind;
    }
}

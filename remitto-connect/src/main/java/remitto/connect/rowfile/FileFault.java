package remitto.connect.rowfile;

/** Why a whole file cannot be read as rows, in words that tell the place. */
public final class FileFault extends RuntimeException {
    public FileFault(String message) {
        super(message);
    }
}

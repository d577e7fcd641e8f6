package remitto.connect.outgoing;

import java.net.UnknownHostException;
import java.util.Optional;

/** An address that may not be called, found out where the connection was to be made. Nothing was sent. */
public final class RefusedAddress extends UnknownHostException {
    RefusedAddress(String message) {
        super(message);
    }

    /** Why an address was refused, if that is what a failure comes from. */
    public static Optional<String> within(Throwable failure) {
        for (Throwable cause = failure; cause != null; cause = cause.getCause()) {
            if (cause instanceof RefusedAddress) {
                return Optional.of(String.valueOf(cause.getMessage()));
            }
        }
        return Optional.empty();
    }
}

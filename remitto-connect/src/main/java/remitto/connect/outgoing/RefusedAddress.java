package remitto.connect.outgoing;

import java.net.UnknownHostException;

/** An address that may not be called, found out where the connection was to be made. Nothing was sent. */
public final class RefusedAddress extends UnknownHostException {
    RefusedAddress(String message) {
        super(message);
    }
}

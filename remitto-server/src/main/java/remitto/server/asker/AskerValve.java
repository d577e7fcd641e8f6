package remitto.server.asker;

import jakarta.servlet.ServletException;
import java.io.IOException;
import org.apache.catalina.connector.Request;
import org.apache.catalina.connector.Response;
import org.apache.catalina.valves.ValveBase;
import org.apache.coyote.ActionCode;

/** Tells who asks, and how to see that they have hung up. Tomcat tells nobody before it writes, so the connection is looked at. */
final class AskerValve extends ValveBase {
    private final Askers askers;

    AskerValve(Askers askers) {
        super(true);
        this.askers = askers;
    }

    @Override
    public void invoke(Request request, Response response) throws IOException, ServletException {
        org.apache.coyote.Request transport = request.getCoyoteRequest();
        askers.arrived(() -> hungUp(transport));
        try {
            getNext().invoke(request, response);
        } finally {
            askers.answered();
        }
    }

    /** Reads without waiting. What arrives is kept for later; at the end of the connection Tomcat says that one byte is there. */
    private static boolean hungUp(org.apache.coyote.Request transport) {
        transport.action(ActionCode.AVAILABLE, true);
        return transport.getAvailable() == 1;
    }
}

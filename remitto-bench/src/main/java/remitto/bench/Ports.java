package remitto.bench;

import java.io.IOException;
import java.net.BindException;
import java.net.InetAddress;
import java.net.ServerSocket;

/**
 * Ports of this process alone. Tests run in several processes side by side, and what one of them picks is taken some seconds later: so
 * each claims a block by listening at its first port for as long as it lives, and hands every other port of it out once.
 */
public final class Ports {
    /** Below those that outgoing connections get, so that one is still free when it is wanted again. */
    private static final int FIRST = 12_000;

    private static final int END = 30_000;
    private static final int BLOCK = 600;

    private final ServerSocket claim;
    private int last;

    private Ports(ServerSocket claim) {
        this.claim = claim;
        last = claim.getLocalPort();
    }

    /** Claims a block that nobody has. */
    public static Ports claim() throws IOException {
        for (int first = FIRST; first + BLOCK <= END; first += BLOCK) {
            try {
                return new Ports(listen(first));
            } catch (BindException taken) {
                continue;
            }
        }
        throw new IOException("every block of ports from " + FIRST + " to " + END + " is taken");
    }

    private static ServerSocket listen(int port) throws IOException {
        return new ServerSocket(port, 1, InetAddress.getLoopbackAddress());
    }

    /** The next port of the block at which nobody listens. */
    public synchronized int next() throws IOException {
        while (last + 1 < claim.getLocalPort() + BLOCK) {
            last++;
            try (ServerSocket socket = listen(last)) {
                return socket.getLocalPort();
            } catch (BindException taken) {
                continue;
            }
        }
        throw new IOException("the block of ports from " + claim.getLocalPort() + " on is used up");
    }
}

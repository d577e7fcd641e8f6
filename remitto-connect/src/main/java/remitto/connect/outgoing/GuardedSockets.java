package remitto.connect.outgoing;

import java.io.IOException;
import java.net.InetAddress;
import java.net.InetSocketAddress;
import java.net.Socket;
import java.net.SocketAddress;
import javax.net.SocketFactory;

/**
 * Sockets that look at the address they are about to connect to, so that a name cannot mean one address when it is checked and another
 * when it is called. Made by a database's driver, from its settings.
 */
public final class GuardedSockets extends SocketFactory {
    private final AddressGuard guard;

    /** @param listed as {@link AddressGuard#spelled} gives it */
    public GuardedSockets(String listed) {
        this.guard = AddressGuard.of(listed);
    }

    private static final class Guarded extends Socket {
        private final AddressGuard guard;

        Guarded(AddressGuard guard) {
            this.guard = guard;
        }

        @Override
        public void connect(SocketAddress endpoint, int timeout) throws IOException {
            if (endpoint instanceof InetSocketAddress internet && internet.getAddress() != null) {
                guard.check(internet.getHostString(), internet.getPort(), internet.getAddress());
            }
            super.connect(endpoint, timeout);
        }

        @Override
        public void connect(SocketAddress endpoint) throws IOException {
            connect(endpoint, 0);
        }
    }

    @Override
    public Socket createSocket() {
        return new Guarded(guard);
    }

    @Override
    public Socket createSocket(String host, int port) throws IOException {
        return connected(new InetSocketAddress(host, port));
    }

    @Override
    public Socket createSocket(InetAddress host, int port) throws IOException {
        return connected(new InetSocketAddress(host, port));
    }

    @Override
    public Socket createSocket(String host, int port, InetAddress from, int fromPort) throws IOException {
        return connected(new InetSocketAddress(host, port));
    }

    @Override
    public Socket createSocket(InetAddress host, int port, InetAddress from, int fromPort) throws IOException {
        return connected(new InetSocketAddress(host, port));
    }

    private Socket connected(InetSocketAddress endpoint) throws IOException {
        Socket socket = createSocket();
        try {
            socket.connect(endpoint);
            return socket;
        } catch (IOException e) {
            socket.close();
            throw e;
        }
    }
}

package remitto.connect.mariadb;

import java.io.IOException;
import java.net.InetAddress;
import java.net.Socket;
import org.mariadb.jdbc.Configuration;
import org.mariadb.jdbc.util.ConfigurableSocketFactory;
import remitto.connect.outgoing.GuardedSockets;

/** Sockets that look at the address they are about to connect to. Made by the driver, from its settings. */
public final class MariaSockets extends ConfigurableSocketFactory {
    /** Setting of the driver's configuration that holds the addresses that may be called; the driver itself knows none of that name. */
    static final String ALLOWED = "remittoAllowed";

    private GuardedSockets sockets = new GuardedSockets("");

    @Override
    public void setConfiguration(Configuration settings, String host) {
        sockets = new GuardedSockets(settings.nonMappedOptions().getProperty(ALLOWED, ""));
    }

    @Override
    public Socket createSocket() {
        return sockets.createSocket();
    }

    @Override
    public Socket createSocket(String host, int port) throws IOException {
        return sockets.createSocket(host, port);
    }

    @Override
    public Socket createSocket(String host, int port, InetAddress from, int fromPort) throws IOException {
        return sockets.createSocket(host, port, from, fromPort);
    }

    @Override
    public Socket createSocket(InetAddress host, int port) throws IOException {
        return sockets.createSocket(host, port);
    }

    @Override
    public Socket createSocket(InetAddress host, int port, InetAddress from, int fromPort) throws IOException {
        return sockets.createSocket(host, port, from, fromPort);
    }
}

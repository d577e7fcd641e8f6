package remitto.server.harness;

import java.io.DataInputStream;
import java.io.DataOutputStream;
import java.io.IOException;
import java.net.InetAddress;
import java.net.ServerSocket;
import java.net.Socket;
import java.nio.charset.StandardCharsets;
import java.util.List;
import java.util.concurrent.CopyOnWriteArrayList;
import java.util.concurrent.atomic.AtomicInteger;

/**
 * Pretends to be a PostgreSQL server and asks everybody for their password in clear text (PostgreSQL 15 manual, 55.7: Authentication
 * request 'R' with code 3, answered by a password message 'p').
 */
public final class ClearTextServer implements AutoCloseable {
    private final ServerSocket socket;
    private final List<String> passwords = new CopyOnWriteArrayList<>();
    private final AtomicInteger connections = new AtomicInteger();

    private ClearTextServer(ServerSocket socket) {
        this.socket = socket;
    }

    public static ClearTextServer start() throws IOException {
        ClearTextServer server = new ClearTextServer(new ServerSocket(0, 5, InetAddress.getLoopbackAddress()));
        Thread thread = new Thread(server::serve, "clear-text");
        thread.setDaemon(true);
        thread.start();
        return server;
    }

    public int port() {
        return socket.getLocalPort();
    }

    public List<String> passwords() {
        return passwords;
    }

    public int connections() {
        return connections.get();
    }

    private void serve() {
        while (!socket.isClosed()) {
            try (Socket one = socket.accept()) {
                connections.incrementAndGet();
                greet(one);
            } catch (IOException e) {
                continue;
            }
        }
    }

    private void greet(Socket one) throws IOException {
        DataInputStream in = new DataInputStream(one.getInputStream());
        DataOutputStream out = new DataOutputStream(one.getOutputStream());
        in.readNBytes(in.readInt() - 4);
        out.writeByte('R');
        out.writeInt(8);
        out.writeInt(3);
        out.flush();
        if (in.readByte() == 'p') {
            passwords.add(new String(in.readNBytes(in.readInt() - 4), StandardCharsets.UTF_8).strip());
        }
    }

    @Override
    public void close() throws IOException {
        socket.close();
    }
}

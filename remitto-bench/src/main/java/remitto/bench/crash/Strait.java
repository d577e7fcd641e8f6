package remitto.bench.crash;

import java.io.IOException;
import java.io.InputStream;
import java.io.OutputStream;
import java.net.InetAddress;
import java.net.ServerSocket;
import java.net.Socket;
import java.util.concurrent.locks.Condition;
import java.util.concurrent.locks.ReentrantLock;

/**
 * What lies between a server and its database: passes on what comes until it is closed to shipping. Then nothing goes either way, and
 * nobody is told, as when a network falls apart.
 */
final class Strait implements AutoCloseable {
    private static final int BUFFER = 16_384;

    private final ServerSocket listening;
    private final int target;
    private final ReentrantLock lock = new ReentrantLock();
    private final Condition opened = lock.newCondition();
    private boolean isShut;

    /** @param target port on this machine that it leads to */
    Strait(int target) throws IOException {
        this.target = target;
        this.listening = new ServerSocket(0, 200, InetAddress.getLoopbackAddress());
        daemon(this::accept);
    }

    int port() {
        return listening.getLocalPort();
    }

    void shut() {
        lock.lock();
        isShut = true;
        lock.unlock();
    }

    void open() {
        lock.lock();
        isShut = false;
        opened.signalAll();
        lock.unlock();
    }

    private static void daemon(Runnable work) {
        Thread thread = new Thread(work, "strait");
        thread.setDaemon(true);
        thread.start();
    }

    private void accept() {
        while (!listening.isClosed()) {
            try {
                Socket near = listening.accept();
                daemon(() -> connect(near));
            } catch (IOException closed) {
                return;
            }
        }
    }

    private void connect(Socket near) {
        try {
            waitUntilOpen();
            Socket far = new Socket(InetAddress.getLoopbackAddress(), target);
            near.setTcpNoDelay(true);
            far.setTcpNoDelay(true);
            daemon(() -> pass(near, far));
            pass(far, near);
        } catch (IOException e) {
            close(near);
        }
    }

    private void pass(Socket from, Socket to) {
        byte[] buffer = new byte[BUFFER];
        try (from;
                to) {
            InputStream in = from.getInputStream();
            OutputStream out = to.getOutputStream();
            for (int read = in.read(buffer); read >= 0; read = in.read(buffer)) {
                waitUntilOpen();
                out.write(buffer, 0, read);
                out.flush();
            }
        } catch (IOException e) {
            // One end is gone, so the other is closed.
        }
    }

    private void waitUntilOpen() {
        lock.lock();
        try {
            while (isShut) {
                opened.awaitUninterruptibly();
            }
        } finally {
            lock.unlock();
        }
    }

    private static void close(Socket socket) {
        try {
            socket.close();
        } catch (IOException e) {
            // It is gone, as wanted.
        }
    }

    @Override
    public void close() throws IOException {
        listening.close();
        open();
    }
}

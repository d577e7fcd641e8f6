package remitto.standins.slipway;

import java.io.IOException;
import java.util.concurrent.TimeUnit;
import java.util.concurrent.atomic.AtomicInteger;
import org.apache.sshd.server.session.ServerSession;
import org.apache.sshd.sftp.server.FileHandle;
import org.apache.sshd.sftp.server.SftpEventListener;

/** What goes wrong here when somebody asks for it. Safe to share between threads. */
final class SlipFaults implements SftpEventListener {
    private final AtomicInteger refusals = new AtomicInteger();
    private final AtomicInteger cuts = new AtomicInteger();
    private final AtomicInteger slowMillis = new AtomicInteger();

    /**
     * @param refuse how many sign-ins are refused next
     * @param cut how many connections end while a file is written
     * @param slowMillis how long each part of a file takes
     */
    record Request(int refuse, int cut, int slowMillis) {}

    void set(Request request) {
        refusals.set(request.refuse());
        cuts.set(request.cut());
        slowMillis.set(request.slowMillis());
    }

    Request left() {
        return new Request(refusals.get(), cuts.get(), slowMillis.get());
    }

    boolean refuses() {
        return refusals.getAndUpdate(left -> Math.max(0, left - 1)) > 0;
    }

    @Override
    public void written(
            ServerSession session,
            String remoteHandle,
            FileHandle localHandle,
            long offset,
            byte[] data,
            int dataOffset,
            int dataLen,
            Throwable thrown)
            throws IOException {
        pause();
        if (cuts.getAndUpdate(left -> Math.max(0, left - 1)) > 0) {
            session.close(true);
        }
    }

    private void pause() {
        try {
            TimeUnit.MILLISECONDS.sleep(slowMillis.get());
        } catch (InterruptedException e) {
            Thread.currentThread().interrupt();
        }
    }
}

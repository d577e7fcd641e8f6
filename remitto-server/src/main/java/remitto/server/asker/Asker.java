package remitto.server.asker;

import java.util.LinkedHashSet;
import java.util.Set;
import java.util.function.BooleanSupplier;

/** One request whose sender waits. */
final class Asker {
    /** A look can be misled by a byte that is still to be read; two in a row are not. */
    private static final int LOOKS = 2;

    private final BooleanSupplier hungUp;
    private final Set<Runnable> work = new LinkedHashSet<>();
    private int missed;
    private boolean gone;

    /** @param hungUp whether the connection ended; asked only while work is registered, since it reads from the connection */
    Asker(BooleanSupplier hungUp) {
        this.hungUp = hungUp;
    }

    /**
     * Registers work of the request's own thread.
     *
     * @param cancel ends it from another thread
     */
    synchronized void begun(Runnable cancel) {
        work.add(cancel);
        if (gone) {
            cancel.run();
        }
    }

    /** Waits for a look that is under way, so that nothing of a later user is cancelled. */
    synchronized void ended(Runnable cancel) {
        work.remove(cancel);
    }

    synchronized boolean isGone() {
        return gone;
    }

    synchronized void look() {
        if (gone || work.isEmpty()) {
            return;
        }
        missed = hungUp.getAsBoolean() ? missed + 1 : 0;
        if (missed >= LOOKS) {
            gone = true;
            work.forEach(Runnable::run);
        }
    }
}

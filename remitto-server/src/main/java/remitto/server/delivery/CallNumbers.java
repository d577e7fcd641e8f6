package remitto.server.delivery;

import java.util.concurrent.atomic.AtomicInteger;

/** Numbers for the calls of a run, none given twice: each claim on the run has a block of its own. */
final class CallNumbers {
    private static final int BLOCK = 1_000_000;

    private final AtomicInteger last;

    CallNumbers(int epoch) {
        this.last = new AtomicInteger(Math.multiplyExact(epoch, BLOCK));
    }

    int next() {
        return last.incrementAndGet();
    }
}

package remitto.server.receiver;

import java.util.Map;
import java.util.concurrent.ConcurrentHashMap;
import java.util.concurrent.Semaphore;
import org.springframework.stereotype.Component;

/**
 * How many calls are answered at once. A call holds a thread of the server until its body has come and is on disk; callers that take
 * their time never hold all of them, so that pages and other receivers are still answered.
 */
@Component
class CallRoom {
    /** Of the 200 threads that the server answers with. */
    static final int AT_ONCE = 120;
    /** Of one receiver. */
    static final int OF_ONE = 80;

    private final Semaphore all = new Semaphore(AT_ONCE);
    private final Map<Long, Integer> ofOne = new ConcurrentHashMap<>();

    /** @return whether there is room; whoever got it leaves again */
    boolean enter() {
        return all.tryAcquire();
    }

    void leave() {
        all.release();
    }

    /** @return whether there is room for one more call of a receiver; whoever got it leaves again */
    boolean enter(long receiver) {
        boolean[] entered = {false};
        ofOne.compute(receiver, (id, known) -> {
            int now = known == null ? 0 : known;
            entered[0] = now < OF_ONE;
            return entered[0] ? now + 1 : now;
        });
        return entered[0];
    }

    void leave(long receiver) {
        ofOne.computeIfPresent(receiver, (id, known) -> known > 1 ? known - 1 : null);
    }
}

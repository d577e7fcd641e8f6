package remitto.connect.destination;

import java.time.Duration;

/** Grants calls to a destination, one at a time, shared by all that call it. */
public interface RateLimit {
    /** Waits until a call may be made. */
    void await();

    /** The destination asked for a pause of this length. */
    void pause(Duration length);

    /** Never waits. */
    RateLimit NONE = new RateLimit() {
        @Override
        public void await() {
            // limits are off
        }

        @Override
        public void pause(Duration length) {
            // limits are off
        }
    };
}

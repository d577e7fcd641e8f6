package remitto.connect.profile;

import java.net.http.HttpRequest;
import java.time.Duration;

/** Sees every call as it is made, sign-ins among them. Told from the threads that call. */
interface CallWatcher {
    /** @return false to keep the call from being made */
    boolean calling(HttpRequest request, byte[] body);

    void answered(HttpRequest request, Reply reply, Duration took);

    CallWatcher NONE = new CallWatcher() {
        @Override
        public boolean calling(HttpRequest request, byte[] body) {
            return true;
        }

        @Override
        public void answered(HttpRequest request, Reply reply, Duration took) {
            // nobody looks
        }
    };
}

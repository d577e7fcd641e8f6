package remitto.server.harness;

import static org.awaitility.Awaitility.await;

import java.time.Duration;
import java.util.concurrent.atomic.AtomicReference;
import java.util.function.BooleanSupplier;
import java.util.function.Predicate;
import java.util.function.Supplier;

/** Waits for what another thread or process does. What never comes about ends the test, and says what was waited for. */
public final class Awaited {
    /** So long that no machine is too slow for it. */
    private static final Duration NEVER = Duration.ofMinutes(5);

    private static final Duration LOOK = Duration.ofMillis(15);

    private Awaited() {}

    /** @param what is to be so, as a sentence */
    public static void until(String what, BooleanSupplier isSo) {
        await(what)
                .atMost(NEVER)
                .pollDelay(Duration.ZERO)
                .pollInterval(LOOK)
                .pollInSameThread()
                .until(isSo::getAsBoolean);
    }

    /** The first value that is as wanted. @param what is to be so, as a sentence */
    public static <T> T value(String what, Supplier<T> asked, Predicate<T> wanted) {
        AtomicReference<T> last = new AtomicReference<>();
        until(what, () -> {
            last.set(asked.get());
            return wanted.test(last.get());
        });
        return last.get();
    }
}

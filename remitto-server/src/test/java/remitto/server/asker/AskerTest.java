package remitto.server.asker;

import static org.assertj.core.api.Assertions.assertThat;

import java.util.concurrent.atomic.AtomicBoolean;
import java.util.concurrent.atomic.AtomicInteger;
import org.junit.jupiter.api.Test;

class AskerTest {
    private final AtomicBoolean hungUp = new AtomicBoolean();
    private final AtomicInteger looks = new AtomicInteger();
    private final AtomicInteger cancelled = new AtomicInteger();
    private final Runnable cancel = cancelled::incrementAndGet;
    private final Asker asker = new Asker(() -> {
        looks.incrementAndGet();
        return hungUp.get();
    });

    @Test
    void theConnectionIsLookedAtOnlyWhileSomethingIsUnderWay() {
        asker.look();
        assertThat(looks).hasValue(0);
        asker.begun(cancel);
        asker.look();
        assertThat(looks).hasValue(1);
        asker.ended(cancel);
        asker.look();
        assertThat(looks).hasValue(1);
    }

    @Test
    void twoLooksInARowEndTheWorkOnce() {
        asker.begun(cancel);
        hungUp.set(true);
        asker.look();
        assertThat(cancelled).hasValue(0);
        asker.look();
        asker.look();
        assertThat(cancelled).hasValue(1);
        assertThat(asker.isGone()).isTrue();
    }

    @Test
    void oneLookThatWasMisledEndsNothing() {
        asker.begun(cancel);
        for (int i = 0; i < 5; i++) {
            hungUp.set(i % 2 == 0);
            asker.look();
        }
        assertThat(cancelled).hasValue(0);
        assertThat(asker.isGone()).isFalse();
    }

    @Test
    void whatBeginsAfterTheyHaveGoneEndsAtOnceAndWhatEndedIsLeftAlone() {
        asker.begun(cancel);
        asker.ended(cancel);
        AtomicInteger other = new AtomicInteger();
        Runnable second = other::incrementAndGet;
        asker.begun(second);
        hungUp.set(true);
        asker.look();
        asker.look();
        assertThat(cancelled).hasValue(0);
        assertThat(other).hasValue(1);
        asker.begun(cancel);
        assertThat(cancelled).hasValue(1);
    }
}

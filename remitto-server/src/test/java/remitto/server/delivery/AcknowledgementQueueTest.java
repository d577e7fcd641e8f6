package remitto.server.delivery;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import java.time.Duration;
import java.util.ArrayList;
import java.util.List;
import java.util.concurrent.CopyOnWriteArrayList;
import java.util.concurrent.CountDownLatch;
import java.util.concurrent.atomic.AtomicInteger;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.Timeout;
import remitto.server.harness.Awaited;
import remitto.server.run.RunLost;

@Timeout(30)
class AcknowledgementQueueTest {
    private static final Duration NEVER = Duration.ofDays(1);

    private final List<Integer> taken = new CopyOnWriteArrayList<>();
    private final List<Integer> bites = new CopyOnWriteArrayList<>();
    private final AtomicInteger looks = new AtomicInteger();

    private void takeIn(List<OpenCalls.AnsweredCall> some) {
        bites.add(some.stream().mapToInt(OpenCalls.AnsweredCall::lines).sum());
        some.forEach(call -> taken.add(call.number()));
    }

    private AcknowledgementQueue queue(boolean hasTime, AcknowledgementQueue.Limits limits) {
        AcknowledgementQueue queue = new AcknowledgementQueue(
                this::takeIn,
                () -> {
                    looks.incrementAndGet();
                    return hasTime;
                },
                limits);
        queue.follow("books");
        return queue;
    }

    private static void answer(AcknowledgementQueue queue, int calls, int lines) {
        for (int number = 1; number <= calls; number++) {
            queue.add(new OpenCalls.AnsweredCall(number, lines));
        }
    }

    private void awaitTaken(int calls) {
        Awaited.until("calls are taken in", () -> taken.size() >= calls);
    }

    /** It looks whether there is time again and again; each look that takes nothing in was a chance to. */
    private void awaitLooks(int more) {
        int until = looks.get() + more;
        Awaited.until("it looked again", () -> looks.get() >= until);
    }

    @Test
    void aMachineThatHasTimeTakesInBehindTheCalls() throws Exception {
        try (AcknowledgementQueue queue = queue(true, new AcknowledgementQueue.Limits(1_000, 1_000_000, NEVER))) {
            answer(queue, 7, 250);
            awaitTaken(7);
        }
        assertThat(taken).containsExactly(1, 2, 3, 4, 5, 6, 7);
    }

    @Test
    void aBusyMachineTakesInAtTheEndAndEveryCallOnce() throws Exception {
        AcknowledgementQueue queue = queue(false, new AcknowledgementQueue.Limits(1_000, 1_000_000, NEVER));
        answer(queue, 100, 250);
        awaitLooks(3);
        assertThat(taken).isEmpty();
        queue.close();
        assertThat(taken).hasSize(100).doesNotHaveDuplicates();
        assertThat(bites).allMatch(lines -> lines <= 1_000);
    }

    @Test
    void aBusyMachineDoesNotLetMoreThanSomeLinesWait() throws Exception {
        try (AcknowledgementQueue queue = queue(false, new AcknowledgementQueue.Limits(1_000, 2_000, NEVER))) {
            answer(queue, 20, 250);
            awaitTaken(12);
            awaitLooks(3);
            assertThat(taken).as("what is left may wait").hasSize(12);
        }
        assertThat(taken).hasSize(20);
    }

    @Test
    void aBusyMachineLetsNothingWaitForLong() throws Exception {
        try (AcknowledgementQueue queue =
                queue(false, new AcknowledgementQueue.Limits(1_000, 1_000_000, Duration.ofMillis(50)))) {
            answer(queue, 3, 250);
            awaitTaken(3);
        }
    }

    @Test
    void aCallLargerThanABiteIsTakenInAlone() {
        AcknowledgementQueue queue = new AcknowledgementQueue(
                this::takeIn, () -> true, new AcknowledgementQueue.Limits(1_000, 1_000_000, NEVER));
        queue.add(new OpenCalls.AnsweredCall(1, 4_000));
        queue.add(new OpenCalls.AnsweredCall(2, 10));
        queue.takeInAll();
        assertThat(bites).containsExactly(4_000, 10);
    }

    @Test
    void whatFailsIsSeenAndToldAtTheEnd() throws Exception {
        CountDownLatch failed = new CountDownLatch(1);
        AcknowledgementQueue queue = new AcknowledgementQueue(
                some -> {
                    failed.countDown();
                    throw new RunLost(7);
                },
                () -> true,
                new AcknowledgementQueue.Limits(1_000, 1_000_000, NEVER));
        queue.follow("books");
        assertThat(queue.areKept()).isTrue();
        answer(queue, 1, 250);
        failed.await();
        Awaited.until("the books are given up", () -> !queue.areKept());
        assertThatThrownBy(queue::close).isInstanceOf(RunLost.class).hasMessageContaining("run 7");
    }

    @Test
    void threadsThatSendMayAddWhileItIsTakenIn() throws Exception {
        AcknowledgementQueue queue = queue(true, new AcknowledgementQueue.Limits(500, 1_000_000, NEVER));
        List<Thread> senders = new ArrayList<>();
        for (int sender = 0; sender < 4; sender++) {
            int block = sender * 1_000;
            Thread thread = new Thread(() -> {
                for (int i = 0; i < 500; i++) {
                    queue.add(new OpenCalls.AnsweredCall(block + i, 10));
                }
            });
            senders.add(thread);
            thread.start();
        }
        for (Thread thread : senders) {
            thread.join();
        }
        queue.close();
        assertThat(taken).hasSize(2_000).doesNotHaveDuplicates();
    }
}

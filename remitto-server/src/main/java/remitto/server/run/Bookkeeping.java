package remitto.server.run;

import java.time.Duration;
import java.util.ArrayDeque;
import java.util.ArrayList;
import java.util.Deque;
import java.util.List;
import org.springframework.stereotype.Component;
import remitto.server.route.BoundRoute;

/**
 * Takes what answered calls brought into outcomes and known state, behind the calls: when the machine has time for it, and at
 * the latest when it is {@link #BEHIND} lines or {@link #LATEST} behind. Sending goes first, since a destination's time is
 * scarcer than the machine's.
 */
@Component
class Bookkeeping {
    static final int BEHIND = 100_000;
    static final Duration LATEST = Duration.ofSeconds(10);
    private static final int BITE = 5_000;
    private static final long LOOK_MILLIS = 200;

    private final OpenCalls calls;
    private final Outcomes outcomes;
    private final MachineLoad load;

    Bookkeeping(OpenCalls calls, Outcomes outcomes, MachineLoad load) {
        this.calls = calls;
        this.outcomes = outcomes;
        this.load = load;
    }

    /**
     * Takes the calls of a run over from whoever worked on it before, and takes in what they brought.
     *
     * @throws OpenCalls.RunLost if the run is no longer this process's own
     */
    void takeUp(BoundRoute route, long runId, int epoch) {
        calls.takeUp(runId, epoch);
        Books books = new Books(route, runId, epoch);
        calls.answered(runId).forEach(books::add);
        books.takeInAll();
    }

    /** Begins to follow the calls of a run. */
    Books follow(BoundRoute route, long runId, int epoch) {
        Books books = new Books(route, runId, epoch);
        books.keeper.start();
        return books;
    }

    /** The books of one run. Safe to share between the threads that send it. */
    final class Books {
        private final BoundRoute route;
        private final long runId;
        private final int epoch;
        private final Deque<OpenCalls.AnsweredCall> waiting = new ArrayDeque<>();
        private final Thread keeper;
        private int lines;
        private long behindSince;
        private boolean ended;
        private List<RuntimeException> failures = new ArrayList<>();

        private Books(BoundRoute route, long runId, int epoch) {
            this.route = route;
            this.runId = runId;
            this.epoch = epoch;
            this.keeper = new Thread(this::keep, "books-" + runId);
        }

        /** A call more was answered. */
        synchronized void add(OpenCalls.AnsweredCall call) {
            if (waiting.isEmpty()) {
                behindSince = System.nanoTime();
            }
            waiting.add(call);
            lines += call.lines();
        }

        /** False once the books could not be kept; {@link #close} says why. */
        synchronized boolean areKept() {
            return failures.isEmpty();
        }

        /**
         * Takes in what is left.
         *
         * @throws OpenCalls.RunLost if the run is no longer this process's own
         */
        void close() {
            synchronized (this) {
                ended = true;
                notifyAll();
            }
            takeInAll();
            try {
                keeper.join();
            } catch (InterruptedException e) {
                Thread.currentThread().interrupt();
            }
            synchronized (this) {
                failures.stream().findFirst().ifPresent(failure -> {
                    throw failure;
                });
            }
        }

        private void keep() {
            try {
                while (waitForTime()) {
                    takeIn(next());
                }
                takeInAll();
            } catch (RuntimeException e) {
                synchronized (this) {
                    failures.add(e);
                }
            } catch (InterruptedException e) {
                Thread.currentThread().interrupt();
            }
        }

        /** @return false when no more calls will be answered */
        private synchronized boolean waitForTime() throws InterruptedException {
            while (!ended && !isTime()) {
                wait(LOOK_MILLIS);
            }
            return !ended;
        }

        private boolean isTime() {
            return !waiting.isEmpty()
                    && (load.hasTime() || lines > BEHIND || System.nanoTime() - behindSince > LATEST.toNanos());
        }

        private void takeInAll() {
            for (List<OpenCalls.AnsweredCall> some = next(); !some.isEmpty(); some = next()) {
                takeIn(some);
            }
        }

        private void takeIn(List<OpenCalls.AnsweredCall> some) {
            if (!some.isEmpty()) {
                outcomes.takeIn(route, runId, epoch, some);
            }
        }

        private synchronized List<OpenCalls.AnsweredCall> next() {
            List<OpenCalls.AnsweredCall> some = new ArrayList<>();
            int taken = 0;
            while (!waiting.isEmpty()
                    && (some.isEmpty() || taken + waiting.peek().lines() <= BITE)) {
                some.add(waiting.remove());
                taken += some.get(some.size() - 1).lines();
            }
            lines -= taken;
            behindSince = System.nanoTime();
            return some;
        }
    }
}

package remitto.server.platform;

import java.util.Optional;
import java.util.function.Supplier;

/**
 * Which pool of database connections the work of a thread takes from. What one kind of work holds for long is never missing to another:
 * slow downloads or questions leave sign-ins, runs and leases alone.
 */
public enum Lane {
    /** Runs, matching, counts and all else that goes on by itself; what a thread has that says nothing. */
    WORK(16),
    /** Requests of people. */
    WEB(12),
    /** Leases, heartbeats and the timetable: short, and never to wait for anything else. */
    BEAT(4),
    /** What people ask of everybody's data while they edit. */
    QUESTIONS(3),
    /** Calls of other tools, which are kept before they are answered. */
    CALLS(2),
    /** Downloads, which take as long as their reader does. */
    DOWNLOADS(4);

    private static final ThreadLocal<Lane> CURRENT = new ThreadLocal<>();

    private final int connections;

    Lane(int connections) {
        this.connections = connections;
    }

    int connections() {
        return connections;
    }

    static Lane current() {
        return Optional.ofNullable(CURRENT.get()).orElse(WORK);
    }

    /** Does work on this thread in this lane. */
    public void run(Runnable work) {
        call(() -> {
            work.run();
            return true;
        });
    }

    /** Does work on this thread in this lane. */
    public <T> T call(Supplier<T> work) {
        Optional<Lane> before = Optional.ofNullable(CURRENT.get());
        CURRENT.set(this);
        try {
            return work.get();
        } finally {
            before.ifPresentOrElse(CURRENT::set, CURRENT::remove);
        }
    }
}

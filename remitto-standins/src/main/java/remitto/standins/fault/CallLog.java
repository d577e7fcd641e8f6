package remitto.standins.fault;

import java.time.Instant;
import java.util.ArrayDeque;
import java.util.List;

/** The latest calls, for the desk and for tests. */
public final class CallLog {
    private static final int KEPT = 5_000;

    public record Call(long number, Instant at, String client, String method, String path, int status) {}

    private final ArrayDeque<Call> calls = new ArrayDeque<>();
    private long count;

    public synchronized void add(Instant at, String client, String method, String path, int status) {
        calls.addLast(new Call(++count, at, client, method, path, status));
        if (calls.size() > KEPT) {
            calls.removeFirst();
        }
    }

    public synchronized List<Call> since(long number) {
        return calls.stream().filter(call -> call.number() > number).toList();
    }
}

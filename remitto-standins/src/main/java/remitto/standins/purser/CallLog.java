package remitto.standins.purser;

import java.time.Instant;
import java.util.ArrayDeque;
import java.util.List;

/** The latest calls, for the desk and for tests. */
final class CallLog {
    private static final int KEPT = 5_000;

    record Call(long number, Instant at, String client, String method, String path, int status) {}

    private final ArrayDeque<Call> calls = new ArrayDeque<>();
    private long count;

    synchronized void add(Instant at, String client, String method, String path, int status) {
        calls.addLast(new Call(++count, at, client, method, path, status));
        if (calls.size() > KEPT) {
            calls.removeFirst();
        }
    }

    synchronized List<Call> since(long number) {
        return calls.stream().filter(call -> call.number() > number).toList();
    }
}

package remitto.server.stocktake;

import java.time.Instant;
import java.util.HashMap;
import java.util.Map;
import remitto.connect.destination.Destination.RemoteRecord;
import remitto.core.manifest.FieldPast;

/** Whose values a destination holds, by the names it gives its clients. Not safe to share between threads. */
final class WriterCount {
    private final Map<String, Client> clients = new HashMap<>();

    /**
     * What one client wrote.
     *
     * @param us it is our own login
     * @param fields by field
     */
    record Client(boolean us, Map<String, Written> fields) {}

    /**
     * @param values that are theirs now
     * @param newest when the newest of them was written
     */
    record Written(long values, Instant newest) {
        Written and(Written other) {
            return new Written(values + other.values, newest.isAfter(other.newest) ? newest : other.newest);
        }
    }

    void count(RemoteRecord record) {
        record.stamps().forEach((field, stamp) -> {
            boolean holds = !record.fields()
                    .getOrDefault(field, remitto.core.value.Value.EMPTY)
                    .isEmpty();
            if (holds) {
                add(field, stamp);
            }
        });
    }

    private void add(String field, FieldPast.Stamp stamp) {
        clients.computeIfAbsent(stamp.by(), name -> new Client(stamp.byUs(), new HashMap<>()))
                .fields()
                .merge(field, new Written(1, stamp.at()), Written::and);
    }

    Map<String, Client> clients() {
        return clients;
    }
}

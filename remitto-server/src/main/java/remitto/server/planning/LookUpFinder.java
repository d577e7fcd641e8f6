package remitto.server.planning;

import java.util.ArrayList;
import java.util.Collection;
import java.util.HashMap;
import java.util.LinkedHashMap;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Map;
import java.util.Set;
import org.springframework.stereotype.Component;
import remitto.connect.destination.Destination.RemoteRecord;
import remitto.core.dataset.Row;
import remitto.core.destination.ObjectDescription;
import remitto.core.fieldrule.DatasetLookUp;
import remitto.core.known.Fingerprint;
import remitto.core.known.KnownIndex;
import remitto.core.known.RecordState;
import remitto.core.route.LookUps;
import remitto.core.value.Value;
import remitto.server.dataset.DatasetLookUps;
import remitto.server.destination.Connections;
import remitto.server.known.ReferredRecords;
import remitto.server.route.BoundRoute;

/** Looks up, for many rows at once, what their rules want beyond them. */
@Component
public class LookUpFinder {
    private static final int AT_ONCE = 500;

    private final ReferredRecords referred;
    private final DatasetLookUps datasets;
    private final Connections connections;

    LookUpFinder(ReferredRecords referred, DatasetLookUps datasets, Connections connections) {
        this.referred = referred;
        this.datasets = datasets;
        this.connections = connections;
    }

    public LookUps find(BoundRoute route, Collection<Row> rows) {
        if (!route.route().looksUp()) {
            return LookUps.NONE;
        }
        Set<LookUps.Wanted> wanted = new LinkedHashSet<>();
        rows.forEach(row -> wanted.addAll(route.route().lookUps(row)));
        Map<LookUps.Wanted, LookUps.Found> found = new HashMap<>();
        List<LookUps.Wanted.RecordOfRoute> records = new ArrayList<>();
        Map<DatasetLookUp, List<LookUps.Wanted>> inDatasets = new LinkedHashMap<>();
        Map<ByField, List<LookUps.Wanted>> there = new LinkedHashMap<>();
        for (LookUps.Wanted one : wanted) {
            if (one instanceof LookUps.Wanted.RecordOfRoute record) {
                records.add(record);
            } else if (one instanceof LookUps.Wanted.RowsOf row) {
                inDatasets
                        .computeIfAbsent(row.where(), way -> new ArrayList<>())
                        .add(one);
            } else if (one instanceof LookUps.Wanted.RecordsThere record) {
                there.computeIfAbsent(new ByField(record.object(), record.by()), by -> new ArrayList<>())
                        .add(one);
            }
        }
        referred.find(records, found);
        inDatasets.forEach((way, some) -> inChunks(some, chunk -> {
            Map<String, List<Value>> values = datasets.find(way, keys(chunk));
            chunk.forEach(one -> found.put(one, new LookUps.Found.Values(values.getOrDefault(one.key(), List.of()))));
        }));
        there.forEach((by, some) -> inChunks(some, chunk -> found.putAll(there(route, by, chunk))));
        return LookUps.of(found);
    }

    private record ByField(String object, String field) {}

    private interface Chunk {
        void take(List<LookUps.Wanted> some);
    }

    private static void inChunks(List<LookUps.Wanted> all, Chunk sink) {
        for (int from = 0; from < all.size(); from += AT_ONCE) {
            sink.take(all.subList(from, Math.min(all.size(), from + AT_ONCE)));
        }
    }

    private static List<String> keys(List<LookUps.Wanted> wanted) {
        return wanted.stream().map(LookUps.Wanted::key).toList();
    }

    private Map<LookUps.Wanted, LookUps.Found> there(BoundRoute route, ByField by, List<LookUps.Wanted> wanted) {
        ObjectDescription object =
                connections.describe(route.destinationId(), by.object()).description();
        Map<String, List<Value>> ids = new HashMap<>();
        List<Value> values =
                keys(wanted).stream().map(key -> (Value) new Value.Text(key)).toList();
        for (RemoteRecord one : route.connection().finding().find(object, by.field(), values)) {
            ids.computeIfAbsent(
                            one.fields().getOrDefault(by.field(), Value.EMPTY).display(), key -> new ArrayList<>())
                    .add(Value.text(one.id()));
        }
        Map<LookUps.Wanted, LookUps.Found> found = new HashMap<>();
        wanted.forEach(one -> found.put(one, new LookUps.Found.Values(ids.getOrDefault(one.key(), List.of()))));
        return found;
    }

    /**
     * What tells all that the whole of a route's rows can find from what they found before, in primitive arrays. What
     * stands in the destination is not told apart: it is looked up again when the row changes, or while it is held.
     */
    Inputs.Beyond everything(BoundRoute route) {
        if (!route.route().looksUp()) {
            return Inputs.NOTHING_BEYOND;
        }
        Map<Long, KnownIndex> records = referred.everyId(route.route().spec().parents());
        Map<DatasetLookUp, KnownIndex> rows = new HashMap<>();
        route.route().datasetLookUps().forEach(way -> rows.put(way, index(way)));
        Fingerprint fingerprint = new Fingerprint();
        return wanted -> {
            KnownIndex index = wanted instanceof LookUps.Wanted.RecordOfRoute record
                    ? records.get(record.route())
                    : wanted instanceof LookUps.Wanted.RowsOf row ? rows.get(row.where()) : null;
            if (index == null) {
                return 0;
            }
            long[] hash = fingerprint.key(wanted.key());
            int slot = index.find(hash[0], hash[1]);
            return slot < 0 ? 0 : index.input(slot);
        };
    }

    private KnownIndex index(DatasetLookUp way) {
        KnownIndex index = new KnownIndex(1);
        Fingerprint fingerprint = new Fingerprint();
        boolean ordered = way.pick().isPresent();
        datasets.each(way, (key, found) -> {
            long[] hash = fingerprint.key(key);
            long value = mark(fingerprint, found);
            int slot = index.find(hash[0], hash[1]);
            long before = slot < 0 ? 0 : index.input(slot);
            index.put(hash[0], hash[1], ordered ? 31 * before + value : before + value, 0, RecordState.NONE, false);
        });
        return index;
    }

    /** Tells one finding from another; of a row, each of its parts. */
    private static long mark(Fingerprint fingerprint, Value value) {
        if (value instanceof Value.Parts row) {
            List<String> parts = new ArrayList<>();
            row.parts().forEach((name, part) -> {
                parts.add(name);
                parts.add(spelled(part));
            });
            return fingerprint.of(parts);
        }
        return fingerprint.of(List.of(spelled(value)));
    }

    private static String spelled(Value value) {
        return value instanceof Value.Empty ? "\u0000" : value.display();
    }

    /** The same for what some rows find. */
    public Inputs.Beyond of(BoundRoute route, LookUps lookUps) {
        Set<DatasetLookUp> ordered = new LinkedHashSet<>();
        route.route().datasetLookUps().stream()
                .filter(way -> way.pick().isPresent())
                .forEach(ordered::add);
        Fingerprint fingerprint = new Fingerprint();
        return wanted -> {
            if (!(lookUps.find(wanted) instanceof LookUps.Found.Values values)
                    || wanted instanceof LookUps.Wanted.RecordsThere) {
                return 0;
            }
            boolean inOrder = wanted instanceof LookUps.Wanted.RowsOf row && ordered.contains(row.where());
            long all = 0;
            for (Value value : values.values()) {
                long one = mark(fingerprint, value);
                all = inOrder ? 31 * all + one : all + one;
            }
            return all;
        };
    }
}

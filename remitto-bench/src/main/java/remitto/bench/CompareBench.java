package remitto.bench;

import java.lang.management.ManagementFactory;
import java.lang.management.MemoryPoolMXBean;
import java.lang.management.MemoryType;
import java.sql.Connection;
import java.sql.Statement;
import java.time.Duration;
import java.util.ArrayList;
import java.util.Collections;
import java.util.List;
import java.util.Locale;
import org.jspecify.annotations.Nullable;
import remitto.connect.outgoing.AddressGuard;
import remitto.connect.warehouse.Warehouse;
import remitto.connect.warehouse.WarehouseSettings;
import remitto.core.known.Fingerprint;
import remitto.server.dataset.Datasets;
import remitto.server.route.BoundRoute;
import remitto.server.route.RouteBinder;
import remitto.server.route.Routes;
import remitto.standins.purser.Purser;
import tools.jackson.databind.JsonNode;

/**
 * A run in which nothing changed, against reading the same query with every column fetched by the product's own
 * getters. Known state is laid down as a finished first run leaves it: the same tables, written in bulk.
 */
final class CompareBench {
    private static final int TIMES = 5;

    private final int rows;

    CompareBench(int rows) {
        this.rows = rows;
    }

    void run() throws Exception {
        try (Rig rig = new Rig(rows);
                Purser purser = Purser.start(0, rig.folder.resolve("purser.jsonl"))) {
            rig.setUp("http://127.0.0.1:" + purser.port());
            layDownKnownState(rig);
            List<Double> reads = new ArrayList<>();
            List<Double> runs = new ArrayList<>();
            check(rig.draw());
            read(rig);
            resetPeak();
            for (int i = 0; i < TIMES; i++) {
                reads.add(timed(() -> read(rig)));
                runs.add(timed(() -> check(rig.draw())));
                System.out.printf(Locale.ROOT, "read %.2f s, run %.2f s%n", reads.get(i), runs.get(i));
            }
            System.out.printf(
                    Locale.ROOT,
                    "compare rows=%d ratio=%.2f peak_mb=%d%n",
                    rows,
                    median(runs) / median(reads),
                    peakMegabytes());
        }
    }

    private void check(JsonNode run) {
        if (run.get("sums").get("unchanged").asLong() != rows) {
            throw new IllegalStateException("not everything was unchanged: " + run);
        }
    }

    private void read(Rig rig) {
        long[] cells = new long[1];
        warehouse(rig).read(Rig.SQL, Rig.COLUMNS, List.of(), Duration.ofHours(1), row -> {
            for (String cell : row) {
                cells[0] += cell == null ? 0 : cell.length();
            }
            return true;
        });
        if (cells[0] == 0) {
            throw new IllegalStateException("nothing was read");
        }
    }

    static Warehouse warehouse(Rig rig) {
        return new Warehouse(
                new WarehouseSettings(
                        "127.0.0.1",
                        rig.databases.port(),
                        "warehouse_bench",
                        "postgres",
                        rig.databases.password(),
                        WarehouseSettings.Tls.OFF),
                new AddressGuard(List.of("127.0.0.1")));
    }

    private void layDownKnownState(Rig rig) throws Exception {
        Routes.Route stored = rig.server.bean(Routes.class).get(rig.routeId);
        RouteBinder binder = rig.server.bean(RouteBinder.class);
        BoundRoute route = binder.bind(
                        rig.routeId,
                        "Bench",
                        new RouteBinder.Ends(stored.datasetId(), stored.destinationId(), stored.object()),
                        rig.server.bean(Datasets.class).get(stored.datasetId()).latestVersion(),
                        stored.spec())
                .bound();
        int[] used = route.route().columnsUsed().stream()
                .mapToInt(name -> route.columns().position(name).orElseThrow())
                .toArray();
        Fingerprint fingerprint = new Fingerprint();
        try (Connection connection = rig.databases.owner("remitto_bench");
                Connection beside = rig.databases.owner("remitto_bench");
                Statement statement = connection.createStatement()) {
            int[] ordinal = new int[1];
            BulkLoad records =
                    new BulkLoad(connection, "route_record (route_id, ordinal, key_high, key_low, source_key, label)");
            BulkLoad states = new BulkLoad(
                    beside,
                    "record_state (route_id, ordinal, record_id, input_fingerprint, sent_fingerprint, stance, stance_reason)");
            warehouse(rig).read(Rig.SQL, Rig.COLUMNS, List.of(), Duration.ofHours(1), (@Nullable String[] cells) -> {
                String key = String.valueOf(cells[0]);
                long[] hash = fingerprint.key(key);
                long input = fingerprint.input(route.salt(), used, cells);
                int number = ++ordinal[0];
                records.row(rig.routeId + "\t" + number + "\t" + hash[0] + "\t" + hash[1] + "\t" + key + "\t\n");
                states.row(rig.routeId + "\t" + number + "\t" + number + "\t" + input + "\t1\t0\t\n");
                return true;
            });
            records.finish();
            states.finish();
            statement.execute("analyze route_record, record_state");
        }
    }

    private interface Timed {
        void run();
    }

    private static double timed(Timed work) {
        long start = System.nanoTime();
        work.run();
        return (System.nanoTime() - start) / 1e9;
    }

    static double median(List<Double> values) {
        List<Double> sorted = new ArrayList<>(values);
        Collections.sort(sorted);
        return sorted.get(sorted.size() / 2);
    }

    private static void resetPeak() {
        ManagementFactory.getMemoryPoolMXBeans().forEach(MemoryPoolMXBean::resetPeakUsage);
    }

    private static long peakMegabytes() {
        return ManagementFactory.getMemoryPoolMXBeans().stream()
                        .filter(pool -> pool.getType() == MemoryType.HEAP)
                        .mapToLong(pool -> pool.getPeakUsage().getUsed())
                        .sum()
                / (1024 * 1024);
    }
}

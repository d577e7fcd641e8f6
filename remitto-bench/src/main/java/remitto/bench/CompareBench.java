package remitto.bench;

import java.sql.Connection;
import java.sql.Statement;
import java.time.Duration;
import java.util.ArrayList;
import java.util.Collections;
import java.util.List;
import java.util.Locale;
import org.jspecify.annotations.Nullable;
import remitto.connect.database.DatabaseSettings;
import remitto.connect.outgoing.AddressGuard;
import remitto.connect.postgres.PostgresDialect;
import remitto.connect.source.Reading;
import remitto.connect.source.RowSource;
import remitto.connect.source.SourceQuery;
import remitto.core.known.Fingerprint;
import remitto.demo.Databases;
import remitto.server.dataset.Datasets;
import remitto.server.route.BoundRoute;
import remitto.server.route.RouteBinder;
import remitto.server.route.Routes;
import remitto.standins.purser.Purser;
import tools.jackson.databind.JsonNode;

/**
 * A run in which nothing changed, up to its manifest, against reading the same query with every column fetched by the product's own
 * getters. Known state is laid down as a finished first run leaves it: the same tables, written in bulk.
 */
final class CompareBench {
    private final int rows;

    CompareBench(int rows) {
        this.rows = rows;
    }

    void run() throws Exception {
        try (Rig rig = new Rig(rows);
                Purser purser = Purser.start(0, rig.folder.resolve("purser.jsonl"))) {
            rig.setUp("http://127.0.0.1:" + purser.port());
            layDownKnownState(rig);
            check(rig.prepare());
            read(rig);
            Cpu cpu = Cpu.of(rig.databases);
            String each;
            long held;
            try (LiveMemory memory = LiveMemory.watch()) {
                memory.begin();
                cpu.begin();
                check(rig.prepare());
                cpu.end();
                each = cpu.each(rows);
                held = memory.most();
            }
            Pairs.Ratio ratio = new Pairs(1, Pairs.FEWEST, rig::checkpoint)
                    .run(() -> timed(() -> check(rig.prepare())), () -> timed(() -> read(rig)));
            System.out.printf(Locale.ROOT, "compare rows=%d %s %s held_mb=%d%n", rows, ratio, each, held);
        }
    }

    private void check(JsonNode run) {
        if (run.get("counts").get("unchanged").asLong() != rows) {
            throw new IllegalStateException("not everything was unchanged: " + run);
        }
    }

    private void read(Rig rig) {
        long[] cells = new long[1];
        warehouse(rig).read(rows(), row -> {
            for (String cell : row) {
                cells[0] += cell == null ? 0 : cell.length();
            }
            return true;
        });
        if (cells[0] == 0) {
            throw new IllegalStateException("nothing was read");
        }
    }

    static RowSource warehouse(Rig rig) {
        return PostgresDialect.source(
                new DatabaseSettings(
                        "127.0.0.1",
                        rig.databases.port(),
                        "warehouse_bench",
                        Databases.READER,
                        Databases.READER_PASSWORD,
                        DatabaseSettings.Tls.OFF),
                new AddressGuard(List.of("127.0.0.1")));
    }

    static Reading rows() {
        return Reading.all(SourceQuery.text(Rig.SQL), Rig.COLUMNS, Duration.ofHours(1));
    }

    private void layDownKnownState(Rig rig) throws Exception {
        Routes.Route stored = rig.server.bean(Routes.class).get(rig.routeId);
        RouteBinder binder = rig.server.bean(RouteBinder.class);
        BoundRoute route = binder.bind(
                        rig.routeId,
                        "Bench",
                        new RouteBinder.RouteEnds(stored.datasetId(), stored.destinationId(), stored.object()),
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
                    "record_state (route_id, ordinal, record_id, input_fingerprint, sent_fingerprint, state, state_reason)");
            warehouse(rig).read(rows(), (@Nullable String[] cells) -> {
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
}

package remitto.bench;

import java.sql.Connection;
import java.sql.ResultSet;
import java.sql.SQLException;
import java.sql.Statement;
import java.time.Duration;
import java.time.Instant;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.TreeSet;
import java.util.stream.Collectors;
import remitto.core.identity.Intake;
import remitto.core.identity.quality.Quality;
import remitto.core.identity.record.Attribute;
import remitto.demo.crowd.Crowd;
import tools.jackson.databind.JsonNode;

/**
 * From tables of a warehouse to persons that are kept, through the product: a table for each system, read, normalised, blocked, weighed,
 * joined and written down. How good that is beside the truth is counted from what was written down; recall over all pairs of one
 * person, and over those that any value which they share, or a chain of such, reaches.
 */
final class IdentityBench {
    private static final String COLUMNS = Crowd.COLUMNS.stream().collect(Collectors.joining(", "));

    private final int records;
    private final long seed;
    private final int namesakes;

    IdentityBench(int records, long seed, int namesakes) {
        this.records = records;
        this.seed = seed;
        this.namesakes = namesakes;
    }

    void run() throws Exception {
        List<Staged> staged = Staged.crowd(records, seed, namesakes);
        TreeSet<String> systems = staged.stream().map(Staged::source).collect(Collectors.toCollection(TreeSet::new));
        try (Installation installation = Installation.fresh(warehouse -> load(warehouse, systems, staged));
                LiveMemory memory = LiveMemory.watch()) {
            Map<String, Long> datasets = tie(installation, systems);
            Cpu cpu = Cpu.of(installation.databases);
            installation.checkpoint();
            memory.begin();
            long before = memory.most();
            cpu.begin();
            double seconds = join(installation);
            cpu.end();
            long held = memory.most() - before;
            report(staged, persons(installation, datasets, staged), seconds, cpu.each(staged.size()), held);
        }
    }

    private static String table(String system) {
        return "public.\"" + system + "\"";
    }

    private static void load(Connection warehouse, TreeSet<String> systems, List<Staged> staged) throws SQLException {
        for (String system : systems) {
            Installation.execute(
                    warehouse,
                    "create table " + table(system) + " (key text primary key, "
                            + Crowd.COLUMNS.stream()
                                    .map(column -> column + " text")
                                    .collect(Collectors.joining(", "))
                            + ")");
            BulkLoad load = new BulkLoad(warehouse, table(system) + " (key, " + COLUMNS + ")");
            staged.stream().filter(one -> one.source().equals(system)).forEach(one -> load.row(row(one)));
            load.finish();
            Installation.execute(warehouse, "vacuum analyze " + table(system));
        }
    }

    private static String row(Staged one) {
        StringBuilder row = new StringBuilder(one.key());
        for (String value : one.values()) {
            row.append('\t').append(value.isBlank() ? "\\N" : value.replace("\\", "\\\\"));
        }
        return row.append('\n').toString();
    }

    /** @return the dataset of each system */
    private static Map<String, Long> tie(Installation installation, TreeSet<String> systems) {
        long source = installation.source();
        List<Map<String, Object>> columns = new ArrayList<>();
        for (Attribute attribute : Staged.ATTRIBUTES) {
            columns.add(Map.of(
                    "column", attribute.name(),
                    "attribute", attribute.name(),
                    "kind", attribute.kind().name(),
                    "beside", Map.of()));
        }
        Map<String, Long> datasets = new HashMap<>();
        for (String system : systems) {
            long dataset =
                    installation.dataset(source, system, "select key, " + COLUMNS + " from " + table(system), "key");
            installation.api.put(
                    "/api/people/sources/" + dataset,
                    Map.of("entityType", "PERSON", "columns", columns, "country", "NO", "countryColumn", ""));
            datasets.put(system, dataset);
        }
        return datasets;
    }

    /** @return seconds from its beginning to its end, by the run's own record */
    private static double join(Installation installation) {
        installation.api.post("/api/people/runs?entityType=PERSON", Map.of());
        JsonNode latest = installation
                .api
                .until("/api/people/overview?entityType=PERSON", seen -> seen.get("latest")
                        .has("finishedAt"))
                .get("latest");
        return Duration.between(
                                Instant.parse(latest.get("startedAt").asString()),
                                Instant.parse(latest.get("finishedAt").asString()))
                        .toMillis()
                / 1000.0;
    }

    /** By record, the person it is kept with. */
    private static int[] persons(Installation installation, Map<String, Long> datasets, List<Staged> staged)
            throws SQLException {
        Map<String, Integer> persons = new HashMap<>();
        try (Connection own = installation.own();
                Statement statement = own.createStatement();
                ResultSet rows = statement.executeQuery("select dataset_id, key, person_id from identity_record")) {
            while (rows.next()) {
                persons.put(rows.getLong(1) + "/" + rows.getString(2), rows.getInt(3));
            }
        }
        return staged.stream()
                .mapToInt(one -> {
                    Integer person = persons.get(datasets.get(one.source()) + "/" + one.key());
                    if (person == null) {
                        throw new IllegalStateException("a record is with no person: " + one);
                    }
                    return person;
                })
                .toArray();
    }

    /**
     * What tells somebody apart by itself: address for mail, phone, date of birth, street, and both names together. A given name, a
     * family name, a postcode or a town is shared with far too many.
     */
    private static String[] telling(List<Attribute> attributes, String[] normalised) {
        Map<String, String> byName = new HashMap<>();
        for (int column = 0; column < normalised.length; column++) {
            byName.put(attributes.get(column).name(), normalised[column]);
        }
        String given = byName.get("given_name");
        String family = byName.get("family_name");
        return new String[] {
            byName.get("email"),
            byName.get("phone"),
            byName.get("birth_date"),
            byName.get("street"),
            given.isBlank() || family.isBlank() ? "" : given + " " + family
        };
    }

    private void report(List<Staged> staged, int[] persons, double seconds, String cpu, long held) {
        int[] truth = staged.stream().mapToInt(Staged::person).toArray();
        Intake intake = new Intake(Staged.ATTRIBUTES);
        Intake.Normalising normalising = intake.normalising();
        String[][] normalised = staged.stream()
                .map(one -> normalising.normalise(one.values(), "NO"))
                .toArray(String[][]::new);
        Quality whole = Quality.of(persons, truth);
        Quality reached = Quality.of(persons, Reach.of(normalised, truth));
        System.out.printf(
                Locale.ROOT,
                "pairs of one person: %d, of which a shared value or a chain reaches %d; B-cubed %.4f and %.4f%n",
                whole.truePairs(),
                reached.truePairs(),
                whole.bCubedPrecision(),
                whole.bCubedRecall());
        System.out.printf(
                Locale.ROOT,
                "identity records=%d seconds=%.1f precision=%.4f recall=%.4f reached_recall=%.4f %s held_mb=%d%n",
                staged.size(),
                seconds,
                whole.precision(),
                whole.recall(),
                reached.recall(),
                cpu,
                held);
    }
}

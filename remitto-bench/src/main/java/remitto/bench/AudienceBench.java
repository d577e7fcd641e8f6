package remitto.bench;

import java.math.BigDecimal;
import java.nio.file.Files;
import java.nio.file.Path;
import java.sql.Connection;
import java.sql.ResultSet;
import java.sql.SQLException;
import java.sql.Statement;
import java.time.Instant;
import java.time.LocalDate;
import java.time.temporal.ChronoUnit;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.Collections;
import java.util.HashMap;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.concurrent.TimeUnit;
import remitto.core.audience.AudienceSpec;
import remitto.core.audience.Condition;
import remitto.core.audience.EventsOf;
import remitto.core.audience.Measure;
import remitto.core.audience.ValueTest;
import remitto.core.audience.Window;
import remitto.demo.Databases;
import remitto.demo.history.Api;
import remitto.demo.history.RunningServer;
import tools.jackson.databind.JsonNode;

/**
 * Counts five conditions over people and twenty events each, beside the best SQL a person wrote for the same; and the time
 * an editor waits for a count while changing the condition.
 */
final class AudienceBench {
    private static final int EVENTS_EACH = 20;
    private static final int EDITS = 60;
    private static final int TAKES = 5;
    private static final String PASSWORD = "bench-2026-bench";
    private static final String ZONE = "Europe/Oslo";

    private final int people;
    private final Databases databases =
            new Databases(System.getenv("REMITTO_TEST_PG_URL"), System.getenv("REMITTO_TEST_PG_PASSWORD"));

    private final boolean kept;

    /** @param kept whether what an earlier run made is measured again, instead of making it anew */
    AudienceBench(int people, boolean kept) {
        this.people = people;
        this.kept = kept;
    }

    private record EventWish(
            String name,
            long datasetId,
            long personDatasetId,
            String personColumn,
            String timeColumn,
            List<String> columns,
            int overlapDays) {}

    private record Draft(String name, String description, String about, int basedOn, AudienceSpec spec) {}

    private record CountWish(String about, AudienceSpec spec, boolean exact) {}

    void run() throws Exception {
        if (!kept) {
            databases.fresh("remitto_bench", "remitto");
            databases.fresh("warehouse_bench", "halvorn_owner");
            databases.makePeopleReader();
        }
        // Kept with what it sealed.
        Path key = Path.of(System.getProperty("java.io.tmpdir"), "remitto-bench.key");
        if (!kept) {
            Files.deleteIfExists(key);
        }
        Map<String, Object> properties = new HashMap<>();
        properties.put("spring.datasource.url", databases.url("remitto_bench"));
        properties.put("remitto.outgoing-allowed", "127.0.0.1,localhost");
        properties.put("spring.datasource.username", "remitto");
        properties.put("spring.datasource.password", databases.password());
        properties.put("remitto.people-reader.password", databases.password());
        properties.put("remitto.secret-key-file", key);
        properties.put("remitto.administrator.email", "admin@halvorn.example");
        properties.put("remitto.administrator.password", PASSWORD);
        try (Connection warehouse = databases.owner("warehouse_bench");
                Connection own = databases.owner("remitto_bench")) {
            if (!kept) {
                warehouseTables(warehouse);
                databases.grantReader("warehouse_bench", "public");
            }
            try (RunningServer server = RunningServer.start(properties)) {
                measure(new Api(server.address()).signIn("admin@halvorn.example", PASSWORD), own);
            }
        }
    }

    /** Of the events a third are of one in a hundred people, as a few travel far more than others. */
    private void warehouseTables(Connection warehouse) throws SQLException {
        say("making %,d people and %,d events", people, (long) people * EVENTS_EACH);
        execute(warehouse, """
                create table public.people as select 'K' || n as id, 'Given' as given, 'Family' as family,
                  'p' || n || '@sol.example' as email, 'Tarva' as home_port, 1.5::numeric as score
                  from generate_series(1, 3) n
                """);
        execute(
                warehouse,
                "select setseed(0.47); create table public.trips as select n as trip, 'K' || 1 + floor(random() * "
                        + "case when random() < 1.0 / 3 then " + records() / 100 + " else " + records() + " end"
                        + ")::bigint as id, timestamptz '2026-11-20 12:00:00+00' - (power(random(), 0.8) * 500)"
                        + " * interval '1 day' as at, (array['TAR-YTR','YTR-SAN','SAN-TAR'])[1 + n % 3] as line,"
                        + " (n % 300)::numeric as price from generate_series(1::bigint, " + (long) people * EVENTS_EACH
                        + ") n");
    }

    /** A third of the people have two records. */
    private long records() {
        return people * 4L / 3;
    }

    private void measure(Api api, Connection own) throws SQLException {
        long other = kept ? 1 : setUp(api, own);
        if (kept) {
            refresh(api);
        }
        AudienceSpec five = five(other, 75);
        JsonNode exact = api.post("/api/conditions/count", new CountWish("PERSON", five, true));
        long members = exact.get("members").asLong();
        String ours = "select count(*) from (" + exact.get("sql").asString() + ") as members";
        double ratio = compare(own, ours, members, other);
        double p95 = edits(api, other);
        double recount = recounts(api, own);
        System.out.printf(
                Locale.ROOT, "audience people=%d ratio=%.2f p95_ms=%.0f recount=%.2f%n", people, ratio, p95, recount);
    }

    /** @return an audience that others are compared with */
    private long setUp(Api api, Connection own) throws SQLException {
        long source = id(api.post(
                "/api/sources",
                Map.of(
                        "name",
                        "Bench warehouse",
                        "password",
                        Databases.READER_PASSWORD,
                        "address",
                        Map.of(
                                "host", "127.0.0.1",
                                "port", databases.port(),
                                "database", "warehouse_bench",
                                "user", Databases.READER,
                                "tls", "OFF"))));
        long described = dataset(api, source, "People", "select * from public.people", "id");
        List<Map<String, Object>> tied = new ArrayList<>();
        Map.of("given", "GIVEN_NAME", "family", "FAMILY_NAME", "email", "EMAIL", "home_port", "TEXT", "score", "NUMBER")
                .forEach((column, kind) ->
                        tied.add(Map.of("column", column, "attribute", column, "kind", kind, "beside", Map.of())));
        api.put(
                "/api/people/sources/" + described,
                Map.of("about", "PERSON", "columns", tied, "country", "NO", "countryColumn", ""));
        joined(own, described);
        long trips = dataset(api, source, "Trips", "select * from public.trips", "trip");
        long start = System.nanoTime();
        api.post("/api/events", new EventWish("Trips", trips, described, "id", "at", List.of("line", "price"), 3));
        say("events read in %d s", since(start) / 1000);
        start = System.nanoTime();
        refresh(api);
        say("population, measures and sample in %d s", since(start) / 1000);
        long other = audience(
                api,
                "Others",
                AudienceSpec.of(
                        new Condition.AttributeHolds(
                                "score", new ValueTest.NumberIs(ValueTest.Relation.UNDER, BigDecimal.valueOf(8))),
                        ZONE));
        execute(own, "vacuum analyze");
        return other;
    }

    private AudienceSpec five(long other, int score) {
        EventsOf trips = new EventsOf("Trips", List.of());
        Measure often = new Measure(
                trips,
                new Window.FromTo(LocalDate.of(2026, 3, 1), LocalDate.of(2026, 8, 31)),
                new Measure.Aggregation.CountOf());
        Instant newest = Instant.parse("2026-11-20T12:00:00Z");
        int days = (int) ChronoUnit.DAYS.between(newest, Instant.now()) + 40;
        Measure lately = new Measure(trips, new Window.LastDays(Math.max(1, days)), new Measure.Aggregation.CountOf());
        return AudienceSpec.of(
                new Condition.AllOf(List.of(
                        new Condition.AttributeHolds(
                                "home_port", new ValueTest.OneOf(List.of("Tarva", "Ytre Holm", "Sandvær"))),
                        new Condition.AttributeHolds(
                                "score", new ValueTest.NumberIs(ValueTest.Relation.UNDER, BigDecimal.valueOf(score))),
                        new Condition.MeasureHolds(
                                often, new ValueTest.NumberIs(ValueTest.Relation.AT_LEAST, BigDecimal.valueOf(6))),
                        new Condition.MeasureHolds(
                                lately, new ValueTest.NumberIs(ValueTest.Relation.EXACTLY, BigDecimal.ZERO)),
                        new Condition.Unless(new Condition.InAudience(other)))),
                ZONE);
    }

    /** Several ways to write it by hand; the fastest is the measure. */
    private double compare(Connection own, String ours, long members, long other) throws SQLException {
        String from = "timestamptz '2026-03-01 00:00+01'";
        String until = "timestamptz '2026-09-01 00:00+02'";
        String recent =
                ours.replaceAll("(?s).*e\\.at >= (timestamptz '[^']+') and e\\.at < (timestamptz '[^']+').*", "$1");
        String people =
                "audience.person_base p where p.home_port in ('Tarva', 'Ytre Holm', 'Sandvær') and p.score < 75";
        String chosen = "with chosen as materialized (select p.person_id from " + people
                + " and not exists (select from audience_member m where m.audience_id = " + other
                + " and m.person_id = p.person_id and m.until is null and not m.held_out)),"
                + " rec as materialized (select r.record_no, r.person_id from audience.record r join chosen using (person_id)) ";
        List<String> byHand = List.of(
                // Everything by joins, aggregated first.
                "select count(*) from " + people
                        + " and exists (select from (select r.person_id from audience.events_1 e"
                        + " join audience.record r using (record_no) where e.at >= " + from + " and e.at < " + until
                        + " group by 1 having count(*) >= 6) o where o.person_id = p.person_id) and not exists (select from"
                        + " audience.events_1 e join audience.record r using (record_no) where r.person_id = p.person_id"
                        + " and e.at >= " + recent
                        + ") and not exists (select from audience_member m where m.audience_id = "
                        + other + " and m.person_id = p.person_id and m.until is null and not m.held_out)",
                // The few people first, then one pass over the events for both.
                chosen
                        + "select count(*) from (select rec.person_id from audience.events_1 e join rec using (record_no)"
                        + " where e.at >= " + from + " group by 1 having count(*) filter (where e.at < " + until
                        + ") >= 6 and count(*) filter (where e.at >= " + recent + ") = 0) x",
                // One pass over the events of the few, without tables in between.
                "select count(*) from (select r.person_id from audience.events_1 e join audience.record r using (record_no)"
                        + " where e.at >= " + from + " and r.person_id in (select p.person_id from " + people
                        + " and not exists (select from audience_member m where m.audience_id = " + other
                        + " and m.person_id = p.person_id and m.until is null and not m.held_out)) group by 1"
                        + " having count(*) filter (where e.at < " + until
                        + ") >= 6 and count(*) filter (where e.at >= "
                        + recent + ") = 0) x",
                // The few people first, their events by index.
                chosen + "select count(*) from chosen c where (select count(*) from rec r join audience.events_1 e"
                        + " using (record_no) where r.person_id = c.person_id and e.at >= " + from + " and e.at < "
                        + until
                        + ") >= 6 and not exists (select from rec r join audience.events_1 e using (record_no)"
                        + " where r.person_id = c.person_id and e.at >= " + recent + ")");
        execute(own, "set work_mem = '256MB'");
        execute(own, "set jit = off");
        execute(own, "set statement_timeout = '60s'");
        long[] best = new long[byHand.size() + 1];
        Arrays.fill(best, Long.MAX_VALUE);
        boolean[] slow = new boolean[best.length];
        for (int take = 0; take < TAKES; take++) {
            for (int i = 0; i <= byHand.size(); i++) {
                if (slow[i]) {
                    continue;
                }
                String sql = i == 0 ? ours : byHand.get(i - 1);
                long start = System.nanoTime();
                try {
                    long found = number(own, sql);
                    if (found != members) {
                        throw new IllegalStateException("by hand " + found + ", counted " + members + ": " + sql);
                    }
                    best[i] = Math.min(best[i], since(start));
                    slow[i] = i > 0 && best[i] > 5 * best[0];
                } catch (SQLException e) {
                    slow[i] = true;
                    say("way %d by hand took more than 60 s", i);
                }
            }
        }
        say(
                "%,d members; ours %d ms, by hand %s ms",
                members, best[0], Arrays.toString(Arrays.copyOfRange(best, 1, best.length)));
        return best[0] / (double) Arrays.stream(best).skip(1).min().orElseThrow();
    }

    private double edits(Api api, long other) {
        List<Long> times = new ArrayList<>();
        for (int edit = 0; edit < EDITS; edit++) {
            AudienceSpec spec = five(other, 20 + edit);
            long start = System.nanoTime();
            api.post("/api/conditions/count", new CountWish("PERSON", spec, false));
            if (edit >= 5) {
                times.add(since(start));
            }
        }
        Collections.sort(times);
        say(
                "an edit is answered in %d ms in the middle, %d at most",
                times.get(times.size() / 2), times.get(times.size() - 1));
        return times.get((int) Math.ceil(times.size() * 0.95) - 1);
    }

    /** Whoever has an event: the second count compares about as many members as there are people with the first. */
    private double recounts(Api api, Connection own) throws SQLException {
        AudienceSpec active = AudienceSpec.of(
                new Condition.AllOf(List.of(new Condition.MeasureHolds(
                        new Measure(
                                new EventsOf("Trips", List.of()), new Window.Ever(), new Measure.Aggregation.CountOf()),
                        new ValueTest.NumberIs(ValueTest.Relation.AT_LEAST, BigDecimal.ONE)))),
                ZONE);
        long all = audience(api, "Whoever crossed, " + System.nanoTime(), active);
        String counted = api.post("/api/conditions/count", new CountWish("PERSON", active, true))
                .get("sql")
                .asString();
        long again = Long.MAX_VALUE;
        long count = Long.MAX_VALUE;
        for (int take = 0; take < 3; take++) {
            long start = System.nanoTime();
            api.post("/api/audiences/" + all + "/counts", Map.of());
            again = Math.min(again, since(start));
            start = System.nanoTime();
            number(own, "select count(*) from (" + counted + ") as members");
            count = Math.min(count, since(start));
        }
        say("a large audience counted in %d ms, counted and compared in %d ms", count, again);
        return again / (double) count;
    }

    private void joined(Connection own, long dataset) throws SQLException {
        execute(
                own,
                "insert into person (id, label, records, kept, attributes, changed_at, since) select n, 'Person ' || n, 1,"
                        + " '[]', jsonb_build_object('given', 'Given' || n % 900, 'family', 'Family' || n % 7000, 'email', 'p' || n"
                        + " || '@sol.example', 'home_port', (array['Tarva','Ytre Holm','Sandvær','Brenn','Lysøy','Stor','Vik','Ness',"
                        + "'Odde','Holme','Sund','Fjord'])[1 + n % 12], 'score', ((n * 31) % 1000 / 10.0)::text), now(), now()"
                        + " from generate_series(1, " + people + ") n");
        execute(
                own,
                "insert into identity_record (dataset_id, key, person_id, cells, search) select " + dataset
                        + ", 'K' || n, 1 + n % " + people + ", '{}', '' from generate_series(1, " + records() + ") n");
        execute(own, "analyze person, identity_record");
    }

    private long dataset(Api api, long source, String name, String sql, String key) {
        Map<String, Object> query = Map.of("kind", "sql", "text", sql);
        List<Map<String, String>> columns = new ArrayList<>();
        api.post("/api/datasets/preview", Map.of("sourceId", source, "query", query))
                .get("preview")
                .get("columns")
                .forEach(column -> columns.add(Map.of(
                        "name", column.get("name").asString(),
                        "type", column.get("type").asString(),
                        "role", column.get("name").asString().equals(key) ? "KEY" : "ATTRIBUTE")));
        long id = id(api.post(
                "/api/datasets",
                Map.of(
                        "name",
                        name,
                        "description",
                        "",
                        "sourceId",
                        source,
                        "basedOn",
                        0,
                        "definition",
                        Map.of("query", query, "columns", columns))));
        api.post("/api/datasets/" + id + "/in-service", Map.of("version", 1));
        return id;
    }

    private long audience(Api api, String name, AudienceSpec spec) {
        long id = api.post("/api/audiences", new Draft(name, "", "PERSON", 0, spec))
                .get("audience")
                .get("id")
                .asLong();
        api.post("/api/audiences/" + id + "/in-service", Map.of("version", 1));
        return id;
    }

    private static void refresh(Api api) {
        api.post("/api/audiences/refreshes", Map.of());
        api.until(
                "/api/audiences",
                seen -> seen.get("refresh").get("stage").asString().isEmpty());
    }

    private static long id(JsonNode made) {
        return made.get("id").asLong();
    }

    private static void execute(Connection connection, String sql) throws SQLException {
        try (Statement statement = connection.createStatement()) {
            statement.execute(sql);
        }
    }

    private static long number(Connection connection, String sql) throws SQLException {
        try (Statement statement = connection.createStatement();
                ResultSet row = statement.executeQuery(sql)) {
            row.next();
            return row.getLong(1);
        }
    }

    private static long since(long start) {
        return TimeUnit.NANOSECONDS.toMillis(System.nanoTime() - start);
    }

    private static void say(String format, Object... arguments) {
        System.out.printf(Locale.ROOT, format + "%n", arguments);
    }
}

package remitto.bench;

import java.math.BigDecimal;
import java.net.URI;
import java.net.http.HttpClient;
import java.net.http.HttpRequest;
import java.net.http.HttpResponse;
import java.time.Instant;
import java.util.ArrayList;
import java.util.Base64;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.concurrent.ExecutorService;
import java.util.concurrent.Executors;
import java.util.concurrent.Future;
import java.util.concurrent.atomic.AtomicInteger;
import remitto.core.manifest.FieldOutcome;
import remitto.core.manifest.Verdict;
import remitto.demo.history.Desk;
import remitto.server.manifest.LineView;
import remitto.server.manifest.LineViews;
import tools.jackson.databind.JsonNode;
import tools.jackson.databind.json.JsonMapper;

/**
 * Sending a manifest of which half is new and half are changes, scattered over the records that are known, until the outcome and the
 * known state of every record are kept; against a bare poster that sends ready-made bodies with the same to the same stand-in, a
 * process of its own, with the same concurrency and the limits switched off. The two in turn, each from the same state of the tool:
 * the machine is noisy, so each is set against the other of its pair, and which goes first alternates. Beside that ratio stands the
 * one until the last answer was written down.
 */
final class SendBench {
    private static final int BATCH = 250;
    private static final int WORKERS = 4;
    /** Rounds that do not count, since both sides are still being compiled while they run. */
    private static final int WARM_UPS = 3;

    private static final JsonMapper JSON = JsonMapper.builder().build();
    /** Half of the rows, in no order. */
    private static final String NEW = "abs(hashtext(id)) % 2 = 0";

    private static final Map<String, String> ADD = Map.of("by", "external_ref", "absent", "add", "present", "refuse");
    private static final Map<String, String> CHANGE = Map.of("by", "id", "absent", "refuse", "present", "write");
    private static final Set<String> NUMBERS = Set.of("crossings_90d", "churn_score");

    private final int rows;
    private final int away;
    private final int pairs;

    /**
     * @param away milliseconds that a call takes to get there and back, for both sides; 0 for loopback as it is
     * @param pairs that count
     */
    SendBench(int rows, int away, int pairs) {
        this.rows = rows;
        this.away = away;
        this.pairs = pairs;
    }

    void run() throws Exception {
        try (Rig rig = new Rig(rows);
                StandInProcess standIn = StandInProcess.start(rig.folder)) {
            Desk desk = new Desk(standIn.address());
            desk.limit(false);
            rig.setUp(standIn.address().toString());
            halfIsThere(rig, desk);
            if (away > 0) {
                desk.faults("[{\"fault\":\"latency\",\"on\":\"batch\",\"share\":1,\"millis\":" + away + "}]");
            }
            Cpu cpu = Cpu.of(rig.databases);
            List<byte[]> bodies = new ArrayList<>();
            List<Double> answered = new ArrayList<>();
            List<Double> whole = new ArrayList<>();
            for (int i = 1; i <= WARM_UPS + pairs; i++) {
                boolean counts = i > WARM_UPS;
                boolean oursFirst = bodies.isEmpty() || i % 2 == 0;
                double theirs = oursFirst ? 0 : bare(rig, desk, standIn, bodies);
                Sent ours = send(rig, desk, counts ? Optional.of(cpu) : Optional.empty());
                if (bodies.isEmpty()) {
                    bodies = bodies(rig, ours.run());
                }
                theirs = oursFirst ? bare(rig, desk, standIn, bodies) : theirs;
                System.out.printf(
                        Locale.ROOT,
                        "%sbare %.0f records/s, product %.0f records/s, with the known state %.0f records/s%n",
                        counts ? "" : "warm-up: ",
                        rows / theirs,
                        rows / ours.answered(),
                        rows / ours.finished());
                if (counts) {
                    answered.add(theirs / ours.answered());
                    whole.add(theirs / ours.finished());
                }
            }
            System.out.printf(
                    Locale.ROOT,
                    "send rows=%d away_ms=%d %s answered_ratio=%.2f %s%n",
                    rows,
                    away,
                    Pairs.of(whole),
                    Pairs.of(answered).median(),
                    cpu.each((long) rows * pairs));
        }
    }

    /** The other half is sent by the product itself, and then changes in the warehouse, where the new half comes in. */
    private void halfIsThere(Rig rig, Desk desk) throws Exception {
        rig.inWarehouse(
                "create table public.later as select * from public.people where " + NEW,
                "delete from public.people where " + NEW,
                "vacuum analyze public.people");
        JsonNode prepared = rig.prepare();
        long id = prepared.get("id").asLong();
        rig.api.post("/api/runs/" + id + "/send", Map.of());
        taken(rig, id, prepared.get("counts").get("added").asLong());
        desk.keep();
        rig.keepKnownState();
        rig.inWarehouse(
                "update public.people set trips = trips + 1, port = 'Fjordby', last_trip = last_trip + 1",
                "insert into public.people select * from public.later",
                "vacuum analyze public.people");
    }

    private double bare(Rig rig, Desk desk, StandInProcess standIn, List<byte[]> bodies) throws Exception {
        desk.back();
        rig.checkpoint();
        return post(standIn.address(), bodies);
    }

    /**
     * Seconds from the word to send.
     *
     * @param run that was sent
     * @param answered until the answer of the last call was written down
     * @param finished until known state and outcomes of every record were as well
     */
    private record Sent(long run, double answered, double finished) {}

    private Sent send(Rig rig, Desk desk, Optional<Cpu> cpu) throws Exception {
        desk.back();
        rig.backToKept();
        JsonNode prepared = rig.prepare();
        long id = prepared.get("id").asLong();
        JsonNode counts = prepared.get("counts");
        if (counts.get("added").asLong() + counts.get("changed").asLong() != rows
                || counts.get("changed").asLong() < rows * 0.45) {
            throw new IllegalStateException("not half of it changes and half is new: " + prepared);
        }
        rig.checkpoint();
        cpu.ifPresent(Cpu::begin);
        rig.api.post("/api/runs/" + id + "/send", Map.of());
        JsonNode sent = taken(rig, id, rows);
        cpu.ifPresent(Cpu::end);
        return new Sent(id, seconds(sent, "answeredAt"), seconds(sent, "finishedAt"));
    }

    private static JsonNode taken(Rig rig, long id, long records) throws InterruptedException {
        JsonNode sent = finished(rig, id);
        if (sent.get("outcomes").path("ACKNOWLEDGED").asLong() != records) {
            throw new IllegalStateException("not everything was taken: " + sent);
        }
        return sent;
    }

    /** Asks once a second only: to ask takes time from sending. */
    private static JsonNode finished(Rig rig, long id) throws InterruptedException {
        JsonNode run = rig.api.get("/api/runs/" + id);
        while (run.get("state").asString().equals("SENDING")) {
            Thread.sleep(1_000);
            run = rig.api.get("/api/runs/" + id);
        }
        return run;
    }

    private static double seconds(JsonNode sent, String until) {
        return (Instant.parse(sent.get(until).asString()).toEpochMilli()
                        - Instant.parse(sent.get("sentAt").asString()).toEpochMilli())
                / 1000.0;
    }

    /** What the product sent, made ready before the clock runs. */
    private List<byte[]> bodies(Rig rig, long run) {
        List<byte[]> bodies = new ArrayList<>();
        List<Map<String, Object>> added = new ArrayList<>();
        List<Map<String, Object>> changed = new ArrayList<>();
        rig.server.bean(LineViews.class).each(run, line -> {
            Map<String, Object> fields = written(line);
            boolean isNew = line.verdict() == Verdict.ADDED;
            Object key = isNew ? fields.get("external_ref") : line.remoteId();
            (isNew ? added : changed).add(Map.of("key", key, "fields", fields));
            full(added, BATCH, ADD, bodies);
            full(changed, BATCH, CHANGE, bodies);
        });
        full(added, 1, ADD, bodies);
        full(changed, 1, CHANGE, bodies);
        return bodies;
    }

    private static Map<String, Object> written(LineView line) {
        Map<String, Object> fields = new LinkedHashMap<>();
        for (LineView.FieldView field : line.fields()) {
            if (field.outcome() == FieldOutcome.WRITTEN) {
                String text = field.fresh().orElse("");
                fields.put(field.field(), NUMBERS.contains(field.field()) ? new BigDecimal(text) : text);
            }
        }
        return fields;
    }

    private static void full(
            List<Map<String, Object>> records, int least, Map<String, String> how, List<byte[]> bodies) {
        if (records.size() >= least) {
            Map<String, Object> body = new LinkedHashMap<>(how);
            body.put("records", List.copyOf(records));
            bodies.add(JSON.writeValueAsBytes(body));
            records.clear();
        }
    }

    private double post(URI address, List<byte[]> bodies) throws Exception {
        HttpClient http =
                HttpClient.newBuilder().version(HttpClient.Version.HTTP_1_1).build();
        String basic = Base64.getEncoder().encodeToString("remitto-demo:gangplank-7731".getBytes());
        JsonNode token = JSON.readTree(http.send(
                        HttpRequest.newBuilder(address.resolve("/oauth/token"))
                                .header("Authorization", "Basic " + basic)
                                .header("Content-Type", "application/x-www-form-urlencoded")
                                .POST(HttpRequest.BodyPublishers.ofString("grant_type=client_credentials"))
                                .build(),
                        HttpResponse.BodyHandlers.ofString())
                .body());
        AtomicInteger next = new AtomicInteger();
        ExecutorService pool = Executors.newFixedThreadPool(WORKERS);
        long start = System.nanoTime();
        List<Future<?>> running = new ArrayList<>();
        for (int i = 0; i < WORKERS; i++) {
            running.add(pool.submit(() -> {
                for (int at = next.getAndIncrement(); at < bodies.size(); at = next.getAndIncrement()) {
                    HttpResponse<String> response = http.send(
                            HttpRequest.newBuilder(address.resolve("/api/v1/contact/batch"))
                                    .header(
                                            "Authorization",
                                            "Bearer "
                                                    + token.get("access_token").asString())
                                    .header("Content-Type", "application/json")
                                    .POST(HttpRequest.BodyPublishers.ofByteArray(bodies.get(at)))
                                    .build(),
                            HttpResponse.BodyHandlers.ofString());
                    if (response.statusCode() != 200 || response.body().contains("refused")) {
                        throw new IllegalStateException(response.statusCode() + " " + response.body());
                    }
                }
                return true;
            }));
        }
        for (Future<?> one : running) {
            one.get();
        }
        double seconds = (System.nanoTime() - start) / 1e9;
        pool.shutdown();
        return seconds;
    }
}

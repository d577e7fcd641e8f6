package remitto.bench;

import java.net.URI;
import java.net.http.HttpClient;
import java.net.http.HttpRequest;
import java.net.http.HttpResponse;
import java.time.Instant;
import java.util.ArrayList;
import java.util.Base64;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.concurrent.ExecutorService;
import java.util.concurrent.Executors;
import java.util.concurrent.Future;
import java.util.concurrent.atomic.AtomicInteger;
import remitto.demo.history.Desk;
import tools.jackson.databind.JsonNode;
import tools.jackson.databind.json.JsonMapper;

/**
 * Sending a manifest of new records, against a bare poster that sends the same ready-made bodies to the same
 * stand-in, a process of its own, with the same concurrency and the limits switched off. The two in turn: the machine is
 * noisy, so each is set against the other of its pair, and which goes first alternates. The ratio counts until outcomes and known state of
 * every record are kept; beside it stands the one until the last answer was written down.
 */
final class SendBench {
    private static final int BATCH = 250;
    private static final int WORKERS = 4;
    /** Rounds that do not count, since both sides are still being compiled while they run. */
    private static final int WARM_UPS = 3;

    private static final int TIMES = Pairs.FEWEST;
    private static final JsonMapper JSON = JsonMapper.builder().build();

    private final int rows;
    private final int away;

    /** @param away milliseconds that a call takes to get there and back, for both sides; 0 for loopback as it is */
    SendBench(int rows, int away) {
        this.rows = rows;
        this.away = away;
    }

    void run() throws Exception {
        try (Rig rig = new Rig(rows);
                StandInProcess standIn = StandInProcess.start(rig.folder)) {
            Desk desk = new Desk(standIn.address());
            desk.limit(false);
            if (away > 0) {
                desk.faults("[{\"fault\":\"latency\",\"on\":\"batch\",\"share\":1,\"millis\":" + away + "}]");
            }
            rig.setUp(standIn.address().toString());
            List<byte[]> bodies = new ArrayList<>();
            List<Double> answered = new ArrayList<>();
            List<Double> whole = new ArrayList<>();
            for (int i = 1; i <= WARM_UPS + TIMES; i++) {
                desk.clear();
                rig.forgetRuns();
                boolean oursFirst = bodies.isEmpty() || i % 2 == 0;
                double theirs = oursFirst ? 0 : bare(rig, desk, standIn, bodies);
                rig.checkpoint();
                Sent ours = send(rig);
                if (bodies.isEmpty()) {
                    bodies = bodies(rig);
                }
                theirs = oursFirst ? bare(rig, desk, standIn, bodies) : theirs;
                System.out.printf(
                        Locale.ROOT,
                        "%sbare %.0f records/s, product %.0f records/s, with the known state %.0f records/s%n",
                        i <= WARM_UPS ? "warm-up: " : "",
                        rows / theirs,
                        rows / ours.answered(),
                        rows / ours.finished());
                if (i > WARM_UPS) {
                    answered.add(theirs / ours.answered());
                    whole.add(theirs / ours.finished());
                }
            }
            System.out.printf(
                    Locale.ROOT,
                    "send rows=%d away_ms=%d %s answered_ratio=%.2f%n",
                    rows,
                    away,
                    Pairs.of(whole),
                    Pairs.of(answered).median());
        }
    }

    private double bare(Rig rig, Desk desk, StandInProcess standIn, List<byte[]> bodies) throws Exception {
        desk.clear();
        rig.checkpoint();
        double seconds = post(standIn.address(), bodies);
        desk.clear();
        return seconds;
    }

    /**
     * Seconds from the word to send.
     *
     * @param answered until the answer of the last call was written down
     * @param finished until known state and outcomes of every record were as well
     */
    private record Sent(double answered, double finished) {}

    private Sent send(Rig rig) throws InterruptedException {
        JsonNode drawn = rig.draw();
        long id = drawn.get("id").asLong();
        if (drawn.get("sums").get("added").asLong() != rows) {
            throw new IllegalStateException("not everything is to be added: " + drawn);
        }
        rig.api.post("/api/runs/" + id + "/send", Map.of());
        JsonNode sent = finished(rig, id);
        if (sent.get("outcomes").path("ACKNOWLEDGED").asLong() != rows) {
            throw new IllegalStateException("not everything was taken: " + sent);
        }
        return new Sent(seconds(sent, "answeredAt"), seconds(sent, "finishedAt"));
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

    /** The very bodies the product sent, made ready before the clock runs. */
    private List<byte[]> bodies(Rig rig) {
        List<byte[]> bodies = new ArrayList<>();
        List<Map<String, Object>> records = new ArrayList<>();
        for (int offset = 0; offset < rows; offset += 500) {
            for (JsonNode line :
                    rig.api.get("/api/runs/1/lines?limit=500&offset=" + offset).get("lines")) {
                Map<String, Object> fields = new java.util.LinkedHashMap<>();
                line.get("fields").forEach(field -> {
                    String name = field.get("field").asString();
                    String text = field.get("fresh").asString();
                    boolean number = name.equals("crossings_90d") || name.equals("churn_score");
                    fields.put(name, number ? new java.math.BigDecimal(text) : text);
                });
                records.add(Map.of("key", fields.get("external_ref"), "fields", fields));
                if (records.size() == BATCH) {
                    bodies.add(body(records));
                    records.clear();
                }
            }
        }
        if (!records.isEmpty()) {
            bodies.add(body(records));
        }
        return bodies;
    }

    private static byte[] body(List<Map<String, Object>> records) {
        return JSON.writeValueAsBytes(
                Map.of("by", "external_ref", "absent", "add", "present", "refuse", "records", List.copyOf(records)));
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

package remitto.bench;

import java.net.URI;
import java.util.Locale;
import java.util.Map;
import remitto.demo.history.Desk;
import remitto.standins.purser.Purser;
import tools.jackson.databind.JsonNode;
import tools.jackson.databind.json.JsonMapper;

/** How much of what a destination allows is used, and how many calls it refuses, while a large manifest is sent. */
final class LimitBench {
    private static final int WARM_UP_SECONDS = 14;
    private static final double ALLOWED_PER_SECOND = 120 / 12.0;
    private static final int RECORDS_PER_CALL = 250;
    private static final int SPARE_SECONDS = 10;

    private final int seconds;

    LimitBench(int seconds) {
        this.seconds = seconds;
    }

    void run() throws Exception {
        // More than can be sent in the time.
        int rows = (int) (RECORDS_PER_CALL * ALLOWED_PER_SECOND * (WARM_UP_SECONDS + seconds + SPARE_SECONDS));
        try (Rig rig = new Rig(rows);
                Purser purser = Purser.start(0, rig.folder.resolve("purser.jsonl"))) {
            Desk desk = new Desk(URI.create("http://127.0.0.1:" + purser.port()));
            rig.setUp("http://127.0.0.1:" + purser.port(), false);
            desk.limit(false);
            JsonNode prepared = rig.prepare();
            if (!prepared.get("state").asString().equals("READY")) {
                throw new IllegalStateException("not prepared: " + prepared);
            }
            desk.limit(true);
            rig.api.post("/api/runs/" + prepared.get("id").asLong() + "/send", Map.of());
            Thread.sleep(WARM_UP_SECONDS * 1000L);
            long from = last(desk);
            long start = System.nanoTime();
            Thread.sleep(seconds * 1000L);
            int calls = 0;
            int refused = 0;
            for (JsonNode call : JsonMapper.builder().build().readTree(desk.calls(from))) {
                calls++;
                refused += call.get("status").asInt() == 429 ? 1 : 0;
            }
            double lasted = (System.nanoTime() - start) / 1e9;
            System.out.printf(
                    Locale.ROOT,
                    "limit used=%.3f refused=%.4f%n",
                    (calls - refused) / (ALLOWED_PER_SECOND * lasted),
                    calls == 0 ? 0.0 : (double) refused / calls);
        }
    }

    private static long last(Desk desk) {
        JsonNode calls = JsonMapper.builder().build().readTree(desk.calls(0));
        return calls.isEmpty() ? 0 : calls.get(calls.size() - 1).get("number").asLong();
    }
}

package remitto.bench.crash;

import java.util.ArrayList;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.concurrent.TimeUnit;
import remitto.demo.history.Api;
import tools.jackson.databind.JsonNode;

/**
 * The person at the desk in a round: prepares each route once, presses Send once for each manifest, and otherwise watches. Whatever
 * else has to be pressed for the round to end is counted.
 */
final class Round {
    private static final Set<String> OVER = Set.of("SENT", "CANCELLED");
    private static final long LONGEST_MILLIS = TimeUnit.MINUTES.toMillis(12);
    private static final long PATIENCE_MILLIS = TimeUnit.SECONDS.toMillis(45);

    private final CrashRig rig;
    private final List<String> presses = new ArrayList<>();
    private final Map<Long, Long> asked = new HashMap<>();
    private final Map<Long, Long> stoodSince = new HashMap<>();
    private volatile boolean sendingBegan;
    private volatile String seen = "";

    Round(CrashRig rig) {
        this.rig = rig;
    }

    /** What had to be pressed beyond what a quiet round takes. */
    List<String> presses() {
        return List.copyOf(presses);
    }

    boolean hasBegunSending() {
        return sendingBegan;
    }

    /** The states that the runs were last seen in. */
    String seen() {
        return seen;
    }

    private Optional<JsonNode> newest(long route) {
        return rig.tryToAsk(api -> api.get("/api/runs?routeId=" + route))
                .map(page -> page.get("runs"))
                .filter(runs -> !runs.isEmpty())
                .map(runs -> runs.get(0));
    }

    /** @param before by route, the newest run that there was before this round */
    void bringToItsEnd(Map<Long, Long> before) throws InterruptedException {
        long until = System.currentTimeMillis() + LONGEST_MILLIS;
        while (System.currentTimeMillis() < until) {
            boolean over = true;
            StringBuilder states = new StringBuilder();
            for (long route : rig.routes.all()) {
                over &= step(route, before.getOrDefault(route, 0L), states);
            }
            seen = states.toString();
            if (over) {
                return;
            }
            TimeUnit.MILLISECONDS.sleep(100);
        }
        throw new IllegalStateException("the round did not end; its runs: " + seen + "; logs are in " + rig.folder);
    }

    private boolean step(long route, long before, StringBuilder states) {
        Optional<JsonNode> run = newest(route).filter(one -> one.get("id").asLong() > before);
        if (run.isEmpty()) {
            if (!asked.containsKey(route)) {
                press("/api/routes/" + route + "/runs", route);
            } else {
                stands(route, "nothing was begun", () -> press("/api/routes/" + route + "/runs", route));
            }
            return false;
        }
        String state = run.get().get("state").asString();
        String halt = run.get().path("halt").asString("NONE");
        long id = run.get().get("id").asLong();
        states.append(state).append(state.equals("HALTED") ? " " + halt : "").append(", ");
        switch (state) {
            case "DRAWN" -> {
                sendingBegan = true;
                press("/api/runs/" + id + "/send", route);
            }
            case "STOPPED" -> throw new IllegalStateException("a guard stopped run " + id);
            case "HALTED" -> {
                if (!halt.equals("CIRCUIT")) {
                    stands(
                            route,
                            "halted: " + run.get().get("message").asString(),
                            () -> press("/api/runs/" + id + "/send", route));
                }
            }
            case "FAILED", "INTERRUPTED" ->
                stands(
                        route,
                        state + ": " + run.get().get("message").asString(),
                        () -> press("/api/routes/" + route + "/runs", route));
            default -> stoodSince.remove(route);
        }
        return OVER.contains(state);
    }

    /** Somebody has to help only when nothing goes on by itself for a while. */
    private void stands(long route, String why, Runnable press) {
        long now = System.currentTimeMillis();
        long since = stoodSince.computeIfAbsent(route, fresh -> now);
        if (now - since > PATIENCE_MILLIS) {
            presses.add(why);
            stoodSince.remove(route);
            press.run();
        }
    }

    private void press(String path, long route) {
        try {
            rig.tryToAsk(api -> api.post(path, Map.of())).ifPresent(taken -> asked.put(route, 1L));
        } catch (Api.Refused alreadyUnderWay) {
            // It was pressed already, and the answer was lost; or a run is under way.
        }
    }
}

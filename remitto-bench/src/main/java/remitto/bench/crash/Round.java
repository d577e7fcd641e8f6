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

    /** @param since when it was first seen to stand so, while a server answered */
    private record MatchResult(String why, long since) {}

    private final CrashRig rig;
    private final boolean undoes;
    private final List<String> presses = new ArrayList<>();
    private final Map<Long, Long> asked = new HashMap<>();
    private final Map<Long, MatchResult> matchResult = new HashMap<>();
    private volatile boolean sendingBegan;
    private volatile String seen = "";

    /** @param undoes whether the last manifest of the piers is taken back, instead of their being sent */
    Round(CrashRig rig, boolean undoes) {
        this.rig = rig;
        this.undoes = undoes;
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

    /** The newest first; empty when no server answers. */
    private Optional<List<JsonNode>> runs(long route) {
        return rig.tryToAsk(api -> api.get("/api/runs?routeId=" + route))
                .map(page -> List.copyOf(page.get("runs").values()));
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
        Optional<List<JsonNode>> runs = runs(route);
        if (runs.isEmpty()) {
            // Whoever sees nothing cannot know that something stands, and has nobody to press anything at.
            matchResult.remove(route);
            return false;
        }
        Optional<JsonNode> run =
                runs.get().stream().findFirst().filter(one -> one.get("id").asLong() > before);
        if (run.isEmpty()) {
            if (!asked.containsKey(route)) {
                press(begins(route, before), route);
            } else {
                stands(route, "nothing was begun", () -> press(begins(route, before), route));
            }
            return false;
        }
        String state = run.get().get("state").asString();
        String suspension = run.get().path("suspension").asString("NONE");
        long id = run.get().get("id").asLong();
        states.append(state)
                .append(state.equals("SUSPENDED") ? " " + suspension : "")
                .append(", ");
        switch (state) {
            case "READY" -> {
                sendingBegan = true;
                press("/api/runs/" + id + "/send", route);
            }
            case "CANCELLED" -> {
                String why = "run " + id + " was cancelled, which nobody had asked for";
                if (!presses.contains(why)) {
                    presses.add(why);
                }
            }
            case "AWAITING_APPROVAL" -> throw new IllegalStateException("a guard stopped run " + id);
            case "SUSPENDED" -> {
                if (!suspension.equals("CIRCUIT")) {
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
                        () -> press(begins(route, before), route));
            default -> matchResult.remove(route);
        }
        return OVER.contains(state);
    }

    private String begins(long route, long before) {
        return undoes && route == rig.routes.piers()
                ? "/api/runs/" + before + "/undo"
                : "/api/routes/" + route + "/runs";
    }

    /** Somebody has to help only when nothing goes on by itself for a while. */
    private void stands(long route, String why, Runnable press) {
        long now = System.currentTimeMillis();
        MatchResult one = matchResult.compute(
                route, (key, last) -> last != null && last.why().equals(why) ? last : new MatchResult(why, now));
        if (now - one.since() > PATIENCE_MILLIS) {
            presses.add(why);
            matchResult.remove(route);
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

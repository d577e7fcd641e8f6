package remitto.command;

import java.time.Duration;
import java.time.Instant;
import java.util.List;
import java.util.Locale;
import tools.jackson.databind.JsonNode;

/** Runs of an installation: waited for, and told in words. */
final class Runs {
    private static final Duration LOOK = Duration.ofSeconds(1);
    private static final List<String> UNDER_WAY = List.of("PREPARING", "SENDING");
    private static final List<String> WELL = List.of("SENT", "SKIPPED", "DISCARDED");

    private Runs() {}

    /**
     * Waits until nothing goes on.
     *
     * @param longest after which it ends with what there is then
     */
    static JsonNode await(Api api, long run, Duration longest, Surroundings surroundings) {
        Instant end = surroundings.clock().instant().plus(longest);
        JsonNode now = api.get("/api/runs/" + run);
        while (UNDER_WAY.contains(state(now)) && surroundings.clock().instant().isBefore(end)) {
            surroundings.sleep(LOOK);
            now = api.get("/api/runs/" + run);
        }
        return now;
    }

    static String state(JsonNode run) {
        return run.path("state").asString();
    }

    /** What a command that saw this run last ends with. */
    static int exit(JsonNode run) {
        String state = state(run);
        if (List.of("READY", "AWAITING_APPROVAL", "SUSPENDED").contains(state)) {
            return Exit.WAITS;
        }
        return WELL.contains(state) || UNDER_WAY.contains(state) ? Exit.DONE : Exit.REFUSED;
    }

    /** One line: which run, how it stands, and what it holds. */
    static String words(JsonNode run) {
        JsonNode counts = run.path("counts");
        return "run " + run.path("id").asLong() + " of " + run.path("route").asString() + ": " + plain(state(run))
                + "; +"
                + counts.path("added").asLong() + " ~" + counts.path("changed").asLong() + " -"
                + counts.path("removed").asLong() + " ="
                + counts.path("unchanged").asLong() + ", "
                + counts.path("held").asLong() + " held, "
                + counts.path("leftOut").asLong() + " left out"
                + message(run);
    }

    private static String message(JsonNode run) {
        String message = run.path("message").asString("");
        return message.isEmpty() ? "" : ". " + message;
    }

    static String plain(String word) {
        return word.toLowerCase(Locale.ROOT).replace('_', ' ');
    }

    /**
     * The id of a route by the name of its file, what it is called, or its number.
     *
     * @throws CommandProblem if there is none
     */
    static long route(Api api, String wanted) {
        List<JsonNode> found = api.get("/api/definitions/names")
                .valueStream()
                .filter(one -> one.path("kind").asString().equals("route"))
                .filter(one -> List.of(
                                one.path("slug").asString(),
                                one.path("name").asString(),
                                one.path("id").asString())
                        .contains(wanted))
                .toList();
        if (found.isEmpty()) {
            throw new CommandProblem(Exit.REFUSED, "There is no route " + wanted + ".");
        }
        return Long.parseLong(found.get(0).path("id").asString());
    }
}

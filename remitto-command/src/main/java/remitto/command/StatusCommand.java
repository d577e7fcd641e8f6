package remitto.command;

import java.util.Comparator;
import java.util.List;
import picocli.CommandLine.Command;
import tools.jackson.databind.JsonNode;

/** Says how the routes of an installation stand. */
@Command(
        name = "status",
        mixinStandardHelpOptions = true,
        description =
                "Says how every route stands: whether it is in service, and when it departs next; and what does not answer.")
final class StatusCommand extends ApiCommand {
    StatusCommand(Surroundings surroundings) {
        super(surroundings);
    }

    @Override
    public Integer call() {
        Api api = api();
        JsonNode routes = api.get("/api/routes");
        said().json(routes);
        if (!said().asJson()) {
            List<JsonNode> sorted = routes.valueStream()
                    .sorted(Comparator.comparing(route -> route.path("name").asString()))
                    .toList();
            sorted.forEach(route -> said().line(route.path("name").asString() + " to "
                    + route.path("destination").asString() + ": " + state(route)));
            api.get("/api/circuits").forEach(circuit -> said().line("destination "
                    + circuit.path("destination").asString() + " does not answer: "
                    + circuit.path("reason").asString("")));
            said().line(sorted.size() + (sorted.size() == 1 ? " route." : " routes."));
        }
        return Exit.DONE;
    }

    private static String state(JsonNode route) {
        JsonNode live = route.path("liveVersion");
        if (!live.isNumber()) {
            return "not in service";
        }
        int latest = route.path("latestVersion").asInt();
        String newer = latest > live.asInt() ? ", version " + latest + " is saved" : "";
        if (route.path("paused").asBoolean()) {
            return "paused, version " + live.asInt() + newer;
        }
        return "in service, version " + live.asInt() + newer + ", "
                + (route.path("nextDeparture").isString()
                        ? "departs " + route.path("nextDeparture").asString()
                        : "departs only when it is started");
    }
}

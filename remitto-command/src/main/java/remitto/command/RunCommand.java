package remitto.command;

import java.util.Map;
import picocli.CommandLine.Command;
import picocli.CommandLine.Option;
import picocli.CommandLine.Parameters;
import tools.jackson.databind.JsonNode;

/** Prepares a manifest of a route, and sends it where that is asked. */
@Command(
        name = "run",
        mixinStandardHelpOptions = true,
        description =
                "Prepares a manifest of a route and waits for it; with --send it is sent too, unless it needs somebody.")
final class RunCommand extends RunningCommand {
    @Parameters(paramLabel = "ROUTE", description = "Name of its file, what it is called, or its number.")
    private String route = "";

    @Option(names = "--send", description = "Send it once it is ready (scope send).")
    private boolean send;

    @Option(names = "--no-wait", description = "End as soon as it has begun.")
    private boolean noWait;

    RunCommand(Surroundings surroundings) {
        super(surroundings);
    }

    @Override
    public Integer call() {
        Api api = api();
        long run = api.post("/api/routes/" + Runs.route(api, route) + "/runs", Map.of())
                .path("runId")
                .asLong();
        JsonNode now = noWait ? api.get("/api/runs/" + run) : await(api, run);
        if (send && !noWait && Runs.state(now).equals("READY")) {
            api.post("/api/runs/" + run + "/send", Map.of());
            now = await(api, run);
        }
        tell(now);
        // A manifest that is ready is all that was asked for.
        return !send && Runs.state(now).equals("READY") ? Exit.DONE : Runs.exit(now);
    }
}

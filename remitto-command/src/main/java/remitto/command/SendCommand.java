package remitto.command;

import java.util.Map;
import picocli.CommandLine.Command;
import picocli.CommandLine.Parameters;
import tools.jackson.databind.JsonNode;

/** Sends a manifest that is ready. */
@Command(
        name = "send",
        mixinStandardHelpOptions = true,
        description = "Sends a manifest that is ready, and waits until it is sent.")
final class SendCommand extends RunningCommand {
    @Parameters(paramLabel = "RUN", description = "Number of the run.")
    private long run;

    SendCommand(Surroundings surroundings) {
        super(surroundings);
    }

    @Override
    public Integer call() {
        Api api = api();
        api.post("/api/runs/" + run + "/send", Map.of());
        JsonNode now = await(api, run);
        tell(now);
        return Runs.exit(now);
    }
}

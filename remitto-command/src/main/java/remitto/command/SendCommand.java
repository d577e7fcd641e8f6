package remitto.command;

import java.time.Duration;
import java.util.Map;
import java.util.concurrent.Callable;
import picocli.CommandLine.Command;
import picocli.CommandLine.Mixin;
import picocli.CommandLine.Parameters;
import tools.jackson.databind.JsonNode;

/** Sends a manifest that is ready. */
@Command(
        name = "send",
        mixinStandardHelpOptions = true,
        description = "Sends a manifest that is ready, and waits until it is sent.")
final class SendCommand implements Callable<Integer> {
    private final Surroundings surroundings;

    @Mixin
    private Where where = new Where();

    @Mixin
    private Said said = new Said();

    @Parameters(paramLabel = "RUN", description = "Number of the run.")
    private long run;

    SendCommand(Surroundings surroundings) {
        this.surroundings = surroundings;
    }

    @Override
    public Integer call() {
        Api api = where.target(surroundings.environment()).api();
        api.post("/api/runs/" + run + "/send", Map.of());
        JsonNode now = Runs.await(api, run, Duration.ofDays(1), surroundings);
        said.json(now);
        said.line(Runs.words(now));
        return Runs.exit(now);
    }
}

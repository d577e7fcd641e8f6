package remitto.command;

import picocli.CommandLine.Command;
import picocli.CommandLine.Parameters;
import tools.jackson.databind.JsonNode;

/** Waits for a run. */
@Command(
        name = "wait",
        mixinStandardHelpOptions = true,
        description = "Waits until a run neither prepares nor sends, and tells how it stands.")
final class WaitCommand extends RunningCommand {
    @Parameters(paramLabel = "RUN", description = "Number of the run.")
    private long run;

    WaitCommand(Surroundings surroundings) {
        super(surroundings);
    }

    @Override
    public Integer call() {
        Api api = api();
        JsonNode now = await(api, run);
        tell(now);
        return Runs.exit(now);
    }
}

package remitto.command;

import java.time.Duration;
import java.util.concurrent.Callable;
import picocli.CommandLine.Command;
import picocli.CommandLine.Mixin;
import picocli.CommandLine.Option;
import picocli.CommandLine.Parameters;
import tools.jackson.databind.JsonNode;

/** Waits for a run. */
@Command(
        name = "wait",
        mixinStandardHelpOptions = true,
        description = "Waits until a run neither prepares nor sends, and tells how it stands.")
final class WaitCommand implements Callable<Integer> {
    private final Surroundings surroundings;

    @Mixin
    private Where where = new Where();

    @Mixin
    private Said said = new Said();

    @Parameters(paramLabel = "RUN", description = "Number of the run.")
    private long run;

    @Option(names = "--longest", paramLabel = "MINUTES", description = "How long to wait. Default: 60.")
    private int longest = 60;

    WaitCommand(Surroundings surroundings) {
        this.surroundings = surroundings;
    }

    @Override
    public Integer call() {
        Api api = where.target(surroundings.environment()).api();
        JsonNode now = Runs.await(api, run, Duration.ofMinutes(longest), surroundings);
        said.json(now);
        said.line(Runs.words(now));
        return Runs.exit(now);
    }
}

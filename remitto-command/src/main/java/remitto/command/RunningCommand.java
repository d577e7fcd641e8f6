package remitto.command;

import java.time.Duration;
import picocli.CommandLine.Option;
import tools.jackson.databind.JsonNode;

/** A command that waits for a run and tells how it stands. */
abstract class RunningCommand extends ApiCommand {
    @Option(names = "--longest", paramLabel = "MINUTES", description = "How long to wait. Default: 60.")
    private int longest = 60;

    RunningCommand(Surroundings surroundings) {
        super(surroundings);
    }

    JsonNode await(Api api, long run) {
        return Runs.await(api, run, Duration.ofMinutes(longest), surroundings());
    }

    void tell(JsonNode run) {
        said().json(run);
        said().line(Runs.words(run));
    }
}

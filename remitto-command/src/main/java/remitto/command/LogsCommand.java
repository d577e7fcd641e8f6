package remitto.command;

import java.util.List;
import picocli.CommandLine.Command;
import picocli.CommandLine.Parameters;
import tools.jackson.databind.JsonNode;

/** Tells what happened in a run. */
@Command(
        name = "logs",
        mixinStandardHelpOptions = true,
        description = "Tells what happened in a run, and why records came no further.")
final class LogsCommand extends ApiCommand {
    private static final List<List<String>> MOMENTS = List.of(
            List.of("startedAt", "started, by "),
            List.of("preparedAt", "prepared"),
            List.of("sentAt", "sending began"),
            List.of("answeredAt", "last answer"),
            List.of("finishedAt", "finished"));

    @Parameters(paramLabel = "RUN", description = "Number of the run.")
    private long run;

    LogsCommand(Surroundings surroundings) {
        super(surroundings);
    }

    @Override
    public Integer call() {
        Api api = api();
        JsonNode now = api.get("/api/runs/" + run);
        said().json(now);
        if (!said().asJson()) {
            MOMENTS.forEach(moment -> moment(now, moment.get(0), moment.get(1)));
            api.get("/api/runs/" + run + "/ladder").path("rungs").forEach(rung -> rung.path("losses")
                    .forEach(loss -> said().line("  "
                            + loss.path("people").asLong() + " "
                            + Runs.plain(loss.path("verdict").asString()) + ": "
                            + loss.path("reason").asString())));
            said().line(Runs.words(now));
        }
        return Exit.DONE;
    }

    private void moment(JsonNode now, String member, String words) {
        if (now.path(member).isString()) {
            said().line(now.path(member).asString() + "  " + words
                    + (words.endsWith("by ") ? now.path("startedBy").asString() : ""));
        }
    }
}

package remitto.command;

import java.util.Locale;
import java.util.Map;
import picocli.CommandLine.Command;
import picocli.CommandLine.Mixin;
import picocli.CommandLine.Option;
import tools.jackson.databind.JsonNode;

/** Applies files to an installation. */
@Command(
        name = "apply",
        mixinStandardHelpOptions = true,
        description = "Applies the files: all, or none. Shows the plan first and asks.")
final class ApplyCommand extends ApiCommand {
    @Mixin
    private Definitions definitions = new Definitions();

    @Option(
            names = {"-y", "--yes"},
            description = "Do not ask.")
    private boolean yes;

    @Option(
            names = "--note",
            paramLabel = "TEXT",
            description = "Note of the versions that are saved, such as a commit.")
    private String note = "";

    ApplyCommand(Surroundings surroundings) {
        super(surroundings);
    }

    @Override
    public Integer call() {
        Where.Target target = target();
        Map<String, Object> request = definitions.request(target, surroundings().environment(), note);
        JsonNode plan = target.api().post("/api/definitions/plan", request);
        if (!plan.path("faults").isEmpty()) {
            said().json(plan);
            Definitions.faults(plan, said());
            said().note("Nothing was changed.");
            return Exit.REFUSED;
        }
        Definitions.changes(plan, said());
        if (Definitions.many(plan) == 0) {
            said().json(plan);
            return Exit.DONE;
        }
        if (!yes && !agreed()) {
            said().note("Nothing was changed.");
            return Exit.REFUSED;
        }
        request.put("state", plan.path("state").asString());
        JsonNode done = target.api().post("/api/definitions/apply", request);
        said().json(done);
        said().line("Applied.");
        return Exit.DONE;
    }

    private boolean agreed() {
        if (!surroundings().isAsked()) {
            throw new CommandProblem(Exit.REFUSED, "Nobody is there to agree; --yes applies without asking.");
        }
        said().note("Apply this? (yes/no)");
        return surroundings().answer().strip().toLowerCase(Locale.ROOT).equals("yes");
    }
}

package remitto.command;

import java.time.Duration;
import java.util.Map;
import picocli.CommandLine.Command;
import picocli.CommandLine.Mixin;
import picocli.CommandLine.Option;
import tools.jackson.databind.JsonNode;

/** Says what applying files would change. */
@Command(
        name = "plan",
        mixinStandardHelpOptions = true,
        description = "Says what applying the files would change. Changes nothing.")
final class PlanCommand extends ApiCommand {
    private static final Duration LOOK = Duration.ofMillis(400);

    @Mixin
    private Definitions definitions = new Definitions();

    @Option(
            names = "--rehearse",
            description =
                    "Do everything and take it back, so that all that would be refused is refused (scope define).")
    private boolean rehearse;

    @Option(
            names = "--effect",
            description = "Judge the rows as they are by what is changed, and say what would be sent.")
    private boolean effect;

    @Option(names = "--check", description = "End with 3 where something differs, for a check by night.")
    private boolean check;

    PlanCommand(Surroundings surroundings) {
        super(surroundings);
    }

    @Override
    public Integer call() {
        Where.Target target = target();
        Map<String, Object> request = definitions.request(target, surroundings().environment(), "");
        JsonNode plan = target.api().post("/api/definitions/plan", request);
        if (plan.path("faults").isEmpty() && rehearse) {
            target.api().post("/api/definitions/rehearsal", request);
        }
        said().json(plan);
        if (!plan.path("faults").isEmpty()) {
            Definitions.faults(plan, said());
            return Exit.REFUSED;
        }
        Definitions.changes(plan, said());
        if (effect) {
            plan.path("changes").forEach(change -> effect(target.api(), change));
        }
        return check && Definitions.many(plan) > 0 ? Exit.DIFFERS : Exit.DONE;
    }

    private void effect(Api api, JsonNode change) {
        JsonNode question = change.path("effect");
        if (question.path("path").isMissingNode() || question.isNull()) {
            return;
        }
        JsonNode job = api.post(question.path("path").asString(), question.path("body"));
        while (job.path("state").asString().equals("UNDER_WAY")) {
            surroundings().sleep(LOOK);
            job = api.get("/api/what-if/" + job.path("id").asLong());
        }
        said().line("Effect of " + change.path("path").asString() + ":");
        if (!job.path("problem").asString("").isEmpty()) {
            said().line("  " + job.path("problem").asString());
        }
        job.path("effects").forEach(this::effect);
        if (job.path("effects").isEmpty() && job.path("problem").asString("").isEmpty()) {
            said().line("  on no route in service");
        }
    }

    private void effect(JsonNode route) {
        JsonNode effect = route.path("effect");
        if (effect.isMissingNode() || effect.isNull()) {
            said().line("  route " + route.path("route").asString() + ": "
                    + route.path("problem").asString());
            return;
        }
        said().line("  route " + route.path("route").asString() + ": "
                + effect.path("differ").asLong() + " of " + effect.path("rows").asLong() + " records differ"
                + (effect.path("whole").asBoolean() ? "" : " (not all rows were read)"));
        said().line("    now  " + verdicts(effect.path("before")));
        said().line("    then " + verdicts(effect.path("after")));
    }

    private static String verdicts(JsonNode counts) {
        StringBuilder words = new StringBuilder();
        counts.properties().forEach(one -> words.append(words.isEmpty() ? "" : ", ")
                .append(one.getValue().asLong())
                .append(' ')
                .append(one.getKey().toLowerCase(java.util.Locale.ROOT).replace('_', ' ')));
        return words.isEmpty() ? "nothing" : words.toString();
    }
}

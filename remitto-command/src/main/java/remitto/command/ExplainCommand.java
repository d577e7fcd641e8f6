package remitto.command;

import java.net.URLEncoder;
import java.nio.charset.StandardCharsets;
import java.util.Optional;
import picocli.CommandLine.Command;
import picocli.CommandLine.Parameters;
import tools.jackson.databind.JsonNode;

/** Says why a field holds what it holds. */
@Command(
        name = "explain",
        mixinStandardHelpOptions = true,
        description = "Says why a field of a record holds what it holds: from which row, by which rule, step by step.")
final class ExplainCommand extends ApiCommand {
    @Parameters(index = "0", paramLabel = "ROUTE", description = "Name of its file, what it is called, or its number.")
    private String route = "";

    @Parameters(index = "1", paramLabel = "KEY", description = "Key of the record in the dataset.")
    private String key = "";

    @Parameters(index = "2", arity = "0..1", paramLabel = "FIELD", description = "Default: the key field.")
    private Optional<String> field = Optional.empty();

    ExplainCommand(Surroundings surroundings) {
        super(surroundings);
    }

    @Override
    public Integer call() {
        Api api = api();
        String path = "/api/routes/" + Runs.route(api, route) + "/explain?key=" + encoded(key)
                + field.map(name -> "&field=" + encoded(name)).orElse("");
        JsonNode explained = api.get(path);
        said().json(explained);
        said().line("field " + explained.path("field").asString() + " holds there: "
                + shown(explained.path("there").asString("")));
        JsonNode made = explained.path("made");
        if (made.isObject()) {
            said().line("made by run " + made.path("runId").asLong() + " of route "
                    + made.path("route").asString() + ", version "
                    + made.path("routeVersion").asInt() + ": "
                    + made.path("sentence").asString());
            made.path("inputs").properties().forEach(input -> said().line("  from " + input.getKey() + ": "
                    + shown(input.getValue().asString(""))));
            made.path("steps")
                    .forEach(step -> said().line("  " + step.path("step").asString() + ": "
                            + shown(step.path("value").asString(""))));
            said().line("  answered " + made.path("answeredAt").asString("not yet") + ": "
                    + made.path("answer").asString(""));
        }
        String problem = explained.path("problem").asString("");
        if (!problem.isEmpty()) {
            said().line(problem);
        }
        return Exit.DONE;
    }

    private static String shown(String value) {
        return value.isEmpty() ? "nothing" : value;
    }

    private static String encoded(String text) {
        return URLEncoder.encode(text, StandardCharsets.UTF_8);
    }
}

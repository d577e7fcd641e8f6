package remitto.command;

import java.io.PrintWriter;
import picocli.CommandLine.Model.CommandSpec;
import picocli.CommandLine.Option;
import picocli.CommandLine.Spec;
import picocli.CommandLine.Spec.Target;
import tools.jackson.databind.JsonNode;

/** How a command says what it found: lines for people, or the JSON of the API for programs. */
final class Said {
    @Spec(Target.MIXEE)
    private CommandSpec command = CommandSpec.create();

    /** In which form. */
    enum Form {
        TEXT,
        JSON
    }

    @Option(
            names = {"-o", "--output"},
            paramLabel = "FORM",
            description = "text or json. Default: text.")
    private Form form = Form.TEXT;

    boolean asJson() {
        return form == Form.JSON;
    }

    /** The JSON, where that is wanted. */
    void json(JsonNode value) {
        if (asJson()) {
            out().println(value.toPrettyString());
            out().flush();
        }
    }

    /** A line, where no JSON is wanted. */
    void line(String text) {
        if (!asJson()) {
            out().println(text);
            out().flush();
        }
    }

    /** A line beside the output, which programs do not read. */
    void note(String text) {
        command.commandLine().getErr().println(text);
        command.commandLine().getErr().flush();
    }

    private PrintWriter out() {
        return command.commandLine().getOut();
    }
}

package remitto.command;

import java.util.List;
import picocli.AutoComplete;
import picocli.CommandLine;
import picocli.CommandLine.Command;

/** The command {@code remitto}. */
@Command(
        name = "remitto",
        version = "remitto 0.1.0",
        mixinStandardHelpOptions = true,
        synopsisSubcommandLabel = "COMMAND",
        description = "What an installation of Remitto does, from a terminal.",
        footer = {
            "",
            "A token lets in: make one on the page of service accounts, and put it in REMITTO_TOKEN.",
            "",
            "Ends with 0 when all went well, 1 when something was refused or failed, 2 for wrong usage, 3 when plan --check"
                    + " finds a difference, 4 when the installation does not answer or does not let the token in, 5 when a"
                    + " person has to act first."
        })
public final class RemittoCommand {
    private RemittoCommand() {}

    public static void main(String[] arguments) {
        System.exit(line(Surroundings.ofProcess()).execute(arguments));
    }

    /** The command with all of its commands. */
    public static CommandLine line(Surroundings surroundings) {
        CommandLine line = new CommandLine(new RemittoCommand());
        List.of(
                        new PullCommand(surroundings),
                        new PlanCommand(surroundings),
                        new ApplyCommand(surroundings),
                        new RunCommand(surroundings),
                        new SendCommand(surroundings),
                        new WaitCommand(surroundings),
                        new ExplainCommand(surroundings),
                        new StatusCommand(surroundings),
                        new LogsCommand(surroundings))
                .forEach(line::addSubcommand);
        line.addSubcommand(new AutoComplete.GenerateCompletion());
        line.setCaseInsensitiveEnumValuesAllowed(true);
        line.setExecutionExceptionHandler((thrown, command, parsed) -> {
            if (thrown instanceof CommandProblem problem) {
                command.getErr().println(problem.getMessage());
                command.getErr().flush();
                return problem.exit();
            }
            throw thrown;
        });
        return line;
    }
}

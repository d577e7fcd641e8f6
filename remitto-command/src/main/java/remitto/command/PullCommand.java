package remitto.command;

import java.util.Map;
import java.util.TreeMap;
import picocli.CommandLine.Command;
import picocli.CommandLine.Option;
import tools.jackson.databind.JsonNode;

/** Writes the definitions of an installation as files. */
@Command(
        name = "pull",
        mixinStandardHelpOptions = true,
        description = "Writes every definition of an installation as a file. Secrets are never among them.")
final class PullCommand extends ApiCommand {
    @Option(names = "--in-service", description = "What is in service, instead of what was saved last.")
    private boolean inService;

    @Option(names = "--prune", description = "Delete files of definitions that are no longer there.")
    private boolean prune;

    PullCommand(Surroundings surroundings) {
        super(surroundings);
    }

    @Override
    public Integer call() {
        Where.Target target = target();
        JsonNode files = target.api().get("/api/definitions?inService=" + inService);
        Map<String, String> texts = new TreeMap<>();
        files.forEach(file ->
                texts.put(file.path("path").asString(), file.path("text").asString()));
        DefinitionFolder.Written written = new DefinitionFolder(target.directory()).write(texts, prune);
        said().json(files);
        written.written().forEach(path -> said().line("wrote " + path));
        written.others().forEach(path -> said().line(
                        prune ? "deleted " + path : path + " is not there any more; --prune deletes such files"));
        said().line(written.written().size() + " written, " + written.same() + " as they were.");
        return Exit.DONE;
    }
}

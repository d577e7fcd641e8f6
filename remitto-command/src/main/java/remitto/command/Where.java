package remitto.command;

import java.nio.file.Path;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import picocli.CommandLine.Option;

/** Which installation a command is about. A flag counts before the environment, and that before {@code remitto.yaml}. */
final class Where {
    @Option(
            names = {"-C", "--directory"},
            paramLabel = "DIR",
            description = "Folder of the definitions and of remitto.yaml. Default: this one.")
    private Path directory = Path.of(".");

    @Option(
            names = {"-i", "--installation"},
            paramLabel = "NAME",
            description = "One of remitto.yaml. Default: $REMITTO_INSTALLATION, then its \"usual\".")
    private Optional<String> installation = Optional.empty();

    @Option(
            names = "--url",
            paramLabel = "URL",
            description = "Where the installation is. Default: $REMITTO_URL, then remitto.yaml.")
    private Optional<String> url = Optional.empty();

    @Option(
            names = "--token-file",
            paramLabel = "FILE",
            description = "File that holds the token. Default: $REMITTO_TOKEN, then remitto.yaml.")
    private Optional<String> tokenFile = Optional.empty();

    /** What a command is about. */
    record Target(Api api, Path directory, Workspace.Installation installation) {
        /** Secrets of files, each with its value. */
        Map<String, Map<String, String>> secrets(Map<String, String> environment) {
            Map<String, Map<String, String>> values = new HashMap<>();
            installation.secrets().forEach((path, secrets) -> {
                Map<String, String> given = new HashMap<>();
                secrets.forEach((name, kept) -> given.put(name, kept.value(name + " of " + path, environment)));
                values.put(path, given);
            });
            return values;
        }
    }

    Target target(Map<String, String> environment) {
        Workspace workspace = Workspace.read(directory.resolve(Workspace.FILE));
        Optional<String> address = url.or(() -> set(environment, "REMITTO_URL"));
        Optional<String> named = installation.or(() -> set(environment, "REMITTO_INSTALLATION"));
        Workspace.Installation there = address.isPresent()
                        && named.isEmpty()
                        && workspace.installations().isEmpty()
                ? new Workspace.Installation(address.get(), Optional.empty(), List.of(), Map.of(), Map.of())
                : workspace.installation(named);
        String token = tokenFile
                .map(file -> new Kept(Optional.empty(), Optional.of(file)).value("The token", environment))
                .or(() -> set(environment, "REMITTO_TOKEN"))
                .or(() -> there.token().map(kept -> kept.value("The token", environment)))
                .orElseThrow(() -> new CommandProblem(
                        Exit.NO_ENTRY,
                        "There is no token. Make one on the page of service accounts and put it in REMITTO_TOKEN."));
        return new Target(new Api(address.orElse(there.url()), token), directory, there);
    }

    private static Optional<String> set(Map<String, String> environment, String name) {
        return Optional.ofNullable(environment.get(name)).filter(text -> !text.isEmpty());
    }
}

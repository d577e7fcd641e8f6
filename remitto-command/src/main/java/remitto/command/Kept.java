package remitto.command;

import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.Map;
import java.util.Optional;

/**
 * A value that stands elsewhere, so that a file in a repository never holds it: {@code {env: NAME}} or {@code {file: path}}, of which
 * the last line's end does not count.
 */
record Kept(Optional<String> env, Optional<String> file) {
    /** @throws CommandProblem if it is not there */
    String value(String what, Map<String, String> environment) {
        if (env.isPresent() == file.isPresent()) {
            throw new CommandProblem(
                    Exit.REFUSED, what + " says where its value stands: either {env: NAME} or {file: path}.");
        }
        if (env.isPresent()) {
            return Optional.ofNullable(environment.get(env.get()))
                    .filter(text -> !text.isEmpty())
                    .orElseThrow(() -> new CommandProblem(
                            Exit.REFUSED,
                            what + " is taken from the environment variable " + env.get() + ", which is not set."));
        }
        try {
            return Files.readString(Path.of(file.get())).replaceAll("\\R$", "");
        } catch (IOException e) {
            throw new CommandProblem(Exit.REFUSED, what + " is taken from " + file.get() + ", which cannot be read.");
        }
    }
}

package remitto.command;

import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.TreeMap;
import tools.jackson.core.JacksonException;
import tools.jackson.core.StreamReadFeature;
import tools.jackson.databind.DeserializationFeature;
import tools.jackson.databind.exc.UnrecognizedPropertyException;
import tools.jackson.dataformat.yaml.YAMLMapper;

/**
 * What {@code remitto.yaml} says: the installations that a repository of definitions belongs to.
 *
 * @param usual the installation that is meant where none is named
 * @param installations by name
 */
record Workspace(Optional<String> usual, Map<String, Installation> installations) {
    static final String FILE = "remitto.yaml";

    Workspace {
        installations = Map.copyOf(Optional.ofNullable(installations).orElse(Map.of()));
    }

    /**
     * One installation.
     *
     * @param url where it is, with its base path
     * @param token what lets in
     * @param leave kinds of definitions that are looked after there, such as destination
     * @param names by kind, what is called otherwise there, by its name in the files
     * @param secrets by path of a file, the secrets of a source or destination
     */
    record Installation(
            String url,
            Optional<Kept> token,
            List<String> leave,
            Map<String, Map<String, String>> names,
            Map<String, Map<String, Kept>> secrets) {
        Installation {
            leave = List.copyOf(Optional.ofNullable(leave).orElse(List.of()));
            names = Map.copyOf(Optional.ofNullable(names).orElse(Map.of()));
            secrets = Map.copyOf(Optional.ofNullable(secrets).orElse(Map.of()));
        }
    }

    /** @throws CommandProblem if it is there and cannot be read */
    static Workspace read(Path file) {
        if (!Files.exists(file)) {
            return new Workspace(Optional.empty(), Map.of());
        }
        YAMLMapper yaml = YAMLMapper.builder()
                .enable(StreamReadFeature.STRICT_DUPLICATE_DETECTION)
                .enable(DeserializationFeature.FAIL_ON_UNKNOWN_PROPERTIES)
                .build();
        String text = text(file);
        try {
            return Optional.ofNullable(yaml.readValue(text, Workspace.class))
                    .orElseGet(() -> new Workspace(Optional.empty(), Map.of()));
        } catch (UnrecognizedPropertyException e) {
            throw new CommandProblem(
                    Exit.REFUSED,
                    file + ", line " + line(text, e.getPropertyName()) + ": there is no \"" + e.getPropertyName()
                            + "\" here; there is " + String.join(", ", names(e)) + ".");
        } catch (JacksonException e) {
            int line = e.getLocation() == null ? 1 : Math.max(1, e.getLocation().getLineNr());
            throw new CommandProblem(
                    Exit.REFUSED,
                    file + ", line " + line + ": "
                            + e.getOriginalMessage().lines().findFirst().orElse("cannot be read"));
        }
    }

    private static String text(Path file) {
        try {
            return Files.readString(file);
        } catch (IOException e) {
            throw new CommandProblem(Exit.REFUSED, file + " cannot be read.");
        }
    }

    private static List<String> names(UnrecognizedPropertyException e) {
        return e.getKnownPropertyIds().stream().map(String::valueOf).sorted().toList();
    }

    /** The first line that begins with a member of that name: the reader only knows where it was once it had read it. */
    private static int line(String text, String member) {
        List<String> lines = text.lines().toList();
        for (int at = 0; at < lines.size(); at++) {
            if (lines.get(at).strip().startsWith(member + ":")) {
                return at + 1;
            }
        }
        return 1;
    }

    /** @throws CommandProblem if there is none of that name, or none is named and there are several */
    Installation installation(Optional<String> wanted) {
        Optional<String> name = wanted.or(() -> usual)
                .or(() -> installations.size() == 1
                        ? installations.keySet().stream().findFirst()
                        : Optional.empty());
        if (name.isEmpty()) {
            throw new CommandProblem(
                    Exit.REFUSED,
                    installations.isEmpty()
                            ? "Say which installation is meant: with --url and REMITTO_TOKEN, or in " + FILE + "."
                            : "Say with --installation which one is meant: "
                                    + String.join(", ", new TreeMap<>(installations).keySet()) + ".");
        }
        return Optional.ofNullable(installations.get(name.get()))
                .orElseThrow(() -> new CommandProblem(
                        Exit.REFUSED,
                        FILE + " knows no installation " + name.get()
                                + (installations.isEmpty()
                                        ? "."
                                        : "; it knows " + String.join(", ", new TreeMap<>(installations).keySet())
                                                + ".")));
    }
}

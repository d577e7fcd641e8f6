package remitto.command;

import java.io.IOException;
import java.nio.charset.MalformedInputException;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.SortedMap;
import java.util.TreeMap;
import java.util.regex.Pattern;
import java.util.stream.Stream;

/** The files of definitions in a folder: a folder for each kind, a file for each definition. Everything else there is nobody's business. */
final class DefinitionFolder {
    private static final Pattern PATH = Pattern.compile("[a-z-]{1,40}/[a-z0-9][a-z0-9_-]{0,79}\\.ya?ml");
    private static final long LARGEST = 8_000_000;
    private static final long LARGEST_OF_ALL = 18_000_000;

    private final Path folder;

    DefinitionFolder(Path folder) {
        this.folder = folder;
    }

    /**
     * Texts by path.
     *
     * @throws CommandProblem if one cannot be read, or is larger than any definition
     */
    SortedMap<String, String> read() {
        SortedMap<String, String> texts = new TreeMap<>();
        long sum = 0;
        for (Path file : files()) {
            String path = path(file);
            try {
                long size = Files.size(file);
                sum += size;
                if (size > LARGEST) {
                    throw new CommandProblem(
                            Exit.REFUSED,
                            path + " has " + size + " bytes; no definition is longer than " + LARGEST + ".");
                }
                if (sum > LARGEST_OF_ALL) {
                    throw new CommandProblem(
                            Exit.REFUSED,
                            "The files have more than " + LARGEST_OF_ALL
                                    + " bytes together, which is not taken at once.");
                }
                texts.put(path, Files.readString(file));
            } catch (MalformedInputException e) {
                throw new CommandProblem(Exit.REFUSED, path + " is not UTF-8 text.");
            } catch (IOException e) {
                throw new CommandProblem(Exit.REFUSED, path + " cannot be read.");
            }
        }
        return texts;
    }

    /** Files two levels down that end as YAML does, in folders that begin with a letter. */
    private List<Path> files() {
        if (!Files.isDirectory(folder)) {
            throw new CommandProblem(Exit.REFUSED, "There is no folder " + folder + ".");
        }
        try (Stream<Path> all = Files.find(folder, 2, (file, is) -> is.isRegularFile())) {
            return all.filter(file -> folder.relativize(file).getNameCount() == 2)
                    .filter(file -> path(file).matches("[a-z][^/]*/.*\\.ya?ml"))
                    .sorted()
                    .toList();
        } catch (IOException e) {
            throw new CommandProblem(Exit.REFUSED, "The folder " + folder + " cannot be read.");
        }
    }

    private String path(Path file) {
        return folder.relativize(file).toString().replace('\\', '/');
    }

    /** What was written, what is as it was, and what is there beside it. */
    record Written(List<String> written, int same, List<String> others) {}

    /**
     * Writes files whose text is another than what is there.
     *
     * @param delete whether files of definitions that are not among them go
     */
    Written write(Map<String, String> texts, boolean delete) {
        List<String> written = new ArrayList<>();
        List<String> others = new ArrayList<>();
        int same = 0;
        try {
            for (Map.Entry<String, String> text : new TreeMap<>(texts).entrySet()) {
                if (!PATH.matcher(text.getKey()).matches()) {
                    throw new CommandProblem(
                            Exit.REFUSED,
                            "The installation names a file " + text.getKey() + ", which is no place for one.");
                }
                Path file = folder.resolve(text.getKey());
                if (Files.exists(file) && Files.readString(file).equals(text.getValue())) {
                    same++;
                } else {
                    Files.createDirectories(file.getParent());
                    Files.write(file, text.getValue().getBytes(StandardCharsets.UTF_8));
                    written.add(text.getKey());
                }
            }
            List<String> folders = texts.keySet().stream()
                    .map(path -> path.substring(0, path.indexOf('/')))
                    .distinct()
                    .toList();
            for (Path file : files()) {
                String path = path(file);
                if (!texts.containsKey(path) && folders.contains(path.substring(0, path.indexOf('/')))) {
                    others.add(path);
                    if (delete) {
                        Files.delete(file);
                    }
                }
            }
        } catch (IOException e) {
            throw new CommandProblem(Exit.REFUSED, "The folder " + folder + " cannot be written: " + e.getMessage());
        }
        return new Written(written, same, others);
    }
}

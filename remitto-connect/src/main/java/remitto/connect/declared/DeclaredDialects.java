package remitto.connect.declared;

import java.io.IOException;
import java.net.URL;
import java.net.URLClassLoader;
import java.nio.file.Files;
import java.nio.file.Path;
import java.sql.Driver;
import java.util.ArrayList;
import java.util.List;
import java.util.stream.Stream;
import remitto.connect.database.Dialect;
import remitto.connect.yaml.YamlPlaces;
import tools.jackson.core.JacksonException;
import tools.jackson.databind.DeserializationFeature;
import tools.jackson.databind.MapperFeature;
import tools.jackson.dataformat.yaml.YAMLMapper;

/**
 * The dialects of a folder: one YAML file each, with the driver's files beside it. Whoever can write to the folder decides what code
 * this process runs.
 */
public final class DeclaredDialects {
    private static final YAMLMapper YAML = YAMLMapper.builder()
            .enable(DeserializationFeature.FAIL_ON_UNKNOWN_PROPERTIES)
            .enable(MapperFeature.ACCEPT_CASE_INSENSITIVE_ENUMS)
            .build();

    private DeclaredDialects() {}

    /**
     * What a folder holds. A file that cannot be used keeps no other from being used.
     *
     * @param dialects those that can be used, by name of their files
     * @param problems what is wrong with the others, each with the name of its file
     */
    public record Found(List<DeclaredDialect> dialects, List<String> problems) {}

    /** Reads a folder; one that is not there holds nothing. */
    public static Found in(Path folder) {
        if (!Files.exists(folder)) {
            return new Found(List.of(), List.of());
        }
        List<DeclaredDialect> dialects = new ArrayList<>();
        List<String> problems = new ArrayList<>();
        try (Stream<Path> all = Files.list(folder)) {
            for (Path file :
                    all.filter(one -> one.toString().endsWith(".yaml")).sorted().toList()) {
                try {
                    dialects.add(read(file));
                } catch (IOException | IllegalArgumentException | JacksonException | ReflectiveOperationException e) {
                    problems.add(file.getFileName() + ": " + said(e));
                }
            }
        } catch (IOException e) {
            problems.add(folder + " cannot be read: " + e);
        }
        return new Found(dialects, problems);
    }

    private static String said(Exception problem) {
        if (problem instanceof ClassNotFoundException) {
            return "class " + problem.getMessage() + " is in none of the driver's files";
        }
        return problem instanceof JacksonException json
                ? (json.getCause() instanceof IllegalArgumentException ours
                                ? ours.getMessage()
                                : json.getOriginalMessage())
                        + (json.getLocation() == null || json.getLocation().getLineNr() < 1
                                ? ""
                                : ", line " + json.getLocation().getLineNr())
                : String.valueOf(problem.getMessage());
    }

    private static DeclaredDialect read(Path file) throws IOException, ReflectiveOperationException {
        String text = Files.readString(file);
        YamlPlaces places = new YamlPlaces(text);
        if (places.unreadable().isPresent()) {
            YamlPlaces.Unreadable why = places.unreadable().get();
            throw new IllegalArgumentException(why.message() + ", line " + why.line());
        }
        Declaration declared = YAML.readValue(text, Declaration.class);
        Dialect<remitto.connect.database.DatabaseSettings> dialect = new Dialect<>(
                new DeclaredSpelling(declared.spelling()),
                new DeclaredSessions(declared, driver(file.toAbsolutePath().getParent(), declared.driver())));
        return new DeclaredDialect(
                declared.name(),
                declared.title(),
                declared.port(),
                declared.driver().address().containsKey("required")
                        || declared.driver().address().containsKey("verified"),
                dialect);
    }

    /** Its classes are kept for as long as the process lives, and see none of ours. */
    private static Driver driver(Path folder, Declaration.Driver declared)
            throws IOException, ReflectiveOperationException {
        List<URL> files = new ArrayList<>();
        for (String name : declared.jars()) {
            Path jar = folder.resolve(name).normalize();
            if (!folder.equals(jar.getParent())) {
                throw new IllegalArgumentException("driver.jars names files beside the declaration, not " + name);
            }
            if (!Files.isRegularFile(jar)) {
                throw new IllegalArgumentException(name + " is not beside the declaration");
            }
            files.add(jar.toUri().toURL());
        }
        ClassLoader loader = new URLClassLoader(files.toArray(new URL[0]), ClassLoader.getPlatformClassLoader());
        Object made = Class.forName(declared.driverClass(), true, loader)
                .getDeclaredConstructor()
                .newInstance();
        if (made instanceof Driver driver) {
            return driver;
        }
        throw new IllegalArgumentException(declared.driverClass() + " is no JDBC driver");
    }
}

package remitto.server.house;

import static com.tngtech.archunit.lang.syntax.ArchRuleDefinition.noClasses;
import static com.tngtech.archunit.library.dependencies.SlicesRuleDefinition.slices;
import static org.assertj.core.api.Assertions.assertThat;

import com.tngtech.archunit.core.domain.JavaClasses;
import com.tngtech.archunit.core.importer.ClassFileImporter;
import com.tngtech.archunit.core.importer.ImportOption;
import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.List;
import java.util.Map;
import java.util.TreeMap;
import java.util.stream.Collectors;
import java.util.stream.Stream;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.ValueSource;

/** How the packages lie to each other: no circles, none too large, and what each module keeps out. */
class RoomsTest {
    private static final int MOST_TYPES = 30;
    private static final int MOST_LINES = 3_500;

    /** A family of small values, a file each. */
    private static final String SHAPERS = "remitto/core/shaper";

    /** In the names of classes that the build writes: bean definitions beside what they define. */
    private static final String GENERATED = "__";

    private static final JavaClasses ALL = new ClassFileImporter()
            .withImportOption(new ImportOption.DoNotIncludeTests())
            .withImportOption(location -> !location.contains(GENERATED))
            .importPackages("remitto");

    @ParameterizedTest
    @ValueSource(strings = {"core", "connect", "server"})
    void noPackagesGoInACircle(String module) {
        slices().matching("remitto." + module + ".(**)")
                .should()
                .beFreeOfCycles()
                .check(ALL);
    }

    @Test
    void connectionsKnowNoFrameworkOfTheServer() {
        noClasses()
                .that()
                .resideInAPackage("remitto.connect..")
                .should()
                .dependOnClassesThat()
                .resideInAnyPackage("org.springframework..", "remitto.server..")
                .check(ALL);
    }

    /** What is known of one database stays with its dialect, and what is known of databases with them. */
    @Test
    void aKindOfSourceIsKnownInItsOwnRoomAlone() {
        noClasses()
                .that()
                .resideInAPackage("remitto.connect.source..")
                .should()
                .dependOnClassesThat()
                .resideInAnyPackage(
                        "java.sql..",
                        "org.postgresql..",
                        "org.mariadb..",
                        "remitto.connect.database..",
                        "remitto.connect.declared..",
                        "remitto.connect.mariadb..",
                        "remitto.connect.postgres..")
                .check(ALL);
        noClasses()
                .that()
                .resideInAPackage("remitto.connect.database..")
                .should()
                .dependOnClassesThat()
                .resideInAnyPackage(
                        "org.postgresql..",
                        "org.mariadb..",
                        "remitto.connect.declared..",
                        "remitto.connect.mariadb..",
                        "remitto.connect.postgres..")
                .check(ALL);
        noClasses()
                .that()
                .resideInAPackage("remitto.server..")
                .and()
                .resideOutsideOfPackages("remitto.server.source..", "remitto.server.people.view..")
                .should()
                .dependOnClassesThat()
                .resideInAnyPackage(
                        "remitto.connect.database..", "remitto.connect.declared..", "remitto.connect.mariadb..")
                .check(ALL);
    }

    @Test
    void coreTouchesNoFilesAndNoSockets() {
        noClasses()
                .that()
                .resideInAPackage("remitto.core..")
                .should()
                .dependOnClassesThat()
                .haveNameMatching(
                        "java\\.io\\.(File.*|RandomAccessFile)|java\\.nio\\.file\\..*|java\\.nio\\.channels\\..*"
                                + "|java\\.net\\.(.*Socket.*|URL|HttpURLConnection)")
                .check(ALL);
    }

    @Test
    void noPackageIsTooLarge() throws IOException {
        Map<String, List<Path>> rooms = new TreeMap<>();
        for (String module : List.of("core", "connect", "server", "standins", "demo", "bench")) {
            rooms.putAll(sources(Path.of("..", "remitto-" + module, "src", "main", "java")));
        }
        assertThat(rooms).hasSizeGreaterThan(80);
        for (Map.Entry<String, List<Path>> room : rooms.entrySet()) {
            if (!room.getKey().equals(SHAPERS)) {
                assertThat(room.getValue()).as("types of " + room.getKey()).hasSizeLessThanOrEqualTo(MOST_TYPES);
                assertThat(lines(room.getValue()))
                        .as("lines of " + room.getKey())
                        .isLessThanOrEqualTo(MOST_LINES);
            }
        }
    }

    @Test
    void everyPackageIsOnTheMapWithTheLineThatItSaysOfItself() throws IOException {
        String map = Files.readString(Path.of("..", "docs", "design.md"));
        for (String module : List.of("core", "connect", "server")) {
            Path root = Path.of("..", "remitto-" + module, "src", "main", "java");
            for (String room : sources(root).keySet()) {
                String line = saidOf(root.resolve(room).resolve("package-info.java"));
                String name = room.replace('/', '.').replaceFirst("^remitto\\." + module + "\\.?", "");
                if (!name.isEmpty()) {
                    assertThat(map).contains("| `" + name + "` | " + line + " |");
                }
            }
        }
    }

    private static String saidOf(Path packageInfo) throws IOException {
        String text = Files.readString(packageInfo);
        assertThat(text).as(packageInfo.toString()).startsWith("/**");
        return text.substring(3, text.indexOf("*/"))
                .replaceAll("\\s*\\n\\s*\\*\\s?", " ")
                .strip();
    }

    private static Map<String, List<Path>> sources(Path root) throws IOException {
        try (Stream<Path> files = Files.walk(root)) {
            return files.filter(file -> file.toString().endsWith(".java") && !file.endsWith("package-info.java"))
                    .collect(Collectors.groupingBy(
                            file -> root.relativize(file.getParent()).toString(), TreeMap::new, Collectors.toList()));
        }
    }

    private static long lines(List<Path> files) throws IOException {
        long lines = 0;
        for (Path file : files) {
            lines += Files.readAllLines(file).size();
        }
        return lines;
    }
}

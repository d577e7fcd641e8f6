package remitto.server.house;

import static org.assertj.core.api.Assertions.assertThat;

import java.io.IOException;
import java.io.UncheckedIOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.List;
import java.util.Map;
import java.util.TreeMap;
import java.util.function.Predicate;
import java.util.stream.Stream;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.EnumSource;
import remitto.core.cause.CauseKind;

/** No cause stands in the register alone: the product gives it, and a test sees it given. */
class CausesTest {
    private static final Path ROOT = Path.of("..");
    private static final List<String> MODULES = List.of("core", "server", "e2e");

    private static Map<String, String> texts(String part) {
        Map<String, String> texts = new TreeMap<>();
        for (String module : MODULES) {
            Path folder = ROOT.resolve("remitto-" + module).resolve("src").resolve(part);
            if (Files.isDirectory(folder)) {
                try (Stream<Path> files = Files.walk(folder)) {
                    files.filter(file -> file.toString().endsWith(".java"))
                            .filter(file -> !file.toString().contains("cause/")
                                    && !file.endsWith("CausesTest.java")
                                    && !file.endsWith("ReachLadderTest.java"))
                            .forEach(file -> texts.put(file.toString(), text(file)));
                } catch (IOException e) {
                    throw new UncheckedIOException(e);
                }
            }
        }
        assertThat(texts).as(part).isNotEmpty();
        return texts;
    }

    private static String text(Path file) {
        try {
            return Files.readString(file);
        } catch (IOException e) {
            throw new UncheckedIOException(e);
        }
    }

    /** Names alone, so that what is wrong can be read. */
    private static List<String> saying(String part, Predicate<String> wanted) {
        return texts(part).entrySet().stream()
                .filter(file -> wanted.test(file.getValue()))
                .map(Map.Entry::getKey)
                .toList();
    }

    @ParameterizedTest
    @EnumSource(CauseKind.class)
    void everyCauseIsGivenByTheProduct(CauseKind kind) {
        assertThat(saying("main", text -> text.contains("CauseKind." + kind.name())))
                .isNotEmpty();
    }

    @ParameterizedTest
    @EnumSource(CauseKind.class)
    void everyCauseIsSeenByATest(CauseKind kind) {
        List<String> signs = List.of(
                "CauseKind." + kind.name() + ")",
                "CauseKind." + kind.name() + ",",
                "\"" + kind.code() + "\"",
                "code=" + kind.code(),
                "\"" + kind.code() + ":");
        assertThat(saying("test", text -> signs.stream().anyMatch(text::contains)))
                .isNotEmpty();
    }

    /** One codec: nobody puts a code together, or takes it apart, by hand. Codes of one word are words of other things as well. */
    @ParameterizedTest
    @EnumSource(CauseKind.class)
    void noCodeIsSpelledByHandInTheProduct(CauseKind kind) {
        List<String> signs = kind.code().contains("-")
                ? List.of("\"" + kind.code() + "\"", "'" + kind.code() + "'")
                : List.of("\"" + kind.code() + ":\"", "'" + kind.code() + ":'");
        assertThat(saying("main", text -> signs.stream().anyMatch(text::contains)))
                .isEmpty();
    }
}

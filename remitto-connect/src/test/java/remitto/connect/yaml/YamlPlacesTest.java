package remitto.connect.yaml;

import static org.assertj.core.api.Assertions.assertThat;

import java.util.List;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;

class YamlPlacesTest {
    private static final String TEXT = """
            name: Towns
            entries:
            - from: Ness
              to: Nes
            - {from: Lervik, to: Lervig}
            """;

    @ParameterizedTest
    @CsvSource({
        "name,1",
        "entries,2",
        "entries/0,3",
        "entries/0/to,4",
        "entries/1,5",
        "entries/1/to,5",
        "entries/7,2",
        "nobody,1"
    })
    void aPartIsFoundByItsLineOrTheNearestThatIsThere(String path, int line) {
        assertThat(new YamlPlaces(TEXT).line(List.of(path.split("/")))).isEqualTo(line);
    }

    private static String unreadable(String text) {
        return new YamlPlaces(text)
                .unreadable()
                .map(fault -> fault.line() + ": " + fault.message())
                .orElse("");
    }

    @Test
    void whatIsNoYamlIsToldWithItsLine() {
        assertThat(unreadable(TEXT)).isEmpty();
        assertThat(unreadable("a: 1\nb: [1, 2\n")).startsWith("2: ");
        assertThat(unreadable("a: 1\n--- \nb: 2\n")).contains("expected a single document");
    }

    @Test
    void aliasesAndDeepNestingAreNotRead() {
        assertThat(unreadable("a: &x 1\nb: *x\n")).startsWith("2: aliases (*name) are not read");
        assertThat(unreadable("a: " + "[".repeat(60) + "]".repeat(60))).startsWith("1: nested deeper than 60 levels");
        assertThat(unreadable("a: " + "[".repeat(59) + "]".repeat(59))).isEmpty();
        assertThat(unreadable("[".repeat(90_000))).startsWith("1: nested deeper");
    }

    @Test
    void whatWouldTakeLongToReadIsNotRead() {
        assertThat(unreadable("a: " + "x".repeat(99_000))).isEmpty();
        assertThat(unreadable("b: 1\na: " + "x".repeat(100_000)))
                .isEqualTo("2: a line of more than 100000 characters, which nobody writes");
        assertThat(unreadable("a: |\n" + ("  " + "x".repeat(80) + "\n").repeat(100_000)))
                .contains("limit");
    }
}

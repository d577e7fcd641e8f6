package remitto.core.fileset;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import java.util.ArrayList;
import java.util.List;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;
import remitto.core.dataset.ColumnType;
import remitto.core.landed.LandedColumn;

class FileSetDefinitionTest {
    private static LandedColumn column(String name) {
        return new LandedColumn(name, name.isEmpty() ? "x" : name, ColumnType.TEXT, "");
    }

    private static FileSetDefinition set(
            String pattern, List<LandedColumn> columns, String zone, SeveralFiles several) {
        return new FileSetDefinition(
                pattern,
                new FileFormat.Delimited(",", "\"", "UTF-8", 0, true),
                columns,
                zone,
                several,
                AfterReading.LEAVE,
                0);
    }

    @Test
    void everythingThatIsWrongIsToldAtOnce() {
        List<LandedColumn> columns =
                List.of(column("a"), column("A"), column(""), column("_line"), column("å".repeat(32)));
        assertThat(set("", columns, "Norge", new SeveralFiles.EachHoldsChanges(List.of(), "what", List.of()))
                        .faults())
                .containsExactly(
                        "Enter the pattern of the files' names, such as berths_*.csv.",
                        "Two columns are called A.",
                        "Every column needs a name.",
                        "The name _line begins with an underscore, as those of our own columns do.",
                        "The name " + "å".repeat(32) + " is too long; a column's name has at most 63 bytes.",
                        "\"Norge\" is no time zone; zones are called like Europe/Oslo.",
                        "Choose the key columns by which a change finds its record.",
                        "Enter at least one word of what that removes a record.",
                        "No column is called what.");
        assertThat(set("*.csv", List.of(column("a")), "UTC", new SeveralFiles.EachAdds())
                        .faults())
                .isEmpty();
        assertThat(set("*.csv", List.of(), "UTC", new SeveralFiles.EachAdds()).faults())
                .containsExactly("Choose at least one column.");
        List<LandedColumn> many = new ArrayList<>();
        for (int i = 0; i <= 1_000; i++) {
            many.add(column("c" + i));
        }
        assertThat(set("*.csv", many, "UTC", new SeveralFiles.EachAdds()).faults())
                .containsExactly("A table has at most 1,000 columns.");
    }

    @ParameterizedTest
    @CsvSource({
        "'',  '\"', UTF-8,  0,    The delimiter is one character",
        "ab,  '\"', UTF-8,  0,    The delimiter is one character",
        "',', ',',  UTF-8,  0,    The quote is one character other than the delimiter",
        "',', '\"', UTF-99, 0,    No encoding is called \"UTF-99\"",
        "',', '\"', 'a b',  0,    No encoding is called \"a b\"",
        "',', '\"', UTF-8,  -1,   'Between 0 and 1,000 lines'",
        "',', '\"', UTF-8,  1001, 'Between 0 and 1,000 lines'"
    })
    void aFormThatCannotBeReadIsRefused(String delimiter, String quote, String encoding, int skipped, String words) {
        assertThatThrownBy(() -> new FileFormat.Delimited(delimiter, quote, encoding, skipped, true))
                .hasMessageStartingWith(words);
    }

    @ParameterizedTest
    @CsvSource({
        "berths_*.csv,    berths_0612.csv,      true",
        "berths_*.csv,    berths_.csv,          true",
        "berths_*.csv,    old/berths_0612.csv,  false",
        "berths_*.csv,    Berths_0612.csv,      false",
        "berths_?.csv,    berths_12.csv,        false",
        "*/berths.csv,    vik/berths.csv,       true",
        "*/berths.csv,    a/vik/berths.csv,     false",
        "**/berths.csv,   a/vik/berths.csv,     true",
        "**/berths.csv,   berths.csv,           true",
        "**/berths.csv,   xberths.csv,          false",
        "vik/**,          vik/a/b.csv,          true",
        "a.b+(c)[d].csv,  a.b+(c)[d].csv,       true",
        "a.b,             axb,                  false"
    })
    void aPatternNamesFiles(String pattern, String path, boolean named) {
        assertThat(new FilePattern(pattern).matches(path)).isEqualTo(named);
    }

    @ParameterizedTest
    @CsvSource({"/etc/passwd", "../*.csv", "a/../../b", "a\\b", "'  '", "*a*b*c*d*e*f*g"})
    void aPatternStaysWithinItsFolder(String pattern) {
        assertThat(FilePattern.fault(pattern)).isPresent();
        assertThatThrownBy(() -> new FilePattern(pattern)).isInstanceOf(IllegalArgumentException.class);
    }
}

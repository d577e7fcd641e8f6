package remitto.core.landed;

import static org.assertj.core.api.Assertions.assertThat;

import java.util.Arrays;
import java.util.List;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;

class ColumnGuessesTest {
    private static ColumnGuess guess(String values) {
        List<List<String>> rows = Arrays.stream(values.split("\\|", -1))
                .map(value -> Arrays.asList(value))
                .toList();
        return ColumnGuesses.of(List.of("Came in"), rows).get(0);
    }

    @ParameterizedTest
    @CsvSource({
        "1|2|30,                    INTEGER,   '',",
        "1|2.5,                     DECIMAL,   '',",
        "'12,5|1.000,25',           DECIMAL,   comma,",
        "0047|0031,                 TEXT,      '',",
        "0|1|1,                     INTEGER,   '',",
        "yes|no|yes,                BOOLEAN,   '',",
        "true|FALSE,                BOOLEAN,   '',",
        "2026-12-24|2026-01-02,     DATE,      '',",
        "24.12.2026|01.02.2026,     DATE,      dd.MM.uuuu,",
        "4.12.2026|1.2.2026,        DATE,      d.M.uuuu,",
        "24/12/2026|01/02/2026,     DATE,      dd/MM/uuuu,",
        "01/24/2026|02/01/2026,     DATE,      MM/dd/uuuu,",
        "2026-12-24 08:00|2026-12-24T09:00:00Z, TIMESTAMP, '',",
        "24.12.2026 08:00,          TIMESTAMP, dd.MM.uuuu HH:mm,",
        "+4791244871|+4791244872,   TEXT,      '',",
        "NO|NO|NO,                  TEXT,      '',",
        "+12|-3,                    INTEGER,   '',",
        "Ada|2,                     TEXT,      '',",
        "||,                        TEXT,      '',",
        "31.02.2026|01.02.2026,     TEXT,      ''"
    })
    void aColumnIsWhatAllOfItsValuesAre(String values, String type, String spelling) {
        LandedColumn column = guess(values).column();
        assertThat(column.type().name() + " " + column.spelling()).isEqualTo(type + " " + spelling);
    }

    @Test
    void theEvidenceCountsAndTellsWhatElseItCouldBe() {
        assertThat(guess("1|2||30").evidence()).isEqualTo("3 of 4 filled: whole numbers");
        assertThat(guess("01/02/2026|03/04/2026").evidence())
                .isEqualTo(
                        "2 of 2 filled: dates, day first (dd/MM/uuuu); could also be dates, month first (MM/dd/uuuu)");
        assertThat(guess("24/12/2026|03/04/2026").evidence()).doesNotContain("could also be");
        assertThat(guess("1.234|5.678").evidence()).contains("could also be numbers with a decimal comma");
        assertThat(guess("0047|0031").evidence()).contains("codes or phones");
        assertThat(guess("|").evidence()).isEqualTo("no value in 2 rows");
    }

    /** Nearly all of a good many; of a few, a person decides. */
    @Test
    void aFewMistakesAmongManyAreNoText() {
        String many = "24.12.2026|".repeat(19);
        ColumnGuess most = guess(many + "31.02.2026");
        assertThat(most.column().type()).isEqualTo(remitto.core.dataset.ColumnType.DATE);
        assertThat(most.evidence()).isEqualTo("20 of 20 filled: dates (dd.MM.uuuu), but not \"31.02.2026\"");
        ColumnGuess fewer = guess(many + "31.02.2026|soon");
        assertThat(fewer.column().type()).isEqualTo(remitto.core.dataset.ColumnType.TEXT);
        assertThat(fewer.evidence())
                .isEqualTo("21 of 21 filled: text; 19 of 21 are dates (dd.MM.uuuu), but not \"31.02.2026\"");
        assertThat(guess("1|2|Ada|Bo|Cy").evidence()).isEqualTo("5 of 5 filled: text");
    }

    @Test
    void aKeyHasADifferentValueInEveryRow() {
        assertThat(guess("1|2|3").asKey()).isTrue();
        assertThat(guess("1|2|2").asKey()).isFalse();
        assertThat(guess("1||3").asKey()).isFalse();
        assertThat(guess("1|2|2"))
                .extracting(ColumnGuess::filled, ColumnGuess::distinct)
                .containsExactly(3, 2);
    }

    @Test
    void namesAreAsQueriesWriteThem() {
        List<String> names =
                List.of("Kunde-Nr.", "Fødselsdato", "fodselsdato", "  ", "Größe (m)", "名前", "x".repeat(99));
        assertThat(ColumnGuesses.of(names, List.of()).stream()
                        .map(one -> one.column().name())
                        .toList())
                .containsExactly(
                        "kunde_nr", "fodselsdato", "fodselsdato_2", "column_4", "grosse_m", "名前", "x".repeat(30));
    }
}

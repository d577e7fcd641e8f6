package remitto.core.file;

import static org.assertj.core.api.Assertions.assertThat;

import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;

/** Beginnings of formulas are those that OWASP names (CSV Injection). */
class SpreadsheetTextTest {
    @ParameterizedTest
    @CsvSource(
            delimiter = ';',
            quoteCharacter = '`',
            ignoreLeadingAndTrailingWhitespace = false,
            value = {
                "=1+1;'=1+1",
                "=HYPERLINK(\"https://x.example\");'=HYPERLINK(\"https://x.example\")",
                "+cmd|' /C calc'!A0;'+cmd|' /C calc'!A0",
                "-2+3;'-2+3",
                "@SUM(A1);'@SUM(A1)",
                "-12.5;-12.5",
                "+4790000123;+4790000123",
                "-7;-7",
                "Lie = Lie;Lie = Lie",
                "anna@fjord.example;anna@fjord.example"
            })
    void whatASpreadsheetWouldRunIsText(String cell, String written) {
        assertThat(SpreadsheetText.neutralised(cell)).isEqualTo(written);
    }

    @ParameterizedTest
    @CsvSource({"'\t=1', true", "'\r=1', true", "'', false"})
    void controlCharactersInFrontDoNotHelp(String cell, boolean marked) {
        assertThat(SpreadsheetText.neutralised(cell).startsWith("'")).isEqualTo(marked);
    }
}

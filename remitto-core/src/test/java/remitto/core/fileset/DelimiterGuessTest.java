package remitto.core.fileset;

import static org.assertj.core.api.Assertions.assertThat;

import java.util.stream.Collectors;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;

class DelimiterGuessTest {
    private static String delimited(String text) {
        DelimiterGuess guess = DelimiterGuess.of(text);
        return (guess.delimiter() == '\t' ? "tab" : guess.delimiter()) + (guess.header() ? " header" : " none");
    }

    @ParameterizedTest
    @CsvSource(
            delimiter = '!',
            quoteCharacter = '`',
            value = {
                "name,city/Ada,Oslo/Bo,Vik                      ! , header",
                "navn;pris/Ada;12,50/Bo;1,25/Cy;3,75            ! ; header",
                "a>b>c/1>2>3                                    ! tab header",
                "a|b/1|2                                        ! | header",
                "1,2/3,4                                        ! , none",
                "name,/Ada,Oslo                                 ! , none",
                "name/Ada/Bo                                    ! , header",
                "id;note/1;\"a,b,c,d\"/2;\"e,f,g,h\"            ! ; header",
                "at,what/08:00:00,a:b/09:00:00,c:d              ! , header"
            })
    void theDelimiterIsTheOneThatGivesRowsOfOneWidth(String text, String expected) {
        assertThat(delimited(text.strip().replace('/', '\n').replace('>', '\t')))
                .isEqualTo(expected);
    }

    @Test
    void theEvidenceOfADelimiterNamesColumnsAndRows() {
        assertThat(DelimiterGuess.of("a;b\n1;2\n3;4;5\n").evidence())
                .containsExactly(
                        "A semicolon gives 2 columns in 2 of 3 rows.",
                        "The first row has a text in every cell, so it names the columns.");
        assertThat(String.join(" ", DelimiterGuess.of("a,a\n1,2\n").evidence())).contains("\"a\" twice");
        assertThat(DelimiterGuess.of("").evidence().stream().collect(Collectors.joining()))
                .contains("No delimiter gives more than one column");
    }
}

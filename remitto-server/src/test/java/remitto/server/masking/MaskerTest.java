package remitto.server.masking;

import static org.assertj.core.api.Assertions.assertThat;

import java.nio.charset.StandardCharsets;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;

class MaskerTest {
    private final Masker masker = new Masker("a key for tests".getBytes(StandardCharsets.UTF_8));

    @ParameterizedTest
    @CsvSource(
            delimiter = ';',
            value = {
                "runa.lie@fjord.example; e-mail …le",
                "+47 900 00 123; phone …23",
                "4790000123; phone …23",
                "1984-02-29; date …29",
                "123.45; number …45",
                "Ottersen; text …en",
                "Lie; text …",
                "42; number …",
                "Ærlig 𝔸𝔹; text …𝔸𝔹"
            })
    void aValueIsToldByItsKindAndItsLastCharacters(String value, String shown) {
        assertThat(masker.mask(value)).matches(java.util.regex.Pattern.quote(shown) + " #[0-9a-f]{4}");
    }

    @Test
    void equalValuesHaveEqualMarksAndOtherKeysOtherMarks() {
        assertThat(masker.mask("Ottersen")).isEqualTo(masker.mask("Ottersen")).isNotEqualTo(masker.mask("Andersen"));
        assertThat(new Masker(new byte[] {1}).mask("Ottersen")).isNotEqualTo(masker.mask("Ottersen"));
    }

    @Test
    void whatIsEmptyStaysEmpty() {
        assertThat(masker.mask("")).isEmpty();
        assertThat(masker.mask(" ")).isEqualTo(" ");
    }

    @Test
    void ofASentenceOnlyWhatItQuotesIsMasked() {
        String masked =
                masker.maskIn("\"9000x\" is no phone number of NO; anna@fjord.example has +47 900 00 123 (23 of 40)");
        assertThat(masked)
                .startsWith("\"text …")
                .contains("is no phone number of NO; e-mail …le #")
                .contains("has phone …23 #")
                .endsWith("(23 of 40)")
                .doesNotContain("9000x")
                .doesNotContain("anna");
    }

    @Test
    void aKeyIsMaskedWhereItIsAnAddress() {
        assertThat(masker.maskKey("P-20005")).isEqualTo("P-20005");
        assertThat(masker.maskKey("4790000123")).isEqualTo("4790000123");
        assertThat(masker.maskKey("anna@fjord.example\t7"))
                .doesNotContain("anna")
                .endsWith("\t7");
    }
}

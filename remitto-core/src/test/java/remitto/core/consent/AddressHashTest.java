package remitto.core.consent;

import static org.assertj.core.api.Assertions.assertThat;

import java.util.List;
import java.util.Locale;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;

class AddressHashTest {
    /** FIPS 180-4 with the examples NIST publishes beside it ("abc", and the message of 448 bits). */
    @ParameterizedTest
    @CsvSource({
        "abc, ba7816bf8f01cfea414140de5dae2223b00361a396177a9cb410ff61f20015ad",
        "abcdbcdecdefdefgefghfghighijhijkijkljklmklmnlmnomnopnopq,"
                + " 248d6a61d20638b8e5c026930c3e6039a33ce45964ff2167f6ecedd419db06c1"
    })
    void hashesAreThoseOfTheStandard(String message, String hash) {
        assertThat(AddressHash.ofNormalised(message)).isEqualTo(hash);
    }

    @ParameterizedTest
    @CsvSource({
        "'  Liv.Hagerup@SOL.example ', liv.hagerup@sol.example",
        "Liv Hagerup <liv.hagerup@sol.example>, liv.hagerup@sol.example",
        "916 23 456, +4791623456",
        "0047 91623456, +4791623456",
        "+47 (916) 23-456, +4791623456"
    })
    void everySpellingOfAnAddressComesToOneHash(String spelled, String normalised) {
        assertThat(AddressHash.of(spelled, "NO")).contains(AddressHash.ofNormalised(normalised));
    }

    @Test
    void aHashIsTakenAsItIsAndWhatIsNoAddressIsNot() {
        String hash = AddressHash.ofNormalised("liv.hagerup@sol.example");
        assertThat(AddressHash.of(hash.toUpperCase(Locale.ROOT), "NO")).contains(hash);
        assertThat(AddressHash.of("ring the harbour office", "NO")).isEmpty();
        assertThat(AddressHash.of("nobody@", "NO")).isEmpty();
        assertThat(AddressHash.of("12", "NO")).isEmpty();
    }

    /** 20 12 34 56 is given out in Denmark and in other countries, and is no number of Norway's. */
    @Test
    void aNumberWithoutItsCountryIsEverythingItMayMean() {
        assertThat(AddressHash.meanings("20 12 34 56", "DK")).containsExactly(AddressHash.ofNormalised("+4520123456"));
        assertThat(AddressHash.meanings("20 12 34 56", ""))
                .contains(AddressHash.ofNormalised("+4520123456"))
                .hasSizeGreaterThan(1)
                .doesNotContain(AddressHash.ofNormalised("+4720123456"));
        assertThat(AddressHash.meanings("+45 20 12 34 56", ""))
                .containsExactly(AddressHash.ofNormalised("+4520123456"));
        assertThat(AddressHash.meanings("liv@sol.example", ""))
                .containsExactly(AddressHash.ofNormalised("liv@sol.example"));
        assertThat(AddressHash.meanings("ring the harbour office", "")).isEmpty();
        assertThat(AddressHash.meanings("20 12 34 56", "NO")).isEmpty();
    }

    @Test
    void severalTextsAreEverythingThatEachMayMean() {
        assertThat(AddressHash.ofAll(List.of("liv@sol.example", "20 12 34 56", "no address"), "DK"))
                .containsExactly(AddressHash.ofNormalised("liv@sol.example"), AddressHash.ofNormalised("+4520123456"));
        assertThat(AddressHash.ofAll(List.of(), "DK")).isEmpty();
    }
}

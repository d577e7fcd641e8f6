package remitto.core.shaper;

import static org.assertj.core.api.Assertions.assertThat;

import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;
import remitto.core.TestRows;
import remitto.core.dataset.Columns;
import remitto.core.value.Value;

class Sha256Test {
    private static final Columns NONE = TestRows.columns("id:TEXT:KEY");

    /** The one-block and two-block messages of NIST's examples to FIPS 180-4 for SHA-256. */
    @ParameterizedTest
    @CsvSource({
        "abc, ba7816bf8f01cfea414140de5dae2223b00361a396177a9cb410ff61f20015ad",
        "abcdbcdecdefdefgefghfghighijhijkijkljklmklmnlmnomnopnopq,"
                + " 248d6a61d20638b8e5c026930c3e6039a33ce45964ff2167f6ecedd419db06c1"
    })
    void hashesAsTheStandardSays(String message, String digest) {
        Shaped shaped = new Sha256().apply(Value.text(message), TestRows.row(NONE, java.util.Map.of("id", "1")));
        assertThat(shaped).isEqualTo(new Shaped.Usable(Value.text(digest)));
    }

    @ParameterizedTest
    @CsvSource({"''", "'   '"})
    void whatIsEmptyIsNotHashed(String nothing) {
        Value value = Value.text(nothing);
        assertThat(new Sha256().apply(value, TestRows.row(NONE, java.util.Map.of("id", "1"))))
                .isEqualTo(new Shaped.Usable(value));
    }
}

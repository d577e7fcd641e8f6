package remitto.core.consent;

import static org.assertj.core.api.Assertions.assertThat;

import java.nio.charset.StandardCharsets;
import java.util.HashSet;
import java.util.HexFormat;
import java.util.List;
import java.util.Set;
import javax.crypto.Mac;
import javax.crypto.spec.SecretKeySpec;
import org.junit.jupiter.api.Test;

class ErasureMarkTest {
    private static final byte[] KEY = "a key of thirty-two bytes, or so".getBytes(StandardCharsets.UTF_8);

    /** The JDK's own HMAC (RFC 2104) as the reference. */
    private static String hmac(String text) throws Exception {
        Mac mac = Mac.getInstance("HmacSHA256");
        mac.init(new SecretKeySpec(KEY, "HmacSHA256"));
        return HexFormat.of().formatHex(mac.doFinal(text.getBytes(StandardCharsets.UTF_8)));
    }

    @Test
    void aMarkIsAKeyedHash() throws Exception {
        ErasureMark mark = new ErasureMark(KEY);
        assertThat(mark.ofRecord(6, "P-20008")).isEqualTo(hmac("record 6 P-20008"));
        assertThat(mark.ofRecord(6, "Ålesund 7")).isEqualTo(hmac("record 6 Ålesund 7"));
        assertThat(mark.ofAddress("ab12")).isEqualTo(hmac("address ab12"));
        assertThat(new ErasureMark(new byte[] {1}).ofAddress("ab12"))
                .as("nothing without the key")
                .isNotEqualTo(mark.ofAddress("ab12"));
    }

    @Test
    void noTwoComeToOneMark() {
        ErasureMark mark = new ErasureMark(KEY);
        Set<String> marks = new HashSet<>();
        for (String key : List.of("1", "11", "1 1", " 1", "1 ", "")) {
            for (long dataset : new long[] {1, 11, 111}) {
                marks.add(mark.ofRecord(dataset, key));
            }
            marks.add(mark.ofAddress(key));
        }
        assertThat(marks).hasSize(6 * 4);
    }
}

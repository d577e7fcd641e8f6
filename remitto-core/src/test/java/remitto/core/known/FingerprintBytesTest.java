package remitto.core.known;

import static org.assertj.core.api.Assertions.assertThat;

import java.io.ByteArrayOutputStream;
import java.nio.ByteBuffer;
import java.nio.ByteOrder;
import java.nio.charset.StandardCharsets;
import java.util.List;
import org.apache.commons.codec.digest.MurmurHash3;
import org.jspecify.annotations.Nullable;
import org.junit.jupiter.api.Test;

/**
 * What is hashed, byte by byte: every text behind its length in four bytes, every number in eight, the lowest first. The bytes are put
 * together here by other means than there.
 */
class FingerprintBytesTest {
    private static final String LONG = "x".repeat(300);

    private static byte[] number(long number) {
        return ByteBuffer.allocate(8)
                .order(ByteOrder.LITTLE_ENDIAN)
                .putLong(number)
                .array();
    }

    private static byte[] text(String text) {
        byte[] utf8 = text.getBytes(StandardCharsets.UTF_8);
        return ByteBuffer.allocate(4 + utf8.length)
                .order(ByteOrder.LITTLE_ENDIAN)
                .putInt(utf8.length)
                .put(utf8)
                .array();
    }

    private static long[] hash(List<byte[]> parts) {
        ByteArrayOutputStream all = new ByteArrayOutputStream();
        parts.forEach(all::writeBytes);
        return MurmurHash3.hash128x64(all.toByteArray(), 0, all.size(), 0);
    }

    @Test
    void cellsAreHashedInTheirOrderBehindTheSalt() {
        String[] cells = {"P-1", "\u007f", "\u0080", "Åse Øy", LONG, ""};
        assertThat(new Fingerprint().input(0x0102_0304_0506_0708L, new int[] {4, 0, 1, 2, 3, 5}, cells))
                .isEqualTo(hash(List.of(
                        number(0x0102_0304_0506_0708L),
                        text(LONG),
                        text("P-1"),
                        text("\u007f"),
                        text("\u0080"),
                        text("Åse Øy"),
                        text("")))[0]);
    }

    @Test
    void aCellThatIsNotThereIsANumberThatNoLengthIs() {
        assertThat(new Fingerprint().input(7, new int[] {0}, new @Nullable String[] {null}))
                .isEqualTo(hash(List.of(number(7), number(-1)))[0]);
    }

    @Test
    void theBufferGrowsAsFarAsItMustAndKeepsWhatIsInIt() {
        String[] cells = {"a".repeat(500), "é".repeat(2_000), "b".repeat(70_000)};
        assertThat(new Fingerprint().input(1, new int[] {0, 1, 2}, cells))
                .isEqualTo(hash(List.of(number(1), text(cells[0]), text(cells[1]), text(cells[2])))[0]);
        // The salt alone may come when there is no room left.
        String[] full = {"a".repeat(492)};
        assertThat(new Fingerprint().input(1, new int[] {0, 0, 0}, full))
                .isEqualTo(hash(List.of(number(1), text(full[0]), text(full[0]), text(full[0])))[0]);
        @Nullable String[] nulls = new @Nullable String[100];
        int[] all = java.util.stream.IntStream.range(0, 100).toArray();
        ByteBuffer expected =
                ByteBuffer.allocate(808).order(ByteOrder.LITTLE_ENDIAN).putLong(3);
        for (int i = 0; i < 100; i++) {
            expected.putLong(-1);
        }
        assertThat(new Fingerprint().input(3, all, nulls))
                .isEqualTo(MurmurHash3.hash128x64(expected.array(), 0, 808, 0)[0]);
    }

    @Test
    void keysAndTextsAreHashedTheSameWay() {
        assertThat(new Fingerprint().key("Åse")).isEqualTo(hash(List.of(text("Åse"))));
        assertThat(new Fingerprint().of(List.of("a", "bc"))).isEqualTo(hash(List.of(text("a"), text("bc")))[0]);
        assertThat(new Fingerprint().of(List.of("ab", "c"))).isNotEqualTo(new Fingerprint().of(List.of("a", "bc")));
    }
}

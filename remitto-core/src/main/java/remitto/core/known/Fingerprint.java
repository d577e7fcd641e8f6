package remitto.core.known;

import java.nio.charset.StandardCharsets;
import java.util.Arrays;
import org.apache.commons.codec.digest.MurmurHash3;
import org.jspecify.annotations.Nullable;

/**
 * Fingerprints of records: MurmurHash3 x64 128 over length-marked UTF-8, so that moving a character from one
 * cell to the next, or null in place of an empty text, gives another fingerprint. Reuses its buffer: one per
 * thread.
 */
public final class Fingerprint {
    private byte[] buffer = new byte[512];
    private int length;

    /** 128 bits over the record's key. Index 0 is the high half. */
    public long[] key(String key) {
        length = 0;
        text(key);
        return MurmurHash3.hash128x64(buffer, 0, length, 0);
    }

    /**
     * 64 bits over the cells a route uses; 0 is never returned, since it stands for "evaluate again".
     *
     * @param salt what else the outcome depends on: versions of route, dataset, profile and object description
     */
    public long input(long salt, int[] positions, @Nullable String[] cells) {
        length = 0;
        number(salt);
        for (int position : positions) {
            String cell = cells[position];
            if (cell == null) {
                number(-1);
            } else {
                text(cell);
            }
        }
        return notZero(MurmurHash3.hash128x64(buffer, 0, length, 0)[0]);
    }

    /** 64 bits over any texts, in order; never 0. */
    public long of(Iterable<String> texts) {
        length = 0;
        texts.forEach(this::text);
        return notZero(MurmurHash3.hash128x64(buffer, 0, length, 0)[0]);
    }

    private static long notZero(long hash) {
        return hash == 0 ? 1 : hash;
    }

    private void number(long number) {
        room(8);
        for (int i = 0; i < 8; i++) {
            buffer[length++] = (byte) (number >>> (8 * i));
        }
    }

    private void text(String text) {
        int chars = text.length();
        room(3 * chars + 8);
        int start = length;
        length += 4;
        boolean ascii = true;
        for (int i = 0; i < chars; i++) {
            char c = text.charAt(i);
            if (c >= 0x80) {
                ascii = false;
                break;
            }
            buffer[length++] = (byte) c;
        }
        if (!ascii) {
            byte[] utf8 = text.getBytes(StandardCharsets.UTF_8);
            System.arraycopy(utf8, 0, buffer, start + 4, utf8.length);
            length = start + 4 + utf8.length;
        }
        int bytes = length - start - 4;
        for (int i = 0; i < 4; i++) {
            buffer[start + i] = (byte) (bytes >>> (8 * i));
        }
    }

    private void room(int more) {
        if (length + more > buffer.length) {
            buffer = Arrays.copyOf(buffer, Math.max(buffer.length * 2, length + more));
        }
    }
}

package remitto.connect.rowfile;

import java.io.IOException;
import java.io.InputStream;

/**
 * The beginning of a file.
 *
 * @param bytes unpacked
 * @param whole whether it is all there is
 */
public record FileSample(Unpacked.Packing packing, byte[] bytes, boolean whole) {
    private static final int LARGEST = 1 << 20;

    /** @throws FileFault if it is packed and cannot be unpacked */
    public static FileSample of(InputStream packed) throws IOException {
        Unpacked.Opened opened = Unpacked.of(packed);
        byte[] bytes = opened.bytes().readNBytes(LARGEST + 1);
        return bytes.length > LARGEST
                ? new FileSample(opened.packing(), java.util.Arrays.copyOf(bytes, LARGEST), false)
                : new FileSample(opened.packing(), bytes, true);
    }
}

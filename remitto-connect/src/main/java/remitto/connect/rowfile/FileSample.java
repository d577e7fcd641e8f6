package remitto.connect.rowfile;

import java.io.IOException;
import java.io.InputStream;

/**
 * The beginning of a file.
 *
 * @param bytes unpacked; of a workbook all of them, as they stand
 * @param whole whether it is all there is
 */
public record FileSample(Unpacked.Packing packing, byte[] bytes, boolean whole) {
    private static final int LARGEST = 1 << 20;

    /** @throws FileFault if it is packed and cannot be unpacked */
    public static FileSample of(InputStream packed) throws IOException {
        Unpacked.Opened opened = Unpacked.of(packed);
        if (opened.packing() == Unpacked.Packing.WORKBOOK) {
            byte[] all = opened.bytes().readNBytes(WorkbookCopy.LARGEST + 1);
            if (all.length > WorkbookCopy.LARGEST) {
                throw WorkbookCopy.tooLarge();
            }
            return new FileSample(opened.packing(), all, true);
        }
        byte[] bytes = opened.bytes().readNBytes(LARGEST + 1);
        return bytes.length > LARGEST
                ? new FileSample(opened.packing(), java.util.Arrays.copyOf(bytes, LARGEST), false)
                : new FileSample(opened.packing(), bytes, true);
    }
}

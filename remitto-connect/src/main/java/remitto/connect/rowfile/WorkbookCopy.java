package remitto.connect.rowfile;

import java.io.BufferedInputStream;
import java.io.IOException;
import java.io.InputStream;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.zip.ZipEntry;
import java.util.zip.ZipInputStream;

/**
 * A workbook on our own disk, since its parts are not in the order in which they are needed. It is looked through before anybody takes it
 * apart: what unpacks into far more than a workbook holds is refused.
 */
final class WorkbookCopy implements AutoCloseable {
    /** Bytes of a workbook as it stands; larger ones are read as text. */
    static final int LARGEST = 32 << 20;

    /** Bytes of all its parts together. */
    private static final long LARGEST_UNPACKED = 1L << 30;

    /** Texts that cells share are kept in memory while it is read. */
    private static final long LARGEST_TEXTS = 128L << 20;

    private static final String TEXTS = "xl/sharedStrings.xml";

    /** Not every program writes down how cells are formatted; then every number is one. */
    private static final String STYLES = "styles.xml";

    private final Path path;
    private boolean formatted;

    private WorkbookCopy(Path path) {
        this.path = path;
    }

    /**
     * @param bytes of a workbook, from its first to its last
     * @throws FileFault if it is larger than a workbook may be
     */
    static WorkbookCopy of(InputStream bytes) throws IOException {
        WorkbookCopy copy = new WorkbookCopy(Files.createTempFile("workbook", ".xlsx"));
        try {
            copy.take(bytes);
            copy.look();
            return copy;
        } catch (IOException | RuntimeException e) {
            copy.close();
            throw e;
        }
    }

    Path path() {
        return path;
    }

    /** Whether it says how its cells are formatted. */
    boolean isFormatted() {
        return formatted;
    }

    private void take(InputStream bytes) throws IOException {
        try (var out = Files.newOutputStream(path)) {
            byte[] some = new byte[1 << 16];
            long taken = 0;
            for (int read = bytes.read(some); read >= 0; read = bytes.read(some)) {
                taken += read;
                if (taken > LARGEST) {
                    throw tooLarge();
                }
                out.write(some, 0, read);
            }
        }
    }

    static FileFault tooLarge() {
        return new FileFault("The workbook is larger than " + (LARGEST >> 20)
                + " MB. Save its sheet as CSV; text is read in any size.");
    }

    private void look() throws IOException {
        long all = 0;
        byte[] some = new byte[1 << 16];
        try (ZipInputStream zip = new ZipInputStream(new BufferedInputStream(Files.newInputStream(path)))) {
            for (ZipEntry part = zip.getNextEntry(); part != null; part = zip.getNextEntry()) {
                formatted |= part.getName().endsWith(STYLES);
                long one = 0;
                for (int read = zip.read(some); read >= 0; read = zip.read(some)) {
                    one += read;
                    all += read;
                    if (all > LARGEST_UNPACKED || part.getName().equals(TEXTS) && one > LARGEST_TEXTS) {
                        throw new FileFault("The workbook unpacks into more than a workbook of its size holds."
                                + " Nothing of it was kept.");
                    }
                }
            }
        } catch (java.util.zip.ZipException | java.io.EOFException e) {
            throw new FileFault("The workbook is damaged or not complete: " + e.getMessage() + ".");
        }
    }

    @Override
    public void close() {
        try {
            Files.deleteIfExists(path);
        } catch (IOException e) {
            path.toFile().deleteOnExit();
        }
    }
}

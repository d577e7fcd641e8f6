package remitto.connect.rowfile;

import java.io.BufferedInputStream;
import java.io.FilterInputStream;
import java.io.IOException;
import java.io.InputStream;
import java.io.SequenceInputStream;
import java.util.zip.GZIPInputStream;
import java.util.zip.ZipEntry;
import java.util.zip.ZipInputStream;

/**
 * Bytes of a file as they were before it was packed. What a file is packed with is told by its first bytes (gzip: RFC 1952; zip: its
 * first local header), never by its name. A zip holds one file.
 */
public final class Unpacked {
    /** Bytes of a file after unpacking. */
    static final long MOST_BYTES = 64L << 30;

    /** How much larger it may be than it was packed; text hardly gets beyond a hundredth. */
    static final int MOST_TIMES = 300;

    /** Small ones are let be. */
    static final long FREE_BYTES = 64L << 20;

    /** A local header of a zip file and the name in it, as far as a workbook is told by it. */
    private static final int MARK = 64;

    private static final int NAME = 30;

    private Unpacked() {}

    /** What it was packed with. */
    public enum Packing {
        NONE("not packed"),
        GZIP("gzip"),
        ZIP("zip"),
        /** A workbook is a zip file of parts, none of which is read by itself. */
        WORKBOOK("XLSX");

        private final String words;

        Packing(String words) {
            this.words = words;
        }

        public String words() {
            return words;
        }
    }

    /** @param bytes as they were before packing */
    public record Opened(Packing packing, InputStream bytes) {}

    /** @throws FileFault if it is packed and cannot be unpacked */
    public static Opened of(InputStream packed) throws IOException {
        CountedInput counted = new CountedInput(packed);
        BufferedInputStream in = new BufferedInputStream(counted, 1 << 16);
        in.mark(MARK);
        byte[] first = in.readNBytes(MARK);
        in.reset();
        if (first.length >= 2 && (first[0] & 0xFF) == 0x1F && (first[1] & 0xFF) == 0x8B) {
            return new Opened(Packing.GZIP, new Bounded(gzip(in), counted));
        }
        if (isWorkbook(first)) {
            return new Opened(Packing.WORKBOOK, in);
        }
        if (first.length >= 4 && first[0] == 'P' && first[1] == 'K' && first[2] == 3 && first[3] == 4) {
            return new Opened(Packing.ZIP, new Bounded(zip(in), counted));
        }
        return new Opened(Packing.NONE, in);
    }

    /** By the name of the first part: those of the Open Packaging Conventions (ECMA-376, part 2), and of spreadsheets. */
    private static boolean isWorkbook(byte[] first) {
        if (first.length <= NAME || first[0] != 'P' || first[1] != 'K' || first[2] != 3 || first[3] != 4) {
            return false;
        }
        int length = Math.min(first.length - NAME, first[26] & 0xFF);
        String name = new String(first, NAME, length, java.nio.charset.StandardCharsets.US_ASCII);
        return name.equals("[Content_Types].xml")
                || name.startsWith("_rels/")
                || name.startsWith("docProps/")
                || name.startsWith("xl/");
    }

    private static InputStream gzip(InputStream in) {
        try {
            return new GZIPInputStream(in, 1 << 16);
        } catch (IOException e) {
            throw new FileFault(
                    "The file begins like one packed by gzip, but cannot be unpacked: " + e.getMessage() + ".");
        }
    }

    /** The one file within; folders and what some systems add beside it are passed over. */
    private static InputStream zip(InputStream in) throws IOException {
        ZipInputStream zip = new ZipInputStream(in);
        ZipEntry entry = zip.getNextEntry();
        while (entry != null && isBeside(entry)) {
            entry = zip.getNextEntry();
        }
        if (entry == null) {
            throw new FileFault("The zip file holds no file.");
        }
        String name = entry.getName();
        return new SequenceInputStream(new OneEntry(zip), new InputStream() {
            private boolean looked;

            @Override
            public int read() throws IOException {
                if (!looked) {
                    looked = true;
                    zip.closeEntry();
                    ZipEntry next = zip.getNextEntry();
                    while (next != null && isBeside(next)) {
                        next = zip.getNextEntry();
                    }
                    if (next != null) {
                        throw new FileFault("The zip file holds " + name + " and " + next.getName()
                                + ". Pack each file by itself.");
                    }
                }
                return -1;
            }
        });
    }

    private static boolean isBeside(ZipEntry entry) {
        return entry.isDirectory() || entry.getName().startsWith("__MACOSX/");
    }

    /** Closing an entry is not closing what it is in. */
    private static final class OneEntry extends FilterInputStream {
        OneEntry(ZipInputStream zip) {
            super(zip);
        }

        @Override
        public void close() {
            // closed with the file
        }
    }

    /** Ends a file that unpacks into far more than any text does, and says in words what unpacking cannot go on with. */
    private static final class Bounded extends FilterInputStream {
        private final CountedInput packed;
        private long bytes;

        Bounded(InputStream in, CountedInput packed) {
            super(in);
            this.packed = packed;
        }

        @Override
        public int read() throws IOException {
            byte[] one = new byte[1];
            return read(one, 0, 1) < 0 ? -1 : one[0] & 0xFF;
        }

        @Override
        public int read(byte[] some, int from, int length) throws IOException {
            int read;
            try {
                read = super.read(some, from, length);
            } catch (java.util.zip.ZipException | java.io.EOFException e) {
                throw new FileFault("The file cannot be unpacked after byte " + bytes
                        + "; it is damaged or not complete: " + e.getMessage() + ".");
            }
            bytes += Math.max(0, read);
            if (bytes > MOST_BYTES || bytes > FREE_BYTES && bytes / MOST_TIMES > packed.bytes()) {
                throw new FileFault("The file unpacks into more than " + MOST_TIMES
                        + " times its size, as no file of rows does. Nothing of it was kept.");
            }
            return read;
        }
    }
}

package remitto.connect.rowfile;

import java.io.IOException;
import java.io.InputStream;
import java.io.InputStreamReader;
import java.io.PushbackReader;
import java.io.Reader;
import java.nio.charset.Charset;
import java.nio.charset.CodingErrorAction;
import java.nio.charset.StandardCharsets;
import java.util.List;
import remitto.core.fileset.FileFormat;

/** Opens files of rows. */
public final class RowFiles {
    private static final int BYTE_ORDER_MARK = 0xFEFF;

    private RowFiles() {}

    /**
     * @param bytes of a file, packed or not
     * @param wanted names of its columns
     * @throws FileFault if it cannot be read as this
     */
    public static RowFile open(InputStream bytes, FileFormat format, List<String> wanted) throws IOException {
        Unpacked.Opened opened = Unpacked.of(bytes);
        boolean workbook = opened.packing() == Unpacked.Packing.WORKBOOK;
        if (format instanceof FileFormat.Workbook sheet) {
            if (!workbook) {
                throw new FileFault("The file is not an XLSX workbook, which this file set takes.");
            }
            return new WorkbookFile(opened.bytes(), sheet, wanted);
        }
        if (workbook) {
            throw new FileFault("The file is an XLSX workbook, and this file set takes " + format.title()
                    + ". Choose the kind of file again, or save the sheet as text.");
        }
        Reader reader = decoded(opened.bytes(), charset(format));
        if (format instanceof FileFormat.Delimited delimited) {
            return new DelimitedFile(reader, delimited, wanted);
        }
        return format instanceof FileFormat.ObjectLines
                ? new JsonLinesFile(reader, wanted)
                : new JsonArrayFile(reader, wanted);
    }

    static Charset charset(FileFormat format) {
        return format instanceof FileFormat.Delimited delimited
                ? Charset.forName(delimited.encoding())
                : StandardCharsets.UTF_8;
    }

    /** What is not of the encoding becomes the replacement character (Unicode 15, section 23.8), which no row may hold. */
    static Reader decoded(InputStream bytes, Charset charset) throws IOException {
        InputStreamReader reader = new InputStreamReader(
                bytes,
                charset.newDecoder()
                        .onMalformedInput(CodingErrorAction.REPLACE)
                        .onUnmappableCharacter(CodingErrorAction.REPLACE));
        PushbackReader marked = new PushbackReader(reader, 1);
        int first = marked.read();
        if (first >= 0 && first != BYTE_ORDER_MARK) {
            marked.unread(first);
        }
        return marked;
    }
}

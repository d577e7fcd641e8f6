package remitto.core.fileset;

import com.fasterxml.jackson.annotation.JsonSubTypes;
import com.fasterxml.jackson.annotation.JsonTypeInfo;
import java.nio.charset.Charset;

/** How the rows of a file are spelled. Whether it is packed is seen at each file. */
@JsonTypeInfo(use = JsonTypeInfo.Id.NAME, property = "kind")
@JsonSubTypes({
    @JsonSubTypes.Type(value = FileFormat.Delimited.class, name = "delimited"),
    @JsonSubTypes.Type(value = FileFormat.ObjectLines.class, name = "json-lines"),
    @JsonSubTypes.Type(value = FileFormat.ObjectArray.class, name = "json-array"),
    @JsonSubTypes.Type(value = FileFormat.Workbook.class, name = "xlsx")
})
public sealed interface FileFormat {
    /** What it is called. */
    String title();

    /**
     * Values between delimiters, as in RFC 4180 with a chosen delimiter, quote and encoding.
     *
     * @param delimiter one character between values
     * @param quote one character around values that hold delimiters, line ends or quotes, doubled within; blank for none
     * @param encoding name in the IANA registry of character sets
     * @param skippedLines before the header or the first row
     * @param header whether the first row names the columns; they are called column 1, column 2 and so on otherwise
     */
    record Delimited(String delimiter, String quote, String encoding, int skippedLines, boolean header)
            implements FileFormat {
        public Delimited {
            if (delimiter.length() != 1 || "\r\n".contains(delimiter)) {
                throw new IllegalArgumentException("The delimiter is one character, and no line end.");
            }
            if (quote.length() > 1 || quote.equals(delimiter) || "\r\n".contains(quote) && !quote.isEmpty()) {
                throw new IllegalArgumentException("The quote is one character other than the delimiter, or none.");
            }
            if (skippedLines < 0 || skippedLines > 1_000) {
                throw new IllegalArgumentException("Between 0 and 1,000 lines are skipped.");
            }
            if (!known(encoding)) {
                throw new IllegalArgumentException("No encoding is called \"" + encoding + "\".");
            }
        }

        private static boolean known(String encoding) {
            try {
                return Charset.isSupported(encoding);
            } catch (IllegalArgumentException e) {
                return false;
            }
        }

        @Override
        public String title() {
            return switch (delimiter) {
                case "\t" -> "TSV";
                case "," -> "CSV";
                default -> "CSV with " + delimiter;
            };
        }
    }

    /**
     * One sheet of a workbook (Office Open XML, ECMA-376).
     *
     * @param sheet by its name; blank for the first
     * @param skippedLines rows before the header or the first row
     * @param header whether the first row names the columns; they are called column 1, column 2 and so on otherwise
     */
    record Workbook(String sheet, int skippedLines, boolean header) implements FileFormat {
        public Workbook {
            if (skippedLines < 0 || skippedLines > 1_000) {
                throw new IllegalArgumentException("Between 0 and 1,000 rows are skipped.");
            }
        }

        @Override
        public String title() {
            return "XLSX";
        }
    }

    /** One JSON object (RFC 8259) on every line, in UTF-8. */
    record ObjectLines() implements FileFormat {
        @Override
        public String title() {
            return "JSON Lines";
        }
    }

    /** One JSON array (RFC 8259) of objects, in UTF-8. */
    record ObjectArray() implements FileFormat {
        @Override
        public String title() {
            return "JSON array";
        }
    }
}

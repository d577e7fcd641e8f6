package remitto.core.file;

import com.fasterxml.jackson.annotation.JsonSubTypes;
import com.fasterxml.jackson.annotation.JsonTypeInfo;
import java.util.Optional;

/** How a row is spelled. */
@JsonTypeInfo(use = JsonTypeInfo.Id.NAME, property = "kind")
@JsonSubTypes({
    @JsonSubTypes.Type(value = FileForm.Csv.class, name = "csv"),
    @JsonSubTypes.Type(value = FileForm.JsonLines.class, name = "json-lines")
})
public sealed interface FileForm {
    /** Which values stand in quotes. */
    enum Quoting {
        /** Those that would be misread without (RFC 4180, section 2). */
        WHERE_NEEDED,
        EVERY_VALUE
    }

    enum LineEnd {
        /** As RFC 4180 says. */
        CRLF,
        LF
    }

    enum Encoding {
        UTF_8,
        /** With the byte order mark that some spreadsheets want. */
        UTF_8_WITH_MARK,
        UTF_16,
        ISO_8859_1,
        WINDOWS_1252;

        /** The name in the IANA registry of character sets. */
        public String charset() {
            return switch (this) {
                case UTF_8, UTF_8_WITH_MARK -> "UTF-8";
                case UTF_16 -> "UTF-16";
                case ISO_8859_1 -> "ISO-8859-1";
                case WINDOWS_1252 -> "windows-1252";
            };
        }
    }

    /** What becomes of a value that a spreadsheet would run as a formula. */
    enum Formulas {
        /** For programs, which want every value to the letter. */
        AS_THEY_ARE,
        /** For people who open the file in a spreadsheet: an apostrophe before it, as in {@link SpreadsheetText}. */
        NEUTRALISED
    }

    /** What a file's name ends in. */
    String ending();

    /**
     * Comma-separated values (RFC 4180) with a chosen delimiter, quoting, encoding and line ending.
     *
     * @param delimiter one character between values
     * @param header whether the first row names the columns
     * @param listDelimiter between the values of a list, which stand in one column
     * @param formulas absent, as in layouts from before there was a choice, for as they are
     */
    record Csv(
            String delimiter,
            Quoting quoting,
            LineEnd lineEnd,
            Encoding encoding,
            boolean header,
            String listDelimiter,
            Optional<Formulas> formulas)
            implements FileForm {
        public Csv {
            if (delimiter.length() != 1 || "\"\r\n".contains(delimiter)) {
                throw new IllegalArgumentException("The delimiter is one character, and not a quote or a line end.");
            }
            if (listDelimiter.isEmpty()) {
                throw new IllegalArgumentException("Set the separator of list values.");
            }
        }

        /** As RFC 4180 has it, in UTF-8. */
        public static Csv plain() {
            return new Csv(",", Quoting.WHERE_NEEDED, LineEnd.CRLF, Encoding.UTF_8, true, ";", Optional.empty());
        }

        /** A text as it stands in a cell. */
        public String cell(String text) {
            return formulas.equals(Optional.of(Formulas.NEUTRALISED)) ? SpreadsheetText.neutralised(text) : text;
        }

        @Override
        public String ending() {
            return ".csv";
        }
    }

    /** One JSON object (RFC 8259) a line, in UTF-8; empty values are null. */
    record JsonLines() implements FileForm {
        @Override
        public String ending() {
            return ".jsonl";
        }
    }
}

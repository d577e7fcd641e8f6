package remitto.connect.rowfile;

import java.io.ByteArrayInputStream;
import java.io.IOException;
import java.io.StringReader;
import java.io.UncheckedIOException;
import java.nio.charset.Charset;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import org.jspecify.annotations.Nullable;
import remitto.core.fileset.DelimitedText;
import remitto.core.fileset.DelimiterGuess;
import remitto.core.fileset.FileFormat;
import remitto.core.landed.ColumnGuess;
import remitto.core.landed.ColumnGuesses;
import remitto.core.landed.LandedColumns;
import tools.jackson.core.JacksonException;
import tools.jackson.databind.JsonNode;

/**
 * What a file seems to be, with what speaks for it. Nothing is believed before somebody looked at it.
 *
 * @param packing what it is packed with
 * @param evidence sentences
 * @param rows how many were looked at
 */
public record FileGuess(FileFormat format, String packing, List<String> evidence, List<ColumnGuess> columns, int rows) {
    private static final int LOOKED_AT = 1_000;
    private static final int LOOKED_AT_CHARACTERS = 200_000;

    /** @throws FileFault if nothing can be made of it */
    public static FileGuess of(FileSample sample) {
        if (sample.bytes().length == 0) {
            throw new FileFault("The file is empty.");
        }
        if (sample.packing() == Unpacked.Packing.WORKBOOK) {
            return as(sample, new FileFormat.Workbook("", 0, true), new ArrayList<>());
        }
        String beginning = new String(
                        sample.bytes(), 0, Math.min(sample.bytes().length, 64), java.nio.charset.StandardCharsets.UTF_8)
                .replace("\uFEFF", "")
                .strip();
        refuseOthers(beginning);
        List<String> evidence = new ArrayList<>();
        if (beginning.startsWith("[") && looksLike(sample, new FileFormat.ObjectArray())) {
            evidence.add("The file begins with a bracket and is a JSON array.");
            return as(sample, new FileFormat.ObjectArray(), evidence);
        }
        if (beginning.startsWith("{") && looksLike(sample, new FileFormat.ObjectLines())) {
            evidence.add("The first lines are JSON objects.");
            return as(sample, new FileFormat.ObjectLines(), evidence);
        }
        EncodingGuess encoding = EncodingGuess.of(sample.bytes(), sample.whole());
        evidence.add(encoding.evidence());
        DelimiterGuess delimiter = DelimiterGuess.of(text(sample, encoding.charset()));
        evidence.addAll(delimiter.evidence());
        return as(
                sample,
                new FileFormat.Delimited(
                        String.valueOf(delimiter.delimiter()), "\"", encoding.charset(), 0, delimiter.header()),
                evidence);
    }

    /** The same by a format that somebody chose. */
    public static FileGuess of(FileSample sample, FileFormat chosen) {
        return as(sample, chosen, new ArrayList<>());
    }

    /** First bytes of files that hold rows in ways that are not read (their specifications, sections on file structure). */
    private static void refuseOthers(String beginning) {
        if (beginning.startsWith("PAR1")) {
            throw new FileFault("This is a Parquet file, which cannot be read yet.");
        }
        if (beginning.startsWith("%PDF")) {
            throw new FileFault("This is a PDF, which holds no rows.");
        }
    }

    private static boolean looksLike(FileSample sample, FileFormat format) {
        try {
            return !objects(sample, format).isEmpty();
        } catch (FileFault e) {
            return false;
        }
    }

    private static FileGuess as(FileSample sample, FileFormat format, List<String> evidence) {
        if (format instanceof FileFormat.Workbook workbook) {
            return workbook(sample, workbook, evidence);
        }
        if (sample.packing() == Unpacked.Packing.WORKBOOK) {
            throw new FileFault("The file is an XLSX workbook, not " + format.title() + ".");
        }
        if (sample.packing() != Unpacked.Packing.NONE) {
            evidence.add(0, "The file is packed by " + sample.packing().words() + ".");
        }
        List<ColumnGuess> columns = new ArrayList<>();
        int rows = format instanceof FileFormat.Delimited delimited
                ? delimited(sample, delimited, columns)
                : json(sample, format, columns);
        return of(format, sample.packing().name().toLowerCase(Locale.ROOT), evidence, columns, rows);
    }

    private static FileGuess workbook(FileSample sample, FileFormat.Workbook format, List<String> evidence) {
        if (sample.packing() != Unpacked.Packing.WORKBOOK) {
            throw new FileFault("The file is not an XLSX workbook.");
        }
        List<String> names;
        try (WorkbookFile first = new WorkbookFile(new ByteArrayInputStream(sample.bytes()), format, List.of())) {
            names = first.names();
            evidence.add("The file is an XLSX workbook. Sheet " + first.sheet() + " is read"
                    + (first.sheets().size() == 1 ? "." : ", of " + String.join(", ", first.sheets()) + "."));
        } catch (IOException e) {
            throw new UncheckedIOException(e);
        }
        List<List<@Nullable String>> rows = new ArrayList<>();
        try (WorkbookFile file = new WorkbookFile(new ByteArrayInputStream(sample.bytes()), format, names)) {
            for (RowFile.FileRecord one = file.next(); one != null && rows.size() < LOOKED_AT; one = file.next()) {
                if (one.problem().isEmpty()) {
                    rows.add(new ArrayList<>(Arrays.asList(one.cells())));
                }
            }
        } catch (IOException e) {
            throw new UncheckedIOException(e);
        }
        return of(format, "none", evidence, ColumnGuesses.of(names, rows), rows.size());
    }

    private static FileGuess of(
            FileFormat format, String packing, List<String> evidence, List<ColumnGuess> columns, int rows) {
        List<String> keys = columns.stream()
                .filter(ColumnGuess::asKey)
                .map(one -> one.column().name())
                .limit(3)
                .toList();
        if (rows > 1) {
            evidence.add(
                    keys.isEmpty()
                            ? "No column has a different value in each of " + rows + " rows."
                            : "A different value in each of " + rows + " rows: " + String.join(", ", keys) + ".");
        }
        return new FileGuess(format, packing, evidence, columns, rows);
    }

    private static int delimited(FileSample sample, FileFormat.Delimited format, List<ColumnGuess> columns) {
        try {
            DelimitedText text = new DelimitedText(
                    new StringReader(text(sample, format.encoding())),
                    format.delimiter().charAt(0),
                    format.quote().isEmpty() ? 0 : format.quote().charAt(0));
            text.skipLines(format.skippedLines());
            List<String> names = DelimitedFile.names(text, format);
            List<List<@Nullable String>> rows = new ArrayList<>();
            if (!format.header() && !names.isEmpty()) {
                rows.add(new ArrayList<>(text.cells()));
            }
            text.expect(names.size());
            while (rows.size() < LOOKED_AT && text.next()) {
                if (text.problem().isEmpty()) {
                    rows.add(new ArrayList<>(text.cells()));
                }
            }
            columns.addAll(ColumnGuesses.of(names, rows));
            return rows.size();
        } catch (IOException e) {
            throw new UncheckedIOException(e);
        }
    }

    private static int json(FileSample sample, FileFormat format, List<ColumnGuess> columns) {
        List<Map<String, String>> objects = objects(sample, format);
        Set<String> names = new LinkedHashSet<>();
        objects.forEach(one -> names.addAll(one.keySet()));
        if (names.size() > LandedColumns.MOST) {
            throw new FileFault("The objects have " + names.size()
                    + " different names of values; a file set takes files of up to 1,000 columns.");
        }
        List<List<@Nullable String>> rows = new ArrayList<>();
        for (Map<String, String> object : objects) {
            List<@Nullable String> row = new ArrayList<>();
            names.forEach(name -> row.add(object.get(name)));
            rows.add(row);
        }
        columns.addAll(ColumnGuesses.of(List.copyOf(names), rows));
        return rows.size();
    }

    /** The first objects; malformed ones aside. */
    private static List<Map<String, String>> objects(FileSample sample, FileFormat format) {
        List<Map<String, String>> objects = new ArrayList<>();
        if (format instanceof FileFormat.ObjectLines) {
            for (String line : text(sample, "UTF-8").split("\n")) {
                if (!line.isBlank() && objects.size() < LOOKED_AT) {
                    object(line).ifPresent(objects::add);
                }
            }
            return objects;
        }
        try (var parser = JsonRecord.JSON.createParser(new ByteArrayInputStream(sample.bytes()))) {
            if (parser.nextToken() == tools.jackson.core.JsonToken.START_ARRAY) {
                while (objects.size() < LOOKED_AT && parser.nextToken() == tools.jackson.core.JsonToken.START_OBJECT) {
                    JsonNode one = parser.readValueAsTree();
                    objects.add(JsonRecord.flat(one));
                }
            }
        } catch (JacksonException e) {
            if (sample.whole()) {
                throw new FileFault(JsonRecord.words(e));
            }
        }
        return objects;
    }

    private static Optional<Map<String, String>> object(String line) {
        try {
            JsonNode one = JsonRecord.one(line);
            return one.isObject() ? Optional.of(JsonRecord.flat(one)) : Optional.empty();
        } catch (JacksonException e) {
            return Optional.empty();
        }
    }

    /** Whole lines of the sample. */
    private static String text(FileSample sample, String encoding) {
        byte[] bytes = Arrays.copyOf(sample.bytes(), Math.min(sample.bytes().length, LOOKED_AT_CHARACTERS * 4));
        String text = new String(bytes, Charset.forName(encoding)).replaceFirst("^\uFEFF", "");
        boolean whole = sample.whole() && bytes.length == sample.bytes().length;
        if (whole || text.lastIndexOf('\n') < 0) {
            return text;
        }
        return text.substring(0, text.lastIndexOf('\n') + 1);
    }
}

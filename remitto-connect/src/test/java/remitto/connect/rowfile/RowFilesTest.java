package remitto.connect.rowfile;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import java.io.ByteArrayInputStream;
import java.io.ByteArrayOutputStream;
import java.io.IOException;
import java.io.InputStream;
import java.io.OutputStream;
import java.io.StringReader;
import java.nio.charset.Charset;
import java.nio.charset.StandardCharsets;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.List;
import java.util.Random;
import java.util.zip.GZIPOutputStream;
import java.util.zip.ZipEntry;
import java.util.zip.ZipOutputStream;
import org.apache.commons.csv.CSVFormat;
import org.apache.commons.csv.CSVParser;
import org.apache.commons.csv.CSVRecord;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;
import remitto.core.fileset.FileFormat;

class RowFilesTest {
    private static final FileFormat CSV = new FileFormat.Delimited(",", "\"", "UTF-8", 0, true);

    private static List<String> rows(byte[] bytes, FileFormat format, String... wanted) throws IOException {
        return rows(new ByteArrayInputStream(bytes), format, wanted);
    }

    private static List<String> rows(InputStream bytes, FileFormat format, String... wanted) throws IOException {
        RowFile file = RowFiles.open(bytes, format, List.of(wanted));
        List<String> rows = new ArrayList<>();
        for (RowFile.FileRecord record = file.next(); record != null; record = file.next()) {
            rows.add(record.line() + " "
                    + (record.problem().isEmpty()
                            ? Arrays.toString(record.cells())
                            : "HELD " + record.problem() + " " + record.text()));
        }
        return rows;
    }

    private static byte[] utf8(String text) {
        return text.getBytes(StandardCharsets.UTF_8);
    }

    private interface Packing {
        OutputStream around(OutputStream out) throws IOException;
    }

    private static byte[] packed(byte[] bytes, Packing packing) throws IOException {
        ByteArrayOutputStream out = new ByteArrayOutputStream();
        try (OutputStream packed = packing.around(out)) {
            packed.write(bytes);
        }
        return out.toByteArray();
    }

    private static byte[] zip(String... namesAndTexts) throws IOException {
        ByteArrayOutputStream out = new ByteArrayOutputStream();
        try (ZipOutputStream zip = new ZipOutputStream(out)) {
            for (int i = 0; i < namesAndTexts.length; i += 2) {
                zip.putNextEntry(new ZipEntry(namesAndTexts[i]));
                zip.write(utf8(namesAndTexts[i + 1]));
            }
        }
        return out.toByteArray();
    }

    @Test
    void columnsAreFoundByNameInAnyOrder() throws IOException {
        byte[] file = utf8("no,name,port\n1,Ada,Vik\n2,,\"\"\n");
        assertThat(rows(file, CSV, "port", "no")).containsExactly("2 [Vik, 1]", "3 [, 2]");
        assertThatThrownBy(() -> rows(file, CSV, "no", "birth_date", "city"))
                .isInstanceOf(FileFault.class)
                .hasMessageStartingWith(
                        "The file has no column called birth_date, city. Its columns are no, name, port.");
        RowFile opened = RowFiles.open(new ByteArrayInputStream(file), CSV, List.of("no"));
        assertThat(opened.others()).containsExactly("name", "port");
    }

    @Test
    void columnsWithoutNamesAndWithTheSameNameAreTold() throws IOException {
        assertThat(rows(utf8("a,a,,b\n1,2,3,4\n"), CSV, "a", "a (2)", "column 3", "b"))
                .containsExactly("2 [1, 2, 3, 4]");
        FileFormat none = new FileFormat.Delimited(";", "", "UTF-8", 1, false);
        assertThat(rows(utf8("Berths of May\n1;Ada\n2;Bo"), none, "column 2")).containsExactly("2 [Ada]", "3 [Bo]");
        assertThat(rows(new byte[0], CSV, "a")).as("an empty file has no rows").isEmpty();
        assertThat(rows(utf8("a,b\n"), CSV, "a")).isEmpty();
    }

    @Test
    void aHeaderThatIsNoneIsSaid() {
        assertThatThrownBy(() -> rows(utf8("\"a\"b,c\n1,2\n"), CSV, "c"))
                .isInstanceOf(FileFault.class)
                .hasMessageContaining("Line 1 should tell the columns, but it is malformed");
        assertThatThrownBy(() -> rows(utf8(",".repeat(9_999) + "\n"), CSV, "c"))
                .isInstanceOf(FileFault.class)
                .hasMessageContaining("10000 columns");
    }

    @ParameterizedTest
    @CsvSource({
        "UTF-8,        UTF-8",
        "UTF-16,       UTF-16",
        "windows-1252, windows-1252",
        "ISO-8859-5,   ISO-8859-5",
        "IBM850,       IBM850"
    })
    void lettersComeAsTheEncodingSays(String written, String read) throws IOException {
        String text = written.equals("ISO-8859-5") ? "имя\nЯна\n" : "navn\nBjørn Ås\n";
        assertThat(rows(
                        text.getBytes(Charset.forName(written)),
                        new FileFormat.Delimited(",", "\"", read, 0, true),
                        text.split("\n")[0]))
                .containsExactly("2 [" + text.split("\n")[1] + "]");
    }

    @Test
    void aByteOrderMarkIsNoLetter() throws IOException {
        assertThat(rows(utf8("\uFEFFno\n1\n"), CSV, "no")).containsExactly("2 [1]");
        assertThat(rows(utf8("\uFEFF{\"no\": 1}\n"), new FileFormat.ObjectLines(), "no"))
                .containsExactly("1 [1]");
    }

    @Test
    void whatIsNotOfTheEncodingIsMarked() throws IOException {
        byte[] wrong = "navn\nBjørn\nAda\n".getBytes(Charset.forName("windows-1252"));
        assertThat(rows(wrong, CSV, "navn")).containsExactly("2 [Bj\uFFFDrn]", "3 [Ada]");
    }

    @Test
    void whatIsPackedIsToldByItsBytes() throws IOException {
        byte[] plain = utf8("no\n1\n2\n");
        assertThat(rows(packed(plain, GZIPOutputStream::new), CSV, "no")).containsExactly("2 [1]", "3 [2]");
        assertThat(rows(zip("may/", "", "__MACOSX/._may.csv", "x", "may/may.csv", "no\n1\n"), CSV, "no"))
                .containsExactly("2 [1]");
    }

    @Test
    void aZipHoldsOneFile() throws IOException {
        byte[] two = zip("a.csv", "no\n1\n", "b.csv", "no\n2\n");
        assertThatThrownBy(() -> rows(two, CSV, "no"))
                .isInstanceOf(FileFault.class)
                .hasMessageContaining("holds a.csv and b.csv");
        byte[] none = zip("a/", "");
        assertThatThrownBy(() -> rows(none, CSV, "no")).hasMessageContaining("holds no file");
    }

    @Test
    void aPackedFileThatIsCutIsSaid() throws IOException {
        byte[] whole = packed(utf8("no\n" + "1234567\n".repeat(50_000)), GZIPOutputStream::new);
        byte[] half = Arrays.copyOf(whole, whole.length / 2);
        assertThatThrownBy(() -> rows(half, CSV, "no"))
                .isInstanceOf(FileFault.class)
                .hasMessageContaining("damaged or not complete");
        byte[] wrong = whole.clone();
        wrong[whole.length / 2] ^= 0x55;
        wrong[whole.length - 6] ^= 0x55;
        assertThatThrownBy(() -> rows(wrong, CSV, "no")).isInstanceOf(FileFault.class);
    }

    /** A few kilobytes that unpack into gigabytes. */
    @Test
    void whatUnpacksIntoFarTooMuchIsEnded() throws IOException {
        ByteArrayOutputStream out = new ByteArrayOutputStream();
        try (GZIPOutputStream zip = new GZIPOutputStream(out)) {
            zip.write(utf8("no\n"));
            byte[] line = utf8("1\n".repeat(50_000));
            for (int i = 0; i < 2_000; i++) {
                zip.write(line);
            }
        }
        assertThat(out.size()).isLessThan(1_000_000);
        assertThatThrownBy(() -> {
                    RowFile file = RowFiles.open(new ByteArrayInputStream(out.toByteArray()), CSV, List.of("no"));
                    while (file.next() != null) {
                        // until it is ended
                    }
                })
                .isInstanceOf(FileFault.class)
                .hasMessageContaining("more than 300 times its size");
    }

    @Test
    void objectsAreFlattenedAndArraysStayJson() throws IOException {
        String lines = """
                {"no": 7, "who": {"name": "Ada", "home": {"city": "Vik"}}, "tags": ["a", "b"], "score": 1.10, "open": true}

                {"no": null, "who": {}, "later": 1}
                """;
        assertThat(rows(
                        utf8(lines),
                        new FileFormat.ObjectLines(),
                        "no",
                        "who.name",
                        "who.home.city",
                        "tags",
                        "score",
                        "open",
                        "who"))
                .containsExactly(
                        "1 [7, Ada, Vik, [\"a\",\"b\"], 1.10, true, null]",
                        "3 [null, null, null, null, null, null, {}]");
        String array = "[\n {\"no\": 1},\n {\"no\": 2, \"x\": 3}\n]";
        assertThat(rows(utf8(array), new FileFormat.ObjectArray(), "no")).containsExactly("2 [1]", "3 [2]");
        assertThat(rows(utf8("[]"), new FileFormat.ObjectArray(), "no")).isEmpty();
    }

    @Test
    void aLineThatIsNoObjectIsHeldAlone() throws IOException {
        String lines = "{\"no\": 1}\n{\"no\": \n[1]\n{\"no\": 2, \"no\": 3}\n{\"no\": 4} x\n" + "{\"a\":".repeat(70)
                + "1" + "}".repeat(70) + "\n{\"no\": 5}";
        List<String> rows = rows(utf8(lines), new FileFormat.ObjectLines(), "no");
        assertThat(rows).hasSize(7).startsWith("1 [1]").endsWith("7 [5]");
        assertThat(rows.subList(1, 6)).allSatisfy(row -> assertThat(row).contains("HELD The row is no"));
        assertThat(rows.get(3)).contains("Duplicate");
        assertThat(rows.get(2)).isEqualTo("3 HELD The row is no JSON object. [1]");
    }

    @ParameterizedTest
    @CsvSource(
            delimiter = '|',
            quoteCharacter = '`',
            value = {
                "[{\"no\": 1}, {\"no\":   | The file is not JSON in line 1",
                "[{\"no\": 1}             | The file is not JSON in line 1",
                "[{\"no\": 1}] {}         | Something follows the JSON array",
                "{\"no\": 1}              | The file is no JSON array",
                "[{\"no\": 1} {\"no\": 2}] | The file is not JSON in line 1"
            })
    void anArrayThatIsBrokenIsRefusedWhole(String text, String words) {
        assertThatThrownBy(() -> rows(utf8(text), new FileFormat.ObjectArray(), "no"))
                .isInstanceOf(FileFault.class)
                .hasMessageStartingWith(words);
    }

    @Test
    void anElementThatIsNoObjectIsHeldAlone() throws IOException {
        assertThat(rows(utf8("[{\"no\": 1}, 7, [2], {\"no\": 3}]"), new FileFormat.ObjectArray(), "no"))
                .containsExactly(
                        "1 [1]",
                        "1 HELD The row is no JSON object. 7",
                        "1 HELD The row is no JSON object. [2]",
                        "1 [3]");
    }

    /** Against Apache Commons CSV, which takes the same texts apart by itself: random cells in random quotes. */
    @Test
    void anotherReaderReadsTheSame() throws IOException {
        Random random = new Random(20261201);
        for (int round = 0; round < 400; round++) {
            char delimiter = ",;\t|".charAt(random.nextInt(4));
            int columns = 1 + random.nextInt(6);
            String text = text(random, delimiter, columns);
            List<List<String>> expected = new ArrayList<>();
            CSVFormat format = CSVFormat.RFC4180
                    .builder()
                    .setDelimiter(delimiter)
                    .setIgnoreEmptyLines(true)
                    .get();
            try (CSVParser parser = CSVParser.parse(new StringReader(text), format)) {
                for (CSVRecord record : parser) {
                    expected.add(record.stream().toList());
                }
            }
            FileFormat ours = new FileFormat.Delimited(String.valueOf(delimiter), "\"", "UTF-8", 0, false);
            String[] names = new String[columns];
            Arrays.setAll(names, i -> "column " + (i + 1));
            RowFile file = RowFiles.open(new ByteArrayInputStream(utf8(text)), ours, List.of(names));
            List<List<String>> read = new ArrayList<>();
            for (RowFile.FileRecord record = file.next(); record != null; record = file.next()) {
                assertThat(record.problem()).as(text).isEmpty();
                read.add(Arrays.stream(record.cells())
                        .map(cell -> cell == null ? "" : cell)
                        .toList());
            }
            assertThat(read).as(text).isEqualTo(expected);
        }
    }

    private static String text(Random random, char delimiter, int columns) {
        String[] pieces = {"a", "Bø", " ", "\"\"", "\n", "\r\n", String.valueOf(delimiter), "7", "名", "'", "."};
        StringBuilder text = new StringBuilder();
        for (int row = 1 + random.nextInt(30); row > 0; row--) {
            for (int column = 0; column < columns; column++) {
                boolean quoted = random.nextInt(3) == 0 || columns == 1;
                StringBuilder cell = new StringBuilder();
                for (int i = random.nextInt(6); i > 0; i--) {
                    String piece = pieces[random.nextInt(pieces.length)];
                    boolean plain = !piece.contains("\n") && !piece.contains("\"") && piece.charAt(0) != delimiter;
                    cell.append(quoted || plain ? piece : "x");
                }
                text.append(column == 0 ? "" : delimiter)
                        .append(quoted ? "\"" : "")
                        .append(cell)
                        .append(quoted ? "\"" : "");
            }
            text.append(random.nextBoolean() ? "\n" : "\r\n");
        }
        return text.toString();
    }
}

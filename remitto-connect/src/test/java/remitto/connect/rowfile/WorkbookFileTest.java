package remitto.connect.rowfile;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import java.io.ByteArrayInputStream;
import java.io.ByteArrayOutputStream;
import java.io.IOException;
import java.io.UncheckedIOException;
import java.math.BigDecimal;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.time.LocalDate;
import java.time.LocalDateTime;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.List;
import java.util.function.Consumer;
import java.util.stream.Stream;
import java.util.zip.ZipEntry;
import java.util.zip.ZipInputStream;
import java.util.zip.ZipOutputStream;
import net.jqwik.api.ForAll;
import net.jqwik.api.Property;
import net.jqwik.api.constraints.BigRange;
import net.jqwik.api.constraints.CharRange;
import net.jqwik.api.constraints.Size;
import org.apache.poi.ss.usermodel.CellStyle;
import org.apache.poi.ss.usermodel.DateUtil;
import org.apache.poi.ss.usermodel.FormulaError;
import org.apache.poi.ss.usermodel.Row;
import org.apache.poi.ss.usermodel.Sheet;
import org.apache.poi.xssf.usermodel.XSSFWorkbook;
import org.jspecify.annotations.Nullable;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;
import org.junit.jupiter.params.provider.ValueSource;
import remitto.core.dataset.ColumnType;
import remitto.core.fileset.FileFormat;

/** Workbooks are written by Apache POI, which shares no code with what reads them. */
class WorkbookFileTest {
    private static final FileFormat.Workbook FIRST = new FileFormat.Workbook("", 0, true);

    private static byte[] written(Consumer<XSSFWorkbook> content) {
        try (XSSFWorkbook workbook = new XSSFWorkbook();
                ByteArrayOutputStream out = new ByteArrayOutputStream()) {
            content.accept(workbook);
            workbook.write(out);
            return out.toByteArray();
        } catch (IOException e) {
            throw new UncheckedIOException(e);
        }
    }

    private static byte[] sheet(Consumer<Sheet> content) {
        return written(workbook -> content.accept(workbook.createSheet("Berths")));
    }

    private static void row(Sheet sheet, int at, Object... cells) {
        Row row = sheet.createRow(at);
        for (int i = 0; i < cells.length; i++) {
            if (cells[i] instanceof Number number) {
                row.createCell(i).setCellValue(number.doubleValue());
            } else if (cells[i] instanceof Boolean truth) {
                row.createCell(i).setCellValue(truth);
            } else if (cells[i] != null) {
                row.createCell(i).setCellValue(String.valueOf(cells[i]));
            }
        }
    }

    private static RowFile open(byte[] bytes, FileFormat format, String... wanted) {
        try {
            return RowFiles.open(new ByteArrayInputStream(bytes), format, List.of(wanted));
        } catch (IOException e) {
            throw new UncheckedIOException(e);
        }
    }

    private static List<List<@Nullable String>> rows(byte[] bytes, FileFormat format, String... wanted) {
        List<List<@Nullable String>> rows = new ArrayList<>();
        try (RowFile file = open(bytes, format, wanted)) {
            for (RowFile.FileRecord one = file.next(); one != null; one = file.next()) {
                assertThat(one.problem()).isEmpty();
                rows.add(new ArrayList<>(Arrays.asList(one.cells())));
            }
        } catch (IOException e) {
            throw new UncheckedIOException(e);
        }
        return rows;
    }

    @Test
    void cellsComeAsTextsInTheOrderThatIsWanted() {
        byte[] bytes = sheet(sheet -> {
            row(sheet, 0, "berth", "length", "free");
            row(sheet, 1, "Ytre kai", 62.5, true);
            row(sheet, 2, "Indre kai", 40, false);
        });

        assertThat(rows(bytes, FIRST, "free", "berth", "length"))
                .containsExactly(List.of("true", "Ytre kai", "62.5"), List.of("false", "Indre kai", "40"));
    }

    @Test
    void emptyCellsAndRowsAndColumnsBetweenAreKeptApart() {
        byte[] bytes = sheet(sheet -> {
            row(sheet, 2, "a", "b", "c");
            row(sheet, 4, null, "second", null);
            row(sheet, 7, "first", null, "third");
        });

        assertThat(rows(bytes, FIRST, "a", "b", "c"))
                .containsExactly(Arrays.asList(null, "second", null), Arrays.asList("first", null, "third"));
    }

    @Test
    void aRecordTellsTheRowOfTheSheetThatItStandsIn() throws IOException {
        byte[] bytes = sheet(sheet -> {
            row(sheet, 0, "a");
            row(sheet, 9, "x");
        });

        try (RowFile file = open(bytes, FIRST, "a")) {
            RowFile.FileRecord record = file.next();
            assertThat(record).isNotNull();
            assertThat(record.line()).isEqualTo(10);
        }
    }

    @Test
    void aRowWithAValueBesideTheColumnsIsMalformed() throws IOException {
        byte[] bytes = sheet(sheet -> {
            row(sheet, 0, "a", "b");
            row(sheet, 1, "1", "2", "three");
            row(sheet, 2, "1", "2");
        });

        try (RowFile file = open(bytes, FIRST, "a", "b")) {
            RowFile.FileRecord record = file.next();
            assertThat(record).isNotNull();
            assertThat(record.problem())
                    .isEqualTo("The row has a value beside the 2 columns that the first row names.");
            assertThat(record.text()).isEqualTo("1\t2\tthree");
            RowFile.FileRecord next = file.next();
            assertThat(next).isNotNull();
            assertThat(next.problem()).isEmpty();
        }
    }

    @ParameterizedTest
    @ValueSource(strings = {"dd.mm.yyyy", "yyyy-mm-dd hh:mm", "d/m/yy", "[$-414]d. mmmm yyyy;@", "m/d/yy"})
    void aDayIsToldByTheFormatOfItsCell(String format) {
        byte[] bytes = written(workbook -> {
            Sheet sheet = workbook.createSheet();
            CellStyle style = workbook.createCellStyle();
            style.setDataFormat(workbook.createDataFormat().getFormat(format));
            row(sheet, 0, "day", "number");
            row(sheet, 1, null, 45_000);
            sheet.getRow(1).createCell(0).setCellValue(LocalDate.of(2026, 11, 29));
            sheet.getRow(1).getCell(0).setCellStyle(style);
        });

        assertThat(rows(bytes, FIRST, "day", "number")).containsExactly(List.of("2026-11-29", "45000"));
    }

    @ParameterizedTest
    @ValueSource(
            strings = {"0.00", "#,##0", "\"days\" 0", "[Red]0;[Blue]-0", "General", "0.00E+00", "@", "[$kr-414] 0"})
    void aNumberIsNoDayWhateverElseItsFormatSays(String format) {
        assertThat(CellTexts.isTime(200, format)).isFalse();
    }

    /** Apache POI's own opinion is the reference. */
    @ParameterizedTest
    @ValueSource(
            strings = {
                "dd.mm.yyyy",
                "hh:mm",
                "[h]:mm",
                "mm:ss.0",
                "yyyy\\-mm\\-dd",
                "0.00",
                "General",
                "#,##0.00",
                "d-mmm",
                "0%",
                "[Red]0.0",
                "mmmm yyyy"
            })
    void formatsAreJudgedAsTheReferenceDoes(String format) {
        assertThat(CellTexts.isTime(200, format)).isEqualTo(DateUtil.isADateFormat(200, format));
    }

    @Property(tries = 300)
    void daysAndTimesAreThoseOfTheReference(@ForAll @BigRange(min = "61", max = "2958464.99") BigDecimal serial) {
        BigDecimal minute = serial.multiply(BigDecimal.valueOf(1_440))
                .setScale(0, java.math.RoundingMode.FLOOR)
                .divide(BigDecimal.valueOf(1_440), 10, java.math.RoundingMode.HALF_UP);
        for (boolean since1904 : List.of(false, true)) {
            if (since1904 && minute.intValue() > 2_957_003) {
                continue;
            }
            LocalDateTime expected = DateUtil.getLocalDateTime(minute.doubleValue(), since1904, true);
            String text = expected.toLocalTime().toSecondOfDay() == 0
                    ? expected.toLocalDate().toString()
                    : expected.toLocalDate() + " "
                            + expected.toLocalTime().format(java.time.format.DateTimeFormatter.ofPattern("HH:mm:ss"));
            assertThat(CellTexts.time(minute, since1904)).contains(text);
        }
    }

    @ParameterizedTest
    @CsvSource({
        "0.5, false, 12:00:00",
        "1, false, 1900-01-01",
        "59, false, 1900-02-28",
        "60, false, ''",
        "61, false, 1900-03-01",
        "0, true, 1904-01-01",
        "-1, false, ''",
        "2958465, false, 9999-12-31",
        "2958466, false, ''"
    })
    void theEdgesOfTheCalendar(BigDecimal serial, boolean since1904, String text) {
        assertThat(CellTexts.time(serial, since1904).orElse("")).isEqualTo(text);
    }

    @Test
    void formulasAreReadAsWhatTheyCameTo() {
        byte[] bytes = written(workbook -> {
            Sheet sheet = workbook.createSheet();
            row(sheet, 0, "sum", "text", "truth", "fault");
            Row row = sheet.createRow(1);
            row.createCell(0).setCellFormula("1+2.5");
            row.createCell(1).setCellFormula("\"ab\"&\"c\"");
            row.createCell(2).setCellFormula("1=1");
            row.createCell(3).setCellErrorValue(FormulaError.NA.getCode());
            workbook.getCreationHelper().createFormulaEvaluator().evaluateAll();
        });

        assertThat(rows(bytes, FIRST, "sum", "text", "truth", "fault"))
                .containsExactly(List.of("3.5", "abc", "true", "#N/A"));
    }

    @Property(tries = 60)
    void whatWasWrittenIsRead(
            @ForAll @Size(min = 1, max = 8)
                    List<@Size(min = 3, max = 3) List<@CharRange(from = '!', to = '\u024f') String>> texts,
            @ForAll @Size(min = 1, max = 8)
                    List<@BigRange(min = "-1000000000", max = "1000000000") BigDecimal> numbers) {
        byte[] bytes = sheet(sheet -> {
            row(sheet, 0, "a", "b", "c", "n");
            for (int i = 0; i < texts.size(); i++) {
                List<String> cells = texts.get(i);
                row(sheet, i + 1, cells.get(0), cells.get(1), cells.get(2), numbers.get(i % numbers.size()));
            }
        });

        List<List<@Nullable String>> found = rows(bytes, FIRST, "a", "b", "c", "n");

        assertThat(found).hasSize(texts.size());
        for (int i = 0; i < texts.size(); i++) {
            for (int column = 0; column < 3; column++) {
                String text = texts.get(i).get(column);
                assertThat(found.get(i).get(column)).isEqualTo(text.isEmpty() ? null : text);
            }
            assertThat(new BigDecimal(String.valueOf(found.get(i).get(3))).doubleValue())
                    .isEqualTo(numbers.get(i % numbers.size()).doubleValue());
        }
    }

    @ParameterizedTest
    @CsvSource({"1e3, 1000", "0.000001, 0.000001", "12.50, 12.5", "-0.0, 0", "123456789012345, 123456789012345"})
    void numbersHaveNoExponent(BigDecimal number, String text) {
        assertThat(CellTexts.number(number)).isEqualTo(text);
    }

    @Test
    void aSheetIsChosenByItsNameAndRowsArePassedOver() {
        byte[] bytes = written(workbook -> {
            row(workbook.createSheet("Read me"), 0, "nothing here");
            Sheet list = workbook.createSheet("List");
            row(list, 0, "Harbour office of Sandvær");
            row(list, 1, "printed today");
            row(list, 2, "a", "b");
            row(list, 3, "1", "2");
        });

        assertThat(rows(bytes, new FileFormat.Workbook("List", 2, true), "a", "b"))
                .containsExactly(List.of("1", "2"));
        assertThat(rows(bytes, new FileFormat.Workbook("List", 2, false), "column 1", "column 2"))
                .containsExactly(List.of("a", "b"), List.of("1", "2"));
        assertThatThrownBy(() -> rows(bytes, new FileFormat.Workbook("Lost", 0, true), "a"))
                .isInstanceOf(FileFault.class)
                .hasMessage("The workbook has no sheet called Lost. Its sheets are Read me, List.");
    }

    @Test
    void aColumnThatIsGoneIsToldWithThoseThatAreThere() {
        byte[] bytes = sheet(sheet -> row(sheet, 0, "berth", "length", "length"));

        assertThatThrownBy(() -> rows(bytes, FIRST, "berth", "depth"))
                .hasMessageStartingWith(
                        "The file has no column called depth. Its columns are berth, length, length (2).");
        try (RowFile file = open(bytes, FIRST, "berth")) {
            assertThat(file.others()).containsExactly("length", "length (2)");
        }
    }

    @Test
    void anEmptySheetHasNoRows() {
        assertThat(rows(sheet(sheet -> {}), FIRST)).isEmpty();
    }

    @Test
    void whatAWorkbookHoldsIsProposedWithItsEvidence() throws IOException {
        byte[] bytes = written(workbook -> {
            Sheet sheet = workbook.createSheet("Berths");
            workbook.createSheet("Notes");
            CellStyle style = workbook.createCellStyle();
            style.setDataFormat(workbook.createDataFormat().getFormat("dd.mm.yyyy"));
            row(sheet, 0, "berth", "length", "since");
            for (int i = 1; i <= 30; i++) {
                row(sheet, i, "Kai " + i, i + 0.5);
                sheet.getRow(i).createCell(2).setCellValue(LocalDate.of(2020, 1, i));
                sheet.getRow(i).getCell(2).setCellStyle(style);
            }
        });

        FileGuess guess = FileGuess.of(FileSample.of(new ByteArrayInputStream(bytes)));

        assertThat(guess.format()).isEqualTo(FIRST);
        assertThat(guess.packing()).isEqualTo("none");
        assertThat(guess.rows()).isEqualTo(30);
        assertThat(guess.evidence().get(0))
                .isEqualTo("The file is an XLSX workbook. Sheet Berths is read, of Berths, Notes.");
        assertThat(guess.columns())
                .extracting(one -> one.column().type())
                .containsExactly(ColumnType.TEXT, ColumnType.DECIMAL, ColumnType.DATE);
    }

    @Test
    void aWorkbookWhereTextIsExpectedAndTheOtherWayRound() {
        byte[] bytes = sheet(sheet -> row(sheet, 0, "a"));

        assertThatThrownBy(() -> rows(bytes, new FileFormat.ObjectLines(), "a"))
                .hasMessageStartingWith("The file is an XLSX workbook, and this file set takes JSON Lines.");
        assertThatThrownBy(() -> rows("a,b\n1,2\n".getBytes(StandardCharsets.UTF_8), FIRST, "a"))
                .hasMessage("The file is not an XLSX workbook, which this file set takes.");
    }

    private static byte[] zip(Object... namesAndContents) {
        ByteArrayOutputStream out = new ByteArrayOutputStream();
        try (ZipOutputStream zip = new ZipOutputStream(out)) {
            for (int i = 0; i < namesAndContents.length; i += 2) {
                zip.putNextEntry(new ZipEntry(String.valueOf(namesAndContents[i])));
                zip.write((byte[]) namesAndContents[i + 1]);
                zip.closeEntry();
            }
        } catch (IOException e) {
            throw new UncheckedIOException(e);
        }
        return out.toByteArray();
    }

    /** The least that ECMA-376, part 1, section 12.3 asks of a workbook: no styles and no shared texts. */
    @Test
    void aWorkbookThatSaysNothingOfFormatsIsRead() {
        String main = "http://schemas.openxmlformats.org/spreadsheetml/2006/main";
        String references = "http://schemas.openxmlformats.org/officeDocument/2006/relationships";
        String relations = "<Relationships xmlns=\"http://schemas.openxmlformats.org/package/2006/relationships\">"
                + "<Relationship Id=\"r1\" Type=\"" + references + "/%s\" Target=\"%s\"/></Relationships>";
        byte[] bytes = zip(
                "[Content_Types].xml",
                utf8("<Types xmlns=\"http://schemas.openxmlformats.org/package/2006/content-types\">"
                        + "<Default Extension=\"rels\" ContentType=\"application/vnd.openxmlformats-package.relationships+xml\"/>"
                        + "<Override PartName=\"/xl/workbook.xml\" ContentType=\"application/"
                        + "vnd.openxmlformats-officedocument.spreadsheetml.sheet.main+xml\"/>"
                        + "<Override PartName=\"/xl/worksheets/sheet1.xml\" ContentType=\"application/"
                        + "vnd.openxmlformats-officedocument.spreadsheetml.worksheet+xml\"/></Types>"),
                "_rels/.rels",
                utf8(relations.formatted("officeDocument", "xl/workbook.xml")),
                "xl/workbook.xml",
                utf8("<workbook xmlns=\"" + main + "\" xmlns:r=\"" + references
                        + "\"><sheets><sheet name=\"Plain\" sheetId=\"1\" r:id=\"r1\"/></sheets></workbook>"),
                "xl/_rels/workbook.xml.rels",
                utf8(relations.formatted("worksheet", "worksheets/sheet1.xml")),
                "xl/worksheets/sheet1.xml",
                utf8("<worksheet xmlns=\"" + main
                        + "\"><sheetData><row r=\"1\"><c r=\"A1\" t=\"inlineStr\"><is><t>a</t></is></c></row>"
                        + "<row r=\"2\"><c r=\"A2\"><v>45000.5</v></c></row></sheetData></worksheet>"));

        assertThat(rows(bytes, FIRST, "a")).containsExactly(List.of("45000.5"));
    }

    private static byte[] utf8(String text) {
        return text.getBytes(StandardCharsets.UTF_8);
    }

    @Test
    void aDamagedWorkbookIsToldAndLeavesNothingBehind() throws IOException {
        byte[] whole = sheet(sheet -> {
            row(sheet, 0, "a");
            row(sheet, 1, "x");
        });
        long before = temporary();

        assertThatThrownBy(() -> rows(Arrays.copyOf(whole, whole.length / 2), FIRST, "a"))
                .isInstanceOf(FileFault.class)
                .hasMessageContaining("damaged or not complete");
        assertThatThrownBy(
                        () -> rows(zip("[Content_Types].xml", "<Types/>".getBytes(StandardCharsets.UTF_8)), FIRST, "a"))
                .isInstanceOf(FileFault.class)
                .hasMessageContaining("cannot be read as an XLSX workbook");
        rows(whole, FIRST, "a");

        assertThat(temporary()).isEqualTo(before);
    }

    private static long temporary() throws IOException {
        try (Stream<Path> files = Files.list(Path.of(System.getProperty("java.io.tmpdir")))) {
            return files.filter(file -> file.getFileName().toString().matches("workbook.*\\.xlsx"))
                    .count();
        }
    }

    @Test
    void textsThatUnpackIntoTooMuchAreRefused() {
        byte[] bomb = zip("[Content_Types].xml", new byte[10], "xl/sharedStrings.xml", new byte[130 << 20]);

        assertThat(bomb.length).isLessThan(1 << 20);
        assertThatThrownBy(() -> rows(bomb, FIRST, "a"))
                .isInstanceOf(FileFault.class)
                .hasMessageContaining("unpacks into more than a workbook");
    }

    /** External entities (CWE-611) and ones that grow (CWE-776) are not expanded. */
    @Test
    void entitiesOfItsXmlAreNotExpanded() throws IOException {
        byte[] whole = sheet(sheet -> {
            row(sheet, 0, "a");
            row(sheet, 1, "secret");
        });
        ByteArrayOutputStream out = new ByteArrayOutputStream();
        try (ZipInputStream in = new ZipInputStream(new ByteArrayInputStream(whole));
                ZipOutputStream zip = new ZipOutputStream(out)) {
            for (ZipEntry part = in.getNextEntry(); part != null; part = in.getNextEntry()) {
                zip.putNextEntry(new ZipEntry(part.getName()));
                String text = new String(in.readAllBytes(), StandardCharsets.UTF_8);
                zip.write((part.getName().equals("xl/sharedStrings.xml")
                                ? "<!DOCTYPE x [<!ENTITY e SYSTEM \"file:///etc/hostname\">]>"
                                        + text.replaceFirst("<\\?xml[^>]*>", "").replace("secret", "&e;")
                                : text)
                        .getBytes(StandardCharsets.UTF_8));
                zip.closeEntry();
            }
        }
        String host = Files.exists(Path.of("/etc/hostname"))
                ? Files.readString(Path.of("/etc/hostname")).strip()
                : "";

        try {
            assertThat(rows(out.toByteArray(), FIRST, "a").toString()).doesNotContain("[[" + host + "]]");
        } catch (FileFault refused) {
            assertThat(refused).hasMessageContaining("cannot be read as an XLSX workbook");
        }
    }
}

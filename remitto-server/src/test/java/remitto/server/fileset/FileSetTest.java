package remitto.server.fileset;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import java.io.ByteArrayOutputStream;
import java.io.IOException;
import java.io.UncheckedIOException;
import java.time.Duration;
import java.time.Instant;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import org.apache.poi.xssf.usermodel.XSSFWorkbook;
import org.junit.jupiter.api.AfterAll;
import org.junit.jupiter.api.BeforeAll;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.TestInstance;
import org.springframework.transaction.support.TransactionTemplate;
import remitto.core.fileset.ListedFile;
import remitto.server.harness.TestFiles;
import remitto.server.harness.TestServer;
import remitto.server.harness.TestUser;
import tools.jackson.databind.JsonNode;

/** Files that are read, replaced, broken, taken away and read again. */
@TestInstance(TestInstance.Lifecycle.PER_CLASS)
class FileSetTest {
    private TestServer server;
    private TestUser editor;

    @BeforeAll
    void start() {
        // Some tests move the clock by days.
        server =
                TestServer.start(Map.of("remitto.session.longest", "9999d", "server.servlet.session.timeout", "9999d"));
        editor = server.user("EDITOR");
    }

    @AfterAll
    void stop() {
        server.close();
    }

    private TestFiles files(String folder) {
        return new TestFiles(server, editor, folder);
    }

    private static String counts(JsonNode result) {
        return result.get("read").asInt() + " read, " + result.get("failed").asInt() + " failed, "
                + result.get("waiting").asInt() + " waiting, "
                + result.get("unchanged").asInt() + " unchanged";
    }

    private String rows(String table, String columns) {
        return server.cluster()
                .text(
                        server.database(),
                        "select coalesce(string_agg(concat_ws(' ', " + columns + "), ', ' order by " + columns
                                + "), 'none') from landed." + table);
    }

    private static byte[] workbook(String... rows) {
        try (XSSFWorkbook workbook = new XSSFWorkbook();
                ByteArrayOutputStream out = new ByteArrayOutputStream()) {
            var sheet = workbook.createSheet("Berths");
            for (int i = 0; i < rows.length; i++) {
                String[] cells = rows[i].split(",");
                for (int column = 0; column < cells.length; column++) {
                    var cell = (sheet.getRow(i) == null ? sheet.createRow(i) : sheet.getRow(i)).createCell(column);
                    if (cells[column].matches("[0-9.]+")) {
                        cell.setCellValue(Double.parseDouble(cells[column]));
                    } else {
                        cell.setCellValue(cells[column]);
                    }
                }
            }
            workbook.write(out);
            return out.toByteArray();
        } catch (IOException e) {
            throw new UncheckedIOException(e);
        }
    }

    @Test
    void aSheetOfAWorkbookIsProposedReadAndHeldLikeAnyRows() {
        TestFiles files = new TestFiles(server, editor, "workbooks");
        files.put("berths.xlsx", workbook("no,port,length", "1,Lervik,62.5", "2,Vik,40", "three,Kai,12"));

        JsonNode sample = editor.post("/api/file-sets/sample", Map.of("sourceId", files.source(), "pattern", "*.xlsx"))
                .ok();
        assertThat(sample.get("problem").asString()).isEmpty();
        assertThat(sample.at("/definition/format/kind").asString()).isEqualTo("xlsx");
        assertThat(sample.get("evidence").get(0).asString()).contains("Sheet Berths is read");

        Map<String, Object> definition = new HashMap<>(
                TestFiles.definition("*.xlsx", TestFiles.EACH_ADDS, "no INTEGER", "port TEXT", "length DECIMAL"));
        definition.put("format", Map.of("kind", "xlsx", "sheet", "Berths", "skippedLines", 0, "header", true));
        long set = files.add("workbooks", definition);
        files.read(set);

        assertThat(files.text("select string_agg(no || ' ' || port || ' ' || length || ' ' || _line, ', ' order by no)"
                        + " from landed.workbooks"))
                .isEqualTo("1 Lervik 62.5 2, 2 Vik 40 3");
        assertThat(editor.get("/api/file-sets/" + set)
                        .ok()
                        .at("/counts/heldRows")
                        .asLong())
                .isEqualTo(1);

        files.put("late.xlsx", "no,port,length\n4,Sund,9\n");
        files.read(set);
        assertThat(files.log(set).toString()).contains("late.xlsx").contains("The file is not an XLSX workbook");
        assertThat(files.text("select count(*) from landed.workbooks")).isEqualTo("2");
    }

    @Test
    void everyFileAddsItsRowsAndTakesThemWithItWhenItIsReplaced() {
        TestFiles files = files("adds");
        files.put("may.csv", "no,port\n1,Vik\n2,Kai\n");
        files.put("june.csv", "no,port\n3,Vik\n");
        files.put("june.txt", "not,one\n");
        long set = files.add("adds", TestFiles.definition("*.csv", TestFiles.EACH_ADDS, "no INTEGER", "port TEXT"));
        assertThat(rows("adds", "no")).isEqualTo("none");
        assertThat(counts(files.read(set))).isEqualTo("2 read, 0 failed, 0 waiting, 0 unchanged");
        assertThat(rows("adds", "no, port, _file, _line"))
                .isEqualTo("1 Vik may.csv 2, 2 Kai may.csv 3, 3 Vik june.csv 2");
        assertThat(counts(files.read(set))).as("nothing is new").isEqualTo("0 read, 0 failed, 0 waiting, 2 unchanged");
        files.put("may.csv", "port,no\nAas,2\nVik,4\n");
        assertThat(counts(files.read(set))).isEqualTo("1 read, 0 failed, 0 waiting, 1 unchanged");
        assertThat(rows("adds", "no, port")).isEqualTo("2 Aas, 3 Vik, 4 Vik");
        files.remove("june.csv");
        assertThat(counts(files.read(set))).isEqualTo("0 read, 0 failed, 0 waiting, 1 unchanged");
        assertThat(rows("adds", "no, port"))
                .as("a file that goes leaves its rows")
                .isEqualTo("2 Aas, 3 Vik, 4 Vik");
    }

    /** Its place says that it changed, its content says that it did not. */
    @Test
    void aFileThatIsPutThereAgainIsNotReadAgain() {
        TestFiles files = files("again");
        files.put("a.csv", "no\n1\n");
        long set = files.add("again", TestFiles.definition("*.csv", TestFiles.EACH_ADDS, "no INTEGER"));
        files.read(set);
        String before = editor.get("/api/file-sets/" + set + "/files")
                .ok()
                .get(0)
                .get("readAt")
                .asString();
        server.clock().forward(Duration.ofMinutes(5));
        files.put("a.csv", "no\n1\n");
        assertThat(counts(files.read(set))).isEqualTo("0 read, 0 failed, 0 waiting, 1 unchanged");
        assertThat(editor.get("/api/file-sets/" + set + "/files")
                        .ok()
                        .get(0)
                        .get("readAt")
                        .asString())
                .isEqualTo(before);
        assertThat(rows("again", "no")).isEqualTo("1");
    }

    @Test
    void theNewestFileIsTheWhole() {
        TestFiles files = files("whole");
        files.put("w1.csv", "no\n1\n2\n");
        files.put("w2.csv", "no\n2\n3\n");
        long set = files.add("whole", TestFiles.definition("*.csv", TestFiles.NEWEST_IS_WHOLE, "no INTEGER"));
        assertThat(counts(files.read(set))).isEqualTo("1 read, 0 failed, 0 waiting, 0 unchanged");
        assertThat(rows("whole", "no")).isEqualTo("2, 3");
        files.put("w3.csv", "no\n4\n");
        files.read(set);
        assertThat(rows("whole", "no")).isEqualTo("4");
        assertThat(files.log(set)).containsExactly("w1.csv SUPERSEDED 0 0", "w2.csv SUPERSEDED 0 0", "w3.csv READ 1 0");
        files.remove("w3.csv");
        files.read(set);
        assertThat(rows("whole", "no")).as("what is older does not come back").isEqualTo("4");
        files.put("w4.csv", "no\nfour\n".repeat(1));
        files.read(set);
        assertThat(rows("whole", "no")).as("no row of it fits").isEqualTo("none");
        files.put("w5.csv", "number\n5\n");
        files.read(set);
        assertThat(files.log(set).get(4)).startsWith("w5.csv FAILED 0 0 The file has no column called no.");
        assertThat(editor.get("/api/file-sets/" + set)
                        .ok()
                        .at("/counts/heldRows")
                        .asInt())
                .isEqualTo(1);
    }

    private static Map<String, Object> changes(String... columns) {
        return TestFiles.definition(
                "*.csv",
                Map.of(
                        "kind",
                        "each-holds-changes",
                        "keys",
                        List.of("no"),
                        "change",
                        "what",
                        "removes",
                        List.of("Gone", "x")),
                columns);
    }

    @Test
    void changesMeetTheirRecordsByKeyInTheOrderOfTheFiles() {
        TestFiles files = files("changes");
        files.put("1.csv", "no,port,what\n1,Vik,new\n2,Kai,new\n3,Aas,new\n1,Sund,changed\n,Nes,new\n");
        long set = files.add("changes", changes("no TEXT", "port TEXT", "what TEXT"));
        files.read(set);
        assertThat(rows("changes", "no, port")).isEqualTo("1 Sund, 2 Kai, 3 Aas");
        assertThat(files.log(set)).containsExactly("1.csv READ 4 1");
        assertThat(editor.get("/api/file-sets/" + set + "/files/" + file(set, "1.csv") + "/held")
                        .ok()
                        .get(0)
                        .get("problem")
                        .asString())
                .isEqualTo("no: is empty, so no record can be matched");
        files.put("2.csv", "no,port,what\n2,Kai, GONE \n3,Bø,changed\n9,Nes,x\n");
        files.read(set);
        assertThat(rows("changes", "no, port")).isEqualTo("1 Sund, 3 Bø");
        files.put(
                "0.csv",
                "no,port,what\n2,Old,new\n3,Old,new\n5,Old,new\n".getBytes(java.nio.charset.StandardCharsets.UTF_8),
                Instant.parse("2019-01-01T00:00:00Z"));
        files.read(set);
        assertThat(rows("changes", "no, port"))
                .as("what comes late is older than what is known")
                .isEqualTo("1 Sund, 3 Bø, 5 Old");
        files.put("3.csv", "no,port,what\n2,Kai,new\n");
        files.read(set);
        assertThat(rows("changes", "no, port"))
                .as("who was removed comes again")
                .isEqualTo("1 Sund, 2 Kai, 3 Bø, 5 Old");
    }

    private long file(long set, String path) {
        return editor.get("/api/file-sets/" + set + "/files")
                .ok()
                .valueStream()
                .filter(one -> one.get("path").asString().equals(path))
                .findFirst()
                .orElseThrow()
                .get("id")
                .asLong();
    }

    @Test
    void aRowThatDoesNotFitIsHeldWithItsFileAndItsLine() {
        TestFiles files = files("held");
        files.put(
                "berths.csv",
                "kai;skip;ankomst;lengde\n1;Ternen;24.12.2026 08:00;12,5\n2;\"Lommen;25.12.2026 09:00;7\n3;Bjørnøy;31.02.2026 10:00;9,0\n4;Ålesund;26.12.2026 11:30;1.250,75\n",
                "windows-1252");
        Map<String, Object> definition = TestFiles.definition(
                "*.csv",
                TestFiles.EACH_ADDS,
                "kai INTEGER",
                "skip TEXT",
                "ankomst TIMESTAMP dd.MM.uuuu HH:mm",
                "lengde DECIMAL comma");
        definition.put(
                "format",
                Map.of(
                        "kind",
                        "delimited",
                        "delimiter",
                        ";",
                        "quote",
                        "\"",
                        "encoding",
                        "windows-1252",
                        "skippedLines",
                        0,
                        "header",
                        true));
        definition.put("zone", "Europe/Oslo");
        long set = files.add("held", definition);
        files.read(set);
        assertThat(rows("held", "kai, skip, ankomst at time zone 'UTC', lengde, _original->>'lengde'"))
                .isEqualTo("1 Ternen 2026-12-24 07:00:00 12.5 12,5, 4 Ålesund 2026-12-26 10:30:00 1250.75 1.250,75");
        JsonNode held = editor.get("/api/file-sets/" + set + "/files/" + file(set, "berths.csv") + "/held")
                .ok();
        assertThat(held.size()).isEqualTo(2);
        assertThat(held.get(0).get("line").asInt()).isEqualTo(3);
        assertThat(held.get(0).get("content").asString()).isEqualTo("2;\"Lommen;25.12.2026 09:00;7");
        assertThat(held.get(1).get("line").asInt()).isEqualTo(4);
        assertThat(held.get(1).get("problem").asString())
                .isEqualTo("ankomst: \"31.02.2026 10:00\" is not a date and time spelled dd.MM.uuuu HH:mm");
        assertThat(held.get(1).get("content").asString()).isEqualTo("3;Bjørnøy;31.02.2026 10:00;9,0");
        files.put("berths.csv", "kai;skip;ankomst;lengde\n1;Ternen;24.12.2026 08:00;12,5\n", "windows-1252");
        files.read(set);
        assertThat(files.log(set)).as("a corrected file").containsExactly("berths.csv READ 1 0");
        assertThat(server.cluster()
                        .text(
                                server.database(),
                                "select count(*) from held_file_row h join landed_file f"
                                        + " on f.id = h.file_id where f.file_set_id = " + set))
                .isEqualTo("0");
    }

    @Test
    void oneFileThatCannotBeReadStopsNoOtherAndKeepsItsFormerRows() {
        TestFiles files = files("sick");
        files.put("a.csv", "no\n1\n");
        files.put("b.csv", "no\n2\n");
        long set = files.add("sick", TestFiles.definition("*.csv", TestFiles.EACH_ADDS, "no INTEGER"));
        files.read(set);
        files.put("a.csv", "number\n7\n");
        files.put("c.csv", "no\n" + "x\n".repeat(10_001));
        files.put("d.csv", "no\n4\n");
        assertThat(counts(files.read(set))).isEqualTo("1 read, 2 failed, 0 waiting, 1 unchanged");
        assertThat(rows("sick", "no")).isEqualTo("1, 2, 4");
        assertThat(files.log(set))
                .satisfies(
                        log -> assertThat(log.get(0)).startsWith("a.csv FAILED 1 0 The file has no column called no."))
                .satisfies(log -> assertThat(log.get(2))
                        .startsWith("c.csv FAILED 0 0 More than 10,000 rows do not fit, the first in line 2"));
        assertThat(counts(files.read(set)))
                .as("nothing is tried again as it is")
                .isEqualTo("0 read, 0 failed, 0 waiting, 4 unchanged");
        JsonNode seen = editor.get("/api/file-sets/" + set).ok();
        assertThat(seen.at("/counts/failed").asInt()).isEqualTo(2);
        assertThat(seen.at("/counts/read").asInt()).isEqualTo(2);
    }

    @Test
    void aFileThatIsStillWrittenIsLeftAlone() {
        TestFiles files = files("written");
        Instant now = server.clock().instant();
        files.put("a.csv", "no\n1\n".getBytes(java.nio.charset.StandardCharsets.UTF_8), now.minusSeconds(5));
        files.put("b.csv.part", "no\n2\n".getBytes(java.nio.charset.StandardCharsets.UTF_8), now.minusSeconds(500));
        long set = files.add("written", TestFiles.definition("*", TestFiles.EACH_ADDS, "no INTEGER"));
        assertThat(counts(files.read(set))).isEqualTo("0 read, 0 failed, 1 waiting, 0 unchanged");
        assertThat(files.log(set)).containsExactly("a.csv SEEN 0 0");
        server.clock().forward(Duration.ofSeconds(30));
        assertThat(counts(files.read(set))).isEqualTo("1 read, 0 failed, 0 waiting, 0 unchanged");
    }

    @Test
    void anotherDefinitionReadsTheFilesAgainAndKeepsWhatIsNotThereAnyMore() {
        TestFiles files = files("anew");
        files.put("a.csv", "no,port,price\n1,Vik,2.50\n");
        files.put("b.csv", "no,port,price\n2,Kai,3.75\n");
        Map<String, Object> first =
                TestFiles.definition("*.csv", TestFiles.EACH_ADDS, "no INTEGER", "port TEXT", "price DECIMAL");
        long set = files.add("anew", first);
        files.read(set);
        files.remove("a.csv");
        Map<String, Object> second = TestFiles.definition("*.csv", TestFiles.EACH_ADDS, "no TEXT", "price DECIMAL");
        JsonNode changed = editor.put("/api/file-sets/" + set, files.draft("anew", second, 1))
                .ok();
        assertThat(changed.get("reading").asBoolean()).isTrue();
        assertThat(rows("anew", "no, port, price")).as("until they are read").isEqualTo("1 Vik 2.50, 2 Kai 3.75");
        files.read(set);
        assertThat(rows("anew", "no, price, _file")).isEqualTo("1 2.50 a.csv, 2 3.75 b.csv");
        assertThat(server.cluster()
                        .text(
                                server.database(),
                                "select count(*) from pg_tables where schemaname = 'landing'"
                                        + " and tablename like 'set\\_" + set + "\\_%'"))
                .isEqualTo("1");
        assertThat(server.cluster()
                        .text(
                                server.database(),
                                "select string_agg(attname, ' ' order by attnum) from"
                                        + " pg_attribute where attrelid = 'landed.anew'::regclass"))
                .isEqualTo("no price _file _line _original");
        assertThat(editor.get("/api/file-sets/" + set).ok().get("reading").asBoolean())
                .isFalse();
        assertThat(editor.put("/api/file-sets/" + set, files.draft("anew", first, 1))
                        .status())
                .as("somebody saved meanwhile")
                .isEqualTo(409);
        Map<String, Object> later = new HashMap<>(second);
        later.put("afterReading", "ARCHIVE");
        assertThat(editor.put("/api/file-sets/" + set, files.draft("anew", later, 2))
                        .ok()
                        .get("revision")
                        .asInt())
                .as("what rows are is the same")
                .isEqualTo(2);
    }

    /** What cannot be read by another definition would seem to have left. */
    @Test
    void theRowsStayAsTheyWereWhileAFileCannotBeReadByAnotherDefinition() {
        TestFiles files = files("wrong");
        files.put("a.csv", "no,port\n1,Vik\n");
        files.put("b.csv", "no,port\n2,Kai\n");
        long set = files.add("wrong", TestFiles.definition("*.csv", TestFiles.EACH_ADDS, "no INTEGER", "port TEXT"));
        files.read(set);
        Map<String, Object> wrong = TestFiles.definition("*.csv", TestFiles.EACH_ADDS, "no INTEGER", "town TEXT");
        editor.put("/api/file-sets/" + set, files.draft("wrong", wrong, 1)).ok();
        assertThat(counts(files.read(set))).isEqualTo("0 read, 2 failed, 0 waiting, 0 unchanged");
        files.read(set);
        assertThat(rows("wrong", "no, port")).isEqualTo("1 Vik, 2 Kai");
        assertThat(editor.get("/api/file-sets/" + set).ok().get("reading").asBoolean())
                .isTrue();
        files.remove("b.csv");
        files.put("a.csv", "no,town\n1,Vik\n");
        files.read(set);
        assertThat(rows("wrong", "no, town")).isEqualTo("1 Vik, 2");
    }

    /** A row that was held is missing until its file was read again, whatever becomes of the file meanwhile. */
    @Test
    void rowsStayHeldWhileTheirFileWaitsOrFails() {
        TestFiles files = files("still");
        files.put("a.csv", "no\n1\nx\n");
        long set = files.add("still", TestFiles.definition("*.csv", TestFiles.EACH_ADDS, "no INTEGER"));
        files.read(set);
        HeldInFiles held = server.bean(HeldInFiles.class);
        var query = new remitto.server.dataset.DatasetDefinition.Query.SqlQuery("select no from landed.still");
        files.put(
                "a.csv",
                "number\n1\n".getBytes(java.nio.charset.StandardCharsets.UTF_8),
                server.clock().instant());
        files.read(set);
        assertThat(files.log(set)).containsExactly("a.csv SEEN 1 1");
        assertThat(held.of(files.source(), query)).as("it waits").isEqualTo(1);
        server.clock().forward(Duration.ofMinutes(1));
        files.read(set);
        assertThat(files.log(set).get(0)).startsWith("a.csv FAILED 1 1");
        assertThat(held.of(files.source(), query)).as("it failed").isEqualTo(1);
        files.put("a.csv", "no\n1\n2\n");
        files.read(set);
        assertThat(held.of(files.source(), query)).isZero();
    }

    @Test
    void filesAreArchivedOrDeletedOnceTheyWereRead() {
        TestFiles files = files("after");
        files.put("sub/a.csv", "no\n1\n");
        Map<String, Object> archive = TestFiles.definition("**/*.csv", TestFiles.EACH_ADDS, "no INTEGER");
        archive.put("afterReading", "ARCHIVE");
        long archived = files.add("archived", archive);
        files.read(archived);
        assertThat(files.path("sub/read/a.csv")).exists();
        assertThat(files.path("sub/a.csv")).doesNotExist();
        assertThat(counts(files.read(archived))).isEqualTo("0 read, 0 failed, 0 waiting, 0 unchanged");
        assertThat(rows("archived", "no")).isEqualTo("1");
        files.put("b.dat", "no\n2\nx\n");
        files.put("c.dat", "no\n3\n");
        Map<String, Object> delete = TestFiles.definition("*.dat", TestFiles.EACH_ADDS, "no INTEGER");
        delete.put("afterReading", "DELETE");
        long deleted = files.add("deleted", delete);
        files.read(deleted);
        assertThat(files.path("b.dat")).as("a row of it is held").exists();
        assertThat(files.path("c.dat")).doesNotExist();
        assertThat(rows("deleted", "no")).isEqualTo("2, 3");
    }

    @Test
    void rowsAreKeptForAsLongAsIsSaid() {
        TestFiles files = files("kept");
        files.put("a.csv", "no\n1\n");
        Map<String, Object> definition = TestFiles.definition("*.csv", TestFiles.EACH_ADDS, "no INTEGER");
        definition.put("keepDays", 7);
        long set = files.add("kept", definition);
        files.read(set);
        server.clock().forward(Duration.ofDays(6));
        files.put("b.csv", "no\n2\n");
        files.read(set);
        assertThat(rows("kept", "no")).isEqualTo("1, 2");
        server.clock().forward(Duration.ofDays(2));
        files.read(set);
        assertThat(rows("kept", "no")).isEqualTo("2");
        assertThat(files.log(set).get(0)).isEqualTo("a.csv READ 0 0 Its rows were removed after 7 days.");
    }

    @Test
    void aPlaceThatCannotBeReachedIsSaidAndTriedAgain() throws java.io.IOException {
        TestFiles files = files("away");
        files.put("a.csv", "no\n1\n");
        long set = files.add("away", TestFiles.definition("*.csv", TestFiles.EACH_ADDS, "no INTEGER"));
        files.read(set);
        java.nio.file.Files.move(files.path(""), files.path("").resolveSibling("moved"));
        JsonNode job = files.ended(set);
        assertThat(job.get("state").asString()).isEqualTo("FAILED");
        assertThat(job.get("problem").asString()).startsWith("There is no folder");
        assertThat(editor.get("/api/file-sets/" + set).ok().get("problem").asString())
                .startsWith("There is no folder");
        assertThat(rows("away", "no")).isEqualTo("1");
        java.nio.file.Files.move(files.path("").resolveSibling("moved"), files.path(""));
        files.read(set);
        assertThat(editor.get("/api/file-sets/" + set).ok().get("problem").asString())
                .isEmpty();
    }

    /** Its place lists it with a size; what is read to its end must be as long. */
    @Test
    void aFileThatGrowsWhileItIsReadLeavesNothing() {
        TestFiles files = files("grows");
        files.put("a.csv", "no\n1\n");
        long set = files.add("grows", TestFiles.definition("*.csv", TestFiles.EACH_ADDS, "no INTEGER"));
        files.read(set);
        byte[] longer = "no\n1\n2\n".getBytes(java.nio.charset.StandardCharsets.UTF_8);
        FileSets.FileSet found = server.bean(FileSets.class).get(set);
        ListedFile listed = new ListedFile("a.csv", 5, Instant.parse("2020-01-01T00:00:00Z"), "");
        assertThatThrownBy(() -> server.bean(TransactionTemplate.class)
                        .executeWithoutResult(status -> land(found, listed, longer)))
                .isInstanceOf(FileLanding.StillWritten.class);
        assertThat(rows("grows", "no")).as("what was read before stays").isEqualTo("1");
        ListedFile whole = new ListedFile("a.csv", longer.length, listed.modifiedAt(), "");
        server.bean(TransactionTemplate.class).executeWithoutResult(status -> land(found, whole, longer));
        assertThat(rows("grows", "no")).isEqualTo("1, 2");
    }

    private void land(FileSets.FileSet set, ListedFile file, byte[] bytes) {
        try {
            server.bean(FileLanding.class)
                    .land(set, file(set.id(), file.path()), file, new java.io.ByteArrayInputStream(bytes));
        } catch (java.io.IOException e) {
            throw new java.io.UncheckedIOException(e);
        }
    }
}

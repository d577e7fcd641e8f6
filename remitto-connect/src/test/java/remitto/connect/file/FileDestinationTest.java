package remitto.connect.file;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import java.io.ByteArrayInputStream;
import java.io.IOException;
import java.math.BigDecimal;
import java.nio.charset.Charset;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.nio.file.attribute.PosixFilePermissions;
import java.time.Instant;
import java.time.LocalDate;
import java.util.HexFormat;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.stream.Stream;
import java.util.zip.GZIPInputStream;
import org.apache.commons.codec.digest.DigestUtils;
import org.apache.commons.csv.CSVFormat;
import org.apache.commons.csv.CSVParser;
import org.apache.commons.csv.CSVRecord;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;
import org.junit.jupiter.params.provider.EnumSource;
import remitto.connect.destination.DestinationProblem;
import remitto.connect.destination.WholeFiles.DeliveredFile;
import remitto.connect.destination.WholeFiles.FileRequest;
import remitto.connect.destination.WholeFiles.FileRow;
import remitto.core.destination.FieldKind;
import remitto.core.file.FileColumn;
import remitto.core.file.FileContent;
import remitto.core.file.FileForm;
import remitto.core.file.FileLayout;
import remitto.core.file.FileName;
import remitto.core.manifest.Verdict;
import remitto.core.value.Value;

/** Files as they lie in a folder, read back by others than those who wrote them. */
class FileDestinationTest {
    private static final FileRequest WISH =
            new FileRequest("members", "Guide", 7, Instant.parse("2026-11-20T15:00:00Z"), 1);

    @TempDir
    Path outbox;

    private static FileLayout layout(FileForm form, FileContent content, boolean gzip) {
        return new FileLayout(
                "members",
                true,
                content,
                "to/guide",
                new FileName("m-{run}"),
                "UTC",
                form,
                gzip,
                "id",
                List.of(
                        FileColumn.of("id", FieldKind.TEXT),
                        FileColumn.of("name", FieldKind.TEXT),
                        FileColumn.of("score", FieldKind.DECIMAL),
                        FileColumn.of("since", FieldKind.DATE),
                        FileColumn.of("ports", FieldKind.LIST)));
    }

    private static FileRow row(Verdict verdict, String id, String name) {
        return new FileRow(
                verdict,
                Map.of(
                        "id", new Value.Text(id),
                        "name", new Value.Text(name),
                        "score", new Value.Decimal(new BigDecimal("1234567.50")),
                        "since", new Value.Day(LocalDate.of(2026, 2, 1)),
                        "ports", new Value.Items(List.of(new Value.Text("Lysø"), new Value.Text("Tarva")))));
    }

    private FileDestination destination(FileLayout layout) {
        return new FileDestination(new FolderPlace(outbox, "handed"), List.of(layout));
    }

    private byte[] bytes(DeliveredFile file) throws IOException {
        return Files.readAllBytes(outbox.resolve("handed").resolve(file.path()));
    }

    /** RFC 4180, sections 2.5 to 2.7: quotes, doubled quotes, commas and line ends within values. */
    @Test
    void csvIsAsRfc4180HasIt() throws IOException {
        DeliveredFile file = destination(layout(FileForm.Csv.plain(), new FileContent.Everybody(), false))
                .deliver(WISH, sink -> {
                    sink.accept(row(Verdict.ADDED, "1", "a \"b\", c\r\nd"));
                    sink.accept(new FileRow(Verdict.UNCHANGED, Map.of("id", new Value.Text("2"))));
                });
        assertThat(new String(bytes(file), StandardCharsets.UTF_8))
                .isEqualTo("id,name,score,since,ports\r\n"
                        + "1,\"a \"\"b\"\", c\r\nd\",1234567.5,2026-02-01,Lysø;Tarva\r\n"
                        + "2,,,,\r\n");
        assertThat(file.path()).isEqualTo("to/guide/m-7.csv");
        assertThat(file.rows()).isEqualTo(2);
        assertThat(file.bytes()).isEqualTo(bytes(file).length);
        assertThat(file.sha256()).isEqualTo(HexFormat.of().formatHex(DigestUtils.sha256(bytes(file))));
    }

    @ParameterizedTest
    @EnumSource(FileForm.Encoding.class)
    void everyEncodingIsReadBackAsItWas(FileForm.Encoding encoding) throws IOException {
        FileForm.Csv csv = new FileForm.Csv(
                "\t", FileForm.Quoting.EVERY_VALUE, FileForm.LineEnd.LF, encoding, true, "|", Optional.empty());
        FileDestination destination = destination(layout(csv, new FileContent.Everybody(), false));
        String name = "Åse\tBjørn \"the ferry\"\nö";
        DeliveredFile file = destination.deliver(WISH, sink -> sink.accept(row(Verdict.ADDED, "1", name)));
        String text = new String(bytes(file), Charset.forName(encoding.charset()));
        assertThat(text.startsWith("\uFEFF")).isEqualTo(encoding == FileForm.Encoding.UTF_8_WITH_MARK);
        try (CSVParser parser = CSVParser.parse(
                text.replace("\uFEFF", ""),
                CSVFormat.TDF
                        .builder()
                        .setHeader()
                        .setSkipHeaderRecord(true)
                        .setIgnoreSurroundingSpaces(false)
                        .get())) {
            CSVRecord read = parser.getRecords().get(0);
            assertThat(read.get("name")).isEqualTo(name);
            assertThat(read.get("ports")).isEqualTo("Lysø|Tarva");
        }
        boolean takesGreek = encoding.charset().startsWith("UTF");
        assertThat(destination
                        .unspellable("members", row(Verdict.ADDED, "1", "Ελένη"))
                        .isEmpty())
                .isEqualTo(takesGreek);
        if (!takesGreek) {
            assertThat(destination.unspellable("members", row(Verdict.ADDED, "1", "Ελένη")))
                    .containsExactly("name: \"Ελένη\" cannot be written in " + encoding.charset());
            assertThatThrownBy(() -> destination.deliver(WISH, sink -> sink.accept(row(Verdict.ADDED, "1", "Ελένη"))))
                    .as("never a question mark")
                    .isInstanceOf(DestinationProblem.class);
        }
    }

    /** By choice of the layout: programs get every value to the letter, spreadsheets nothing that they would run. */
    @ParameterizedTest
    @EnumSource(FileForm.Formulas.class)
    void formulasAreNeutralisedWhereTheLayoutSaysSo(FileForm.Formulas formulas) throws IOException {
        FileForm.Csv csv = new FileForm.Csv(
                ",",
                FileForm.Quoting.WHERE_NEEDED,
                FileForm.LineEnd.LF,
                FileForm.Encoding.UTF_8,
                false,
                ";",
                Optional.of(formulas));
        DeliveredFile file = destination(layout(csv, new FileContent.Changes("op", "+", "=C", "-"), false))
                .deliver(WISH, sink -> {
                    sink.accept(row(Verdict.CHANGED, "1", "=1+1"));
                    sink.accept(row(Verdict.CHANGED, "-2", "Lie = Lie"));
                });
        String text = new String(bytes(file), StandardCharsets.UTF_8);
        boolean marked = formulas == FileForm.Formulas.NEUTRALISED;
        assertThat(text.lines()
                        .map(line -> String.join(",", List.of(line.split(",")).subList(0, 3))))
                .containsExactly(marked ? "'=C,1,'=1+1" : "=C,1,=1+1", marked ? "'=C,-2,Lie = Lie" : "=C,-2,Lie = Lie");
    }

    @ParameterizedTest
    @CsvSource({
        "guide, guide, false",
        "guide, guide/in, false",
        "guide/in, guide, false",
        "guide, ./other/../guide, false",
        "'', guide, false",
        "., guide, false",
        "guide, guides, true",
        "guide/in, guide/out, true"
    })
    void foldersAreApartWhenNeitherHoldsTheOther(String one, String other, boolean apart) {
        assertThat(FilePlaces.apart(one, other)).isEqualTo(apart);
    }

    @Test
    void changesAreSaidInTheReceiversWords() throws IOException {
        FileForm.Csv csv = new FileForm.Csv(
                ";",
                FileForm.Quoting.WHERE_NEEDED,
                FileForm.LineEnd.LF,
                FileForm.Encoding.UTF_8,
                false,
                ",",
                Optional.empty());
        DeliveredFile file = destination(layout(csv, new FileContent.Changes("op", "NEW", "UPD", "DEL"), false))
                .deliver(WISH, sink -> Stream.of(Verdict.REMOVED, Verdict.CHANGED, Verdict.ADDED)
                        .forEach(verdict -> sink.accept(row(verdict, "1", "x"))));
        assertThat(new String(bytes(file), StandardCharsets.UTF_8).lines().map(line -> line.split(";")[0]))
                .containsExactly("DEL", "UPD", "NEW");
    }

    /** RFC 8259 objects, packed by RFC 1952. */
    @Test
    void jsonLinesKeepTypes() throws IOException {
        DeliveredFile file = destination(
                        layout(new FileForm.JsonLines(), new FileContent.Changes("op", "A", "C", "R"), true))
                .deliver(WISH, sink -> {
                    sink.accept(row(Verdict.ADDED, "1", "a\nb"));
                    sink.accept(new FileRow(Verdict.REMOVED, Map.of("id", new Value.Text("2"))));
                });
        assertThat(file.path()).endsWith("m-7.jsonl.gz");
        String text = new String(
                new GZIPInputStream(new ByteArrayInputStream(bytes(file))).readAllBytes(), StandardCharsets.UTF_8);
        assertThat(text.lines())
                .containsExactly(
                        "{\"op\":\"A\",\"id\":\"1\",\"name\":\"a\\nb\",\"score\":1234567.5,\"since\":\"2026-02-01\","
                                + "\"ports\":[\"Lysø\",\"Tarva\"]}",
                        "{\"op\":\"R\",\"id\":\"2\",\"name\":null,\"score\":null,\"since\":null,\"ports\":null}");
    }

    @Test
    void nobodySeesHalfAFile() throws IOException {
        FileDestination destination = destination(layout(FileForm.Csv.plain(), new FileContent.Everybody(), false));
        DeliveredFile before = destination.deliver(WISH, sink -> sink.accept(row(Verdict.ADDED, "1", "x")));
        assertThatThrownBy(() -> destination.deliver(WISH, sink -> {
                    sink.accept(row(Verdict.ADDED, "1", "y"));
                    throw new DestinationProblem(DestinationProblem.Kind.UNREACHABLE, "cut");
                }))
                .hasMessage("cut");
        assertThat(new String(bytes(before), StandardCharsets.UTF_8))
                .contains("1,x,")
                .doesNotContain(",y,");
        DeliveredFile after = destination.deliver(WISH, sink -> sink.accept(row(Verdict.ADDED, "1", "y")));
        assertThat(after.path()).isEqualTo(before.path());
        assertThat(new String(bytes(after), StandardCharsets.UTF_8)).contains("1,y,");
        try (Stream<Path> there = Files.walk(outbox)) {
            assertThat(there.filter(Files::isRegularFile)).hasSize(1);
        }
    }

    @Test
    void aFolderIsBelowTheOutbox() {
        assertThatThrownBy(() -> new FolderPlace(outbox, "../elsewhere"))
                .isInstanceOf(DestinationProblem.class)
                .hasMessageContaining("outside");
        assertThatThrownBy(() -> new FolderPlace(outbox, "/etc")).hasMessageContaining("outside");
        assertThat(new FolderPlace(outbox, " handed ").check()).endsWith("handed on this machine");
    }

    @Test
    void whatIsDeliveredIsReadByItsOwnerAlone() throws IOException {
        DeliveredFile file = destination(layout(FileForm.Csv.plain(), new FileContent.Everybody(), false))
                .deliver(WISH, sink -> sink.accept(row(Verdict.ADDED, "1", "a")));
        Path there = outbox.resolve("handed").resolve(file.path());
        assertThat(PosixFilePermissions.toString(Files.getPosixFilePermissions(there)))
                .isEqualTo("rw-------");
        assertThat(PosixFilePermissions.toString(Files.getPosixFilePermissions(there.getParent())))
                .isEqualTo("rwx------");
    }
}

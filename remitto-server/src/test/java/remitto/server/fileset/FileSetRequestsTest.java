package remitto.server.fileset;

import static org.assertj.core.api.Assertions.assertThat;

import java.util.List;
import java.util.Map;
import org.junit.jupiter.api.AfterAll;
import org.junit.jupiter.api.BeforeAll;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.TestInstance;
import remitto.server.harness.TestFiles;
import remitto.server.harness.TestServer;
import remitto.server.harness.TestUser;
import tools.jackson.databind.JsonNode;

/** Who may do what with files, and what is said to those who ask for something that cannot be. */
@TestInstance(TestInstance.Lifecycle.PER_CLASS)
class FileSetRequestsTest {
    private TestServer server;
    private TestUser editor;
    private TestFiles files;

    @BeforeAll
    void start() {
        server = TestServer.start();
        editor = server.user("EDITOR");
        files = new TestFiles(server, editor, "quay");
    }

    @AfterAll
    void stop() {
        server.close();
    }

    private static Map<String, Object> definition(String pattern) {
        return TestFiles.definition(pattern, TestFiles.EACH_ADDS, "no INTEGER", "email TEXT");
    }

    @Test
    void aFileIsLookedAtBeforeAnythingIsMadeOfIt() {
        files.put("look/old.csv", "no\n1\n");
        files.put("look/new.csv", "no;navn;pris\n1;Ada;2,50\n2;\"Bo;x\n3;Cy;1,25\n");
        JsonNode seen = editor.post(
                        "/api/file-sets/sample", Map.of("sourceId", files.source(), "pattern", "look/*.csv"))
                .ok();
        assertThat(seen.at("/matched/count").asInt()).isEqualTo(2);
        assertThat(seen.at("/file/path").asString()).isEqualTo("look/new.csv");
        assertThat(seen.get("evidence").toString())
                .contains("A semicolon gives 3 columns", "The first row has a text in every cell");
        assertThat(seen.at("/definition/format/delimiter").asString()).isEqualTo(";");
        assertThat(seen.at("/definition/columns/2/type").asString()).isEqualTo("DECIMAL");
        assertThat(seen.at("/definition/columns/2/spelling").asString()).isEqualTo("comma");
        assertThat(seen.at("/columns/0/asKey").asBoolean()).isTrue();
        assertThat(seen.get("held").asInt()).isEqualTo(1);
        assertThat(seen.at("/rows/1/line").asInt()).isEqualTo(3);
        assertThat(seen.at("/rows/1/content").asString()).isEqualTo("2;\"Bo;x");
        assertThat(seen.at("/rows/2/cells/1").asString()).isEqualTo("Cy");
        Map<String, Object> own = TestFiles.definition("look/*.csv", TestFiles.EACH_ADDS, "navn TEXT");
        own.put("format", seen.at("/definition/format"));
        JsonNode chosen = editor.post(
                        "/api/file-sets/sample",
                        Map.of(
                                "sourceId",
                                files.source(),
                                "pattern",
                                "look/*.csv",
                                "path",
                                "look/new.csv",
                                "definition",
                                own))
                .ok();
        assertThat(chosen.at("/rows/0/cells").toString()).isEqualTo("[\"Ada\"]");
        assertThat(chosen.at("/columns").size()).as("what else there is").isEqualTo(3);
        JsonNode none = editor.post("/api/file-sets/sample", Map.of("sourceId", files.source(), "pattern", "gone/*"))
                .ok();
        assertThat(none.get("problem").asString()).isEqualTo("No file matches this pattern yet.");
        assertThat(editor.get("/api/file-sets/matches?source=" + files.source() + "&pattern=look/*.csv")
                        .ok()
                        .get("count")
                        .asInt())
                .isEqualTo(2);
        assertThat(server.journal("looked at a file")).isNotEmpty();
    }

    @Test
    void aFileThatHoldsNoRowsIsSaidInItsSample() {
        files.put("none/a.dat", "");
        files.put("none/b.pdf", "%PDF-1.7");
        for (String file : List.of("none/a.dat", "none/b.pdf")) {
            JsonNode seen = editor.post("/api/file-sets/sample", Map.of("sourceId", files.source(), "pattern", file))
                    .ok();
            assertThat(seen.get("problem").asString()).as(file).isNotEmpty();
            assertThat(seen.get("rows").size()).isZero();
        }
    }

    @Test
    void whatCannotBeIsRefusedInWords() {
        files.put("a.csv", "no,email\n1,ada@mail.example\n");
        Map<String, Object> twice = TestFiles.definition("*.csv", TestFiles.EACH_ADDS, "no INTEGER", "no TEXT");
        assertThat(editor.post("/api/file-sets", files.draft("twice", twice, 0)).detail())
                .contains("Two columns are called no.");
        for (String pattern : List.of("../*.csv", "/etc/*", "a\\b")) {
            assertThat(editor.post("/api/file-sets", files.draft("climbs", definition(pattern), 0))
                            .detail())
                    .contains("stays within the source's folder");
            assertThat(editor.post("/api/file-sets/sample", Map.of("sourceId", files.source(), "pattern", pattern))
                            .status())
                    .isEqualTo(422);
        }
        assertThat(editor.post("/api/file-sets", files.draft("x".repeat(64), definition("*.csv"), 0))
                        .detail())
                .contains("1 to 63 bytes");
        long set = files.add("once", definition("a.csv"));
        assertThat(editor.post("/api/file-sets", files.draft("once", definition("b.csv"), 0))
                        .status())
                .isEqualTo(409);
        assertThat(editor.put("/api/file-sets/" + set, files.draft("other", definition("a.csv"), 1))
                        .detail())
                .contains("The table stays");
        long warehouse = server.warehouse().connect(editor, "Warehouse", "shop_reader");
        assertThat(editor.post("/api/file-sets/sample", Map.of("sourceId", warehouse, "pattern", "*"))
                        .detail())
                .contains("is a database, which has no files");
        assertThat(editor.post(
                                "/api/sources",
                                Map.of("name", "Out", "address", Map.of("kind", "folder", "folder", "../../etc")))
                        .ok()
                        .get("problem")
                        .asString())
                .contains("outside of the folder that Remitto may read from");
        assertThat(editor.get("/api/file-sets/999").status()).isEqualTo(404);
        assertThat(editor.get("/api/file-sets/" + set + "/files/999/held").status())
                .isEqualTo(404);
    }

    @Test
    void whoLooksOnMakesNothingAndSeesNoValues() {
        files.put("private/a.csv", "no,email\n1,ada@mail.example\nx,bo@mail.example\n");
        long set = files.add("private", definition("private/*.csv"));
        files.read(set);
        long file = editor.get("/api/file-sets/" + set + "/files")
                .ok()
                .get(0)
                .get("id")
                .asLong();
        TestUser viewer = server.user("VIEWER");
        assertThat(viewer.get("/api/file-sets").ok().toString()).contains("private");
        assertThat(viewer.get("/api/file-sets/" + set + "/files")
                        .ok()
                        .get(0)
                        .get("held")
                        .asInt())
                .isEqualTo(1);
        assertThat(viewer.get("/api/file-sets/" + set + "/files/" + file + "/held")
                        .status())
                .isEqualTo(403);
        assertThat(viewer.post("/api/file-sets", files.draft("v", definition("*.csv"), 0))
                        .status())
                .isEqualTo(403);
        assertThat(viewer.put("/api/file-sets/" + set, files.draft("private", definition("*.csv"), 1))
                        .status())
                .isEqualTo(403);
        assertThat(viewer.post("/api/file-sets/sample", Map.of("sourceId", files.source(), "pattern", "*"))
                        .status())
                .isEqualTo(403);
        assertThat(viewer.get("/api/file-sets/matches?source=" + files.source() + "&pattern=*")
                        .status())
                .as("calls a place of files")
                .isEqualTo(403);
        for (String act : List.of("readings", "pause", "resume")) {
            assertThat(viewer.post("/api/file-sets/" + set + "/" + act, Map.of())
                            .status())
                    .as(act)
                    .isEqualTo(403);
        }
        assertThat(viewer.delete("/api/file-sets/" + set).status()).isEqualTo(403);
        assertThat(editor.get("/api/file-sets/" + set + "/files/" + file + "/held")
                        .ok()
                        .toString())
                .contains("bo@mail.example");
    }

    @Test
    void aSetIsPausedAndArchivedWhenNobodyUsesIt() {
        long set = files.add("paused", definition("paused.csv"));
        assertThat(editor.post("/api/file-sets/" + set + "/pause", Map.of())
                        .ok()
                        .get("paused")
                        .asBoolean())
                .isTrue();
        assertThat(server.bean(FileSets.class).due()).doesNotContain(set);
        assertThat(editor.post("/api/file-sets/" + set + "/resume", Map.of())
                        .ok()
                        .get("paused")
                        .asBoolean())
                .isFalse();
        assertThat(server.bean(FileSets.class).due()).contains(set);
        editor.post(
                        "/api/datasets",
                        Map.of(
                                "name",
                                "Of paused",
                                "description",
                                "",
                                "sourceId",
                                files.source(),
                                "basedOn",
                                0,
                                "definition",
                                Map.of(
                                        "query", Map.of("kind", "sql", "text", "select no from landed.paused"),
                                        "columns", List.of(Map.of("name", "no", "type", "INTEGER", "role", "KEY")))))
                .ok();
        assertThat(editor.get("/api/file-sets/" + set + "/uses").ok().toString())
                .contains("dataset Of paused");
        assertThat(editor.delete("/api/file-sets/" + set).status()).isEqualTo(409);
        assertThat(editor.delete("/api/sources/" + files.source()).detail()).contains("file set");
        long free = files.add("free", definition("free.csv"));
        assertThat(editor.delete("/api/file-sets/" + free).status()).isEqualTo(204);
        assertThat(editor.get("/api/file-sets").ok().toString()).doesNotContain("\"free\"");
        assertThat(editor.get("/api/file-sets/" + free).status()).isEqualTo(404);
        long again = files.add("free", definition("free.csv"));
        assertThat(again).as("the name and the table are free again").isNotEqualTo(free);
    }

    private TestUser.Answer part(long source, String name, long from, String bytes) {
        return editor.send(
                "PUT",
                "/api/sources/" + source + "/uploads?name=" + name + "&from=" + from,
                bytes,
                "application/octet-stream");
    }

    @Test
    void aFileIsUploadedInPartsAndGoesOnWhereItStopped() {
        long source = editor.post("/api/sources", Map.of("name", "Uploads", "address", Map.of("kind", "upload")))
                .ok()
                .get("id")
                .asLong();
        assertThat(part(source, "a.csv", 0, "no,email\n1,").ok().get("arrived").asLong())
                .isEqualTo(11);
        assertThat(editor.get("/api/sources/" + source + "/uploads?name=a.csv")
                        .ok()
                        .get("arrived")
                        .asLong())
                .isEqualTo(11);
        assertThat(part(source, "a.csv", 5, "x").detail()).contains("11 bytes of a.csv have arrived");
        assertThat(editor.post("/api/sources/" + source + "/uploads", Map.of("name", "a.csv", "size", 99))
                        .detail())
                .contains("11 of 99 bytes");
        assertThat(editor.get("/api/file-sets/matches?source=" + source + "&pattern=*")
                        .ok()
                        .get("count")
                        .asInt())
                .as("half of it is no file")
                .isZero();
        part(source, "a.csv", 11, "ada@mail.example\n").ok();
        editor.post("/api/sources/" + source + "/uploads", Map.of("name", "a.csv", "size", 28))
                .ok();
        assertThat(editor.get("/api/file-sets/matches?source=" + source + "&pattern=*")
                        .ok()
                        .get("count")
                        .asInt())
                .isEqualTo(1);
        JsonNode seen = editor.post("/api/file-sets/sample", Map.of("sourceId", source, "pattern", "a.csv"))
                .ok();
        assertThat(seen.at("/rows/0/cells/1").asString()).isEqualTo("ada@mail.example");
        assertThat(server.journal("uploaded a file")).isNotEmpty();
        part(source, "a.csv", 0, "anew").ok();
        assertThat(part(source, "a.csv", 0, "again").ok().get("arrived").asLong())
                .isEqualTo(5);
        for (String name : List.of("..%2Fa.csv", ".hidden", "a.part", "%20", "a%5Cb")) {
            assertThat(part(source, name, 0, "x").status()).as(name).isEqualTo(422);
        }
        assertThat(part(files.source(), "a.csv", 0, "x").detail()).contains("sources of uploads only");
        assertThat(server.user("VIEWER")
                        .send(
                                "PUT",
                                "/api/sources/" + source + "/uploads?name=b&from=0",
                                "x",
                                "application/octet-stream")
                        .status())
                .isEqualTo(403);
        assertThat(part(source, "big.csv", 0, "x".repeat(10 << 20)).status()).isEqualTo(413);
    }
}

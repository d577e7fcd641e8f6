package remitto.server.fileset;

import static org.assertj.core.api.Assertions.assertThat;

import java.util.List;
import java.util.Map;
import java.util.Optional;
import org.junit.jupiter.api.AfterAll;
import org.junit.jupiter.api.BeforeAll;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.TestInstance;
import remitto.server.harness.TestFiles;
import remitto.server.harness.TestRoute;
import remitto.server.harness.TestServer;
import remitto.server.harness.TestUser;
import tools.jackson.databind.JsonNode;

/** From a file that somebody left to the value in a destination. */
@TestInstance(TestInstance.Lifecycle.PER_CLASS)
class FileRouteTest {
    private TestServer server;
    private TestUser editor;
    private TestRoute routes;

    @BeforeAll
    void start() {
        server = TestServer.start();
        editor = server.user("EDITOR");
        routes = new TestRoute(server, editor);
    }

    @AfterAll
    void stop() {
        server.close();
    }

    private long dataset(long source, String name, Map<String, Object> query) {
        long id = editor.post(
                        "/api/datasets",
                        Map.of(
                                "name",
                                name,
                                "description",
                                "",
                                "sourceId",
                                source,
                                "basedOn",
                                0,
                                "definition",
                                Map.of(
                                        "query",
                                        query,
                                        "columns",
                                        TestRoute.definition("").get("columns"))))
                .ok()
                .get("id")
                .asLong();
        editor.post("/api/datasets/" + id + "/in-service", Map.of("version", 1)).ok();
        return id;
    }

    private static Map<String, Object> table(String name) {
        return Map.of("kind", "table", "schema", "landed", "table", name, "columns", List.of("id", "town", "email"));
    }

    private static Map<String, Object> sql(String text) {
        return Map.of("kind", "sql", "text", text);
    }

    private String there(int id) {
        return server.cluster()
                .text(
                        server.warehouse().database(),
                        "select coalesce(string_agg(town || ' ' || coalesce(email, 'no address'), ', '), 'nothing')"
                                + " from mail.recipients where id = " + id);
    }

    private static long count(JsonNode run, String verdict) {
        return run.get("counts").get(verdict).asLong();
    }

    @Test
    void rowsOfFilesArriveAndNobodyLeavesWhileOneIsHeld() {
        TestFiles files = new TestFiles(server, editor, "signups");
        files.put("all-1.csv", "id,town,email\n1,Lervik,ada@mail.example\n2,Vik,bo@mail.example\n3,Kai,\n");
        long set = files.add(
                "signups",
                TestFiles.definition("all-*.csv", TestFiles.NEWEST_IS_WHOLE, "id INTEGER", "town TEXT", "email TEXT"));
        files.read(set);
        JsonNode source = editor.get("/api/sources/" + files.source()).ok();
        assertThat(source.get("product").asString()).isEqualTo("Folder");
        assertThat(source.at("/report/schemas/0/tables/0/name").asString()).isEqualTo("signups");
        long dataset = dataset(files.source(), "Sign-ups", table("signups"));
        long route = routes.add(editor, "Sign-ups to tables", dataset, TestRoute.spec(Optional.empty()));
        assertThat(routes.run(route).get("state").asString()).isEqualTo("SENT");
        assertThat(there(1)).isEqualTo("Lervik ada@mail.example");
        assertThat(there(3)).isEqualTo("Kai no address");

        files.put("all-2.csv", "id,town,email\n1,Lervik,ada@new.example\ntwo,Vik,bo@mail.example\n");
        files.read(set);
        JsonNode second = routes.run(route);
        assertThat(count(second, "changed")).isEqualTo(1);
        assertThat(count(second, "removed"))
                .as("one of the missing may be the row that is held")
                .isZero();
        assertThat(count(second, "held")).isEqualTo(2);
        assertThat(there(1)).isEqualTo("Lervik ada@new.example");
        assertThat(there(2)).isEqualTo("Vik bo@mail.example");
        JsonNode lines = editor.get("/api/runs/" + second.get("id").asLong() + "/lines?verdict=HELD")
                .ok();
        assertThat(lines.toString()).contains("1 row of its files is held");

        files.put("all-3.csv", "id,town,email\n1,Lervik,ada@new.example\n2,Vik,bo@mail.example\n");
        files.read(set);
        JsonNode third = routes.run(route);
        assertThat(count(third, "removed")).isEqualTo(1);
        assertThat(there(3)).isEqualTo("nothing");
        assertThat(there(2)).isEqualTo("Vik bo@mail.example");
    }

    /** All that has landed is in one database, so that a query may join it. */
    @Test
    void aQueryOverSeveralFileSetsIsADataset() {
        TestFiles files = new TestFiles(server, editor, "crew");
        files.put("crew.csv", "id,port\n1,10\n2,20\n");
        files.put(
                "ports.jsonl",
                "{\"no\": 10, \"place\": {\"town\": \"Lervik\"}}\n{\"no\": 20, \"place\": {\"town\": \"Vik\"}}\n");
        files.read(files.add(
                "crew_list", TestFiles.definition("crew.csv", TestFiles.EACH_ADDS, "id INTEGER", "port INTEGER")));
        Map<String, Object> ports = TestFiles.definition("ports.jsonl", TestFiles.EACH_ADDS, "no INTEGER");
        ports.put("format", Map.of("kind", "json-lines"));
        ports.put(
                "columns",
                List.of(
                        Map.of("name", "no", "from", "no", "type", "INTEGER", "spelling", ""),
                        Map.of("name", "town", "from", "place.town", "type", "TEXT", "spelling", "")));
        files.read(files.add("ports", ports));
        String query = "select c.id, p.town, 'c' || c.id || '@crew.example' as email"
                + " from landed.crew_list c join landed.ports p on p.no = c.port";
        long dataset = dataset(files.source(), "Crew", sql(query));
        JsonNode preview = editor.post("/api/datasets/preview", Map.of("sourceId", files.source(), "query", sql(query)))
                .ok();
        assertThat(preview.at("/preview/rows").size()).isEqualTo(2);
        assertThat(preview.toString()).contains("Lervik", "c2@crew.example");
        assertThat(editor.get("/api/datasets/" + dataset + "/records?find=Vik")
                        .ok()
                        .toString())
                .contains("Vik")
                .contains("2");
        JsonNode fresh =
                editor.post("/api/datasets/" + dataset + "/freshness", Map.of()).ok();
        assertThat(fresh.at("/freshness/rows").asLong()).isEqualTo(2);
    }

    @Test
    void theLoginOfDatasetsReadsWhatLandedAndNothingElse() {
        TestFiles files = new TestFiles(server, editor, "only");
        files.put("a.csv", "id\n1\n");
        long set = files.add("only", TestFiles.definition("*.csv", TestFiles.EACH_ADDS, "id INTEGER"));
        files.read(set);
        for (String query : List.of(
                "select id from landing.set_" + set + "_1",
                "select id from landed_file",
                "select id from source",
                "delete from landed.only returning id")) {
            assertThat(editor.post("/api/datasets/preview", Map.of("sourceId", files.source(), "query", sql(query)))
                            .status())
                    .as(query)
                    .isGreaterThanOrEqualTo(400);
        }
        assertThat(editor.post(
                                "/api/datasets/preview",
                                Map.of("sourceId", files.source(), "query", sql("select id from landed.only")))
                        .status())
                .isEqualTo(200);
    }
}

package remitto.server.fileset;

import static org.assertj.core.api.Assertions.assertThat;

import java.util.List;
import java.util.Map;
import org.junit.jupiter.api.Test;
import org.springframework.jdbc.core.JdbcTemplate;
import org.springframework.transaction.support.TransactionTemplate;
import remitto.server.harness.TestFiles;
import remitto.server.harness.TestServer;
import remitto.server.harness.TestUser;

/** Rows that landed are ours, so that an erasure reaches them; the files that they came in are not. */
class ErasedRowsOfFilesTest {
    @Test
    void rowsOfAnErasedPersonGoByTheirAddressesAndByTheirKeys() {
        try (TestServer server = TestServer.start()) {
            TestUser editor = server.user("EDITOR");
            TestFiles files = new TestFiles(server, editor, "guests");
            files.put(
                    "a.csv",
                    "no,email,note\n1,Ada@Mail.example,\n2,bo@mail.example,ada@mail.example\n3,cy@mail.example,\nx,ADA@mail.example,\ny,di@mail.example,\n");
            long set = files.add(
                    "guests",
                    TestFiles.definition("*.csv", TestFiles.EACH_ADDS, "no INTEGER", "email TEXT", "note TEXT"));
            files.read(set);
            long dataset = editor.post(
                            "/api/datasets",
                            Map.of(
                                    "name",
                                    "Guests",
                                    "description",
                                    "",
                                    "sourceId",
                                    files.source(),
                                    "basedOn",
                                    0,
                                    "definition",
                                    Map.of(
                                            "query",
                                            Map.of(
                                                    "kind", "table",
                                                    "schema", "landed",
                                                    "table", "guests",
                                                    "columns", List.of("no", "email")),
                                            "columns",
                                            List.of(
                                                    Map.of("name", "no", "type", "INTEGER", "role", "KEY"),
                                                    Map.of(
                                                            "name", "email",
                                                            "type", "TEXT",
                                                            "role", "IDENTIFIER")))))
                    .ok()
                    .get("id")
                    .asLong();
            JdbcTemplate template = server.bean(JdbcTemplate.class);
            RowsOfErased rows = server.bean(RowsOfErased.class);
            server.bean(TransactionTemplate.class).executeWithoutResult(status -> {
                template.execute("create temp table gone_key (dataset_id bigint, key text) on commit drop");
                template.execute("create temp table gone_text (text text) on commit drop");
                template.update("insert into gone_key values (?, '3'), (?, '2')", dataset, dataset + 1);
                template.update("insert into gone_text values ('ada@mail.example')");
                assertThat(rows.unreached()).singleElement().satisfies(sentence -> assertThat(sentence)
                        .startsWith("Files of guests guests in source guests hold rows of the person."));
                assertThat(rows.forget()).containsEntry("rows of files", 3L).containsEntry("held rows of files", 1L);
                assertThat(rows.unreached()).isEmpty();
            });
            assertThat(files.text("select count(*) from landed.guests")).isEqualTo("0");
            assertThat(files.text("select string_agg(content, ' ') from held_file_row"))
                    .isEqualTo("y,di@mail.example,");
        }
    }

    @Test
    void nothingIsBroughtInWhileSomebodyIsErased() {
        try (TestServer server = TestServer.start()) {
            TestFiles files = new TestFiles(server, server.user("EDITOR"), "guests");
            long set = files.add("guests", TestFiles.definition("*.csv", TestFiles.EACH_ADDS, "no INTEGER"));
            String free = "select pg_try_advisory_lock(7041890, " + set + ")";
            server.bean(TransactionTemplate.class).executeWithoutResult(status -> {
                JdbcTemplate template = server.bean(JdbcTemplate.class);
                template.execute("create temp table gone_key (dataset_id bigint, key text) on commit drop");
                template.execute("create temp table gone_text (text text) on commit drop");
                server.bean(RowsOfErased.class).forget();
                assertThat(server.cluster().text(server.database(), free)).isEqualTo("f");
            });
            assertThat(server.cluster().text(server.database(), free)).isEqualTo("t");
        }
    }
}

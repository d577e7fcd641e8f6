package remitto.server.download;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import java.io.IOException;
import java.io.InputStream;
import java.net.http.HttpResponse;
import java.nio.charset.StandardCharsets;
import org.junit.jupiter.api.AfterAll;
import org.junit.jupiter.api.BeforeAll;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.TestInstance;
import remitto.server.harness.TestRoute;
import remitto.server.harness.TestServer;
import remitto.server.harness.TestUser;

/** A download is whole, or is seen not to be; what a spreadsheet would run is text in it. */
@TestInstance(TestInstance.Lifecycle.PER_CLASS)
class DownloadTest {
    private static final int RECORDS = 200_000;
    private static final String LINKS = "/api/people/links.csv";

    private TestServer server;
    private TestUser editor;

    @BeforeAll
    void start() {
        server = TestServer.start();
        editor = server.user("EDITOR");
        long dataset =
                new TestRoute(server, editor).dataset(editor, "=cmd|' /C calc'!A0", "select id from shop.customers");
        run("insert into identity_record (dataset_id, key, person_id, cells, search) select " + dataset
                + ", 'R' || n, n, '{}', '' from generate_series(1, " + RECORDS + ") n");
    }

    @AfterAll
    void stop() {
        server.close();
    }

    private void run(String sql) {
        server.cluster().run(server.database(), sql);
    }

    @Test
    void aWholeOneHasEveryRowAndNoFormula() throws IOException, InterruptedException {
        HttpResponse<InputStream> response = editor.stream(LINKS);
        String text = new String(response.body().readAllBytes(), StandardCharsets.UTF_8);
        assertThat(text.lines().count()).isEqualTo(RECORDS + 1L);
        assertThat(text).contains("\r\n7,'=cmd|' /C calc'!A0,R7\r\n").doesNotContain(",=cmd");
    }

    /** Its connection ends half-way, as it does when somebody restarts the database: the answer has no end, and the client is told. */
    @Test
    void oneThatEndsHalfWayIsSeenNotToBeWhole() throws Exception {
        HttpResponse<InputStream> response = editor.stream(LINKS);
        assertThat(response.statusCode()).isEqualTo(200);
        try (InputStream body = response.body()) {
            assertThat(body.readNBytes(2_000)).hasSize(2_000);
            run("select pg_terminate_backend(pid) from pg_stat_activity where datname = '" + server.database()
                    + "' and application_name = 'Remitto downloads' and state <> 'idle'");
            assertThatThrownBy(body::readAllBytes).isInstanceOf(IOException.class);
        }
        assertThat(editor.stream(LINKS).statusCode())
                .as("the next one begins on a fresh connection")
                .isEqualTo(200);
    }

    @Test
    void itIsForThoseWhoMayAndStandsInTheJournal() {
        assertThat(server.user("VIEWER").get(LINKS).status()).isEqualTo(403);
        assertThat(editor.get(LINKS).status()).isEqualTo(200);
        assertThat(server.journal("downloaded people")).isNotEmpty();
    }
}

package remitto.server.source;

import static org.assertj.core.api.Assertions.assertThat;

import java.util.List;
import java.util.Map;
import org.junit.jupiter.api.AfterAll;
import org.junit.jupiter.api.BeforeAll;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.TestInstance;
import remitto.server.harness.TestServer;
import remitto.server.harness.TestUser;

/** Rows of a source that would fill the memory end their query, with words, and nothing else. */
@TestInstance(TestInstance.Lifecycle.PER_CLASS)
class LargeRowsTest {
    private TestServer server;
    private TestUser editor;
    private long source;

    @BeforeAll
    void start() {
        server = TestServer.start();
        editor = server.user("EDITOR");
        source = server.warehouse().connect(editor, "Shop", "shop_reader");
    }

    @AfterAll
    void stop() {
        server.close();
    }

    private TestUser.Answer preview(String sql) {
        return editor.post(
                "/api/datasets/preview",
                Map.of("sourceId", source, "query", Map.of("kind", "sql", "text", sql), "columns", List.of()));
    }

    @Test
    void aCellThatDoesNotFitEndsItsQueryWithWords() {
        TestUser.Answer answer = preview("select repeat('x', 65000000) as large");
        assertThat(answer.status()).isEqualTo(422);
        assertThat(answer.detail()).contains("so large").contains("Leave large columns out");
        assertThat(preview("select 7 as seven")
                        .ok()
                        .get("preview")
                        .get("rows")
                        .get(0)
                        .get(0)
                        .asString())
                .isEqualTo("7");
    }

    @Test
    void rowsThatDoNotFitTogetherDoNeither() {
        assertThat(preview("select repeat('x', 1000000) as large from generate_series(1, 80)")
                        .status())
                .isEqualTo(422);
    }

    @Test
    void whatFitsComesWhole() {
        assertThat(preview("select repeat('x', 900000) as large, 'end' as last")
                        .ok()
                        .get("preview")
                        .get("rows")
                        .get(0)
                        .get(1)
                        .asString())
                .isEqualTo("end");
    }
}

package remitto.server.asker;

import static org.assertj.core.api.Assertions.assertThat;

import java.net.http.HttpResponse;
import java.time.Duration;
import java.util.List;
import java.util.Map;
import java.util.concurrent.CompletableFuture;
import java.util.concurrent.TimeUnit;
import org.junit.jupiter.api.AfterAll;
import org.junit.jupiter.api.BeforeAll;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.TestInstance;
import remitto.server.harness.TestServer;
import remitto.server.harness.TestUser;

/** Closing the page ends what was asked of the warehouse and of our own database; whoever waits gets the answer. */
@TestInstance(TestInstance.Lifecycle.PER_CLASS)
class AskerHasGoneTest {
    private static final String FOR_HOURS =
            "select count(*) as a, 'for hours' as b from generate_series(1, 1000000) x, generate_series(1, 1000000) y";
    /** Well under the time limits that would end the queries anyhow. */
    private static final Duration PATIENCE = Duration.ofSeconds(20);

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

    private Map<String, Object> preview(String sql) {
        return Map.of("sourceId", source, "query", Map.of("kind", "sql", "text", sql), "columns", List.of());
    }

    private boolean running(String database) {
        return !server.cluster()
                .text(
                        "postgres",
                        "select count(*) from pg_stat_activity where state = 'active' and datname = '" + database
                                + "' and query like '%for hours%' and pid <> pg_backend_pid()")
                .equals("0");
    }

    private boolean becomes(String database, boolean wanted) throws InterruptedException {
        long until = System.nanoTime() + PATIENCE.toNanos();
        while (running(database) != wanted && System.nanoTime() < until) {
            Thread.sleep(100);
        }
        return running(database) == wanted;
    }

    private void endsWithItsAsker(String database, String path, Object body) throws InterruptedException {
        CompletableFuture<HttpResponse<String>> asking = editor.asking(path, body);
        assertThat(becomes(database, true)).as("it began").isTrue();
        assertThat(asking.isDone()).isFalse();
        asking.cancel(true);
        assertThat(becomes(database, false)).as("it ended").isTrue();
    }

    @Test
    void aQueryOfTheWarehouseEndsWithItsAsker() throws InterruptedException {
        endsWithItsAsker(server.warehouse().database(), "/api/datasets/preview", preview(FOR_HOURS));
    }

    @Test
    void aQueryOfOurOwnDatabaseEndsWithItsAsker() throws InterruptedException {
        Map<String, Object> condition = Map.of(
                "entityType",
                "PERSON",
                "exact",
                true,
                "spec",
                Map.of(
                        "condition",
                        Map.of("kind", "everyone"),
                        "sql",
                        FOR_HOURS.replace("count(*) as a, 'for hours' as b", "count(*) as person_id")
                                + " where 'for hours' <> ''",
                        "zone",
                        "Europe/Oslo",
                        "controlGroup",
                        Map.of("percent", 0, "seed", "s")));
        endsWithItsAsker(server.database(), "/api/conditions/count", condition);
    }

    @Test
    void whoeverWaitsGetsTheAnswer() throws Exception {
        CompletableFuture<HttpResponse<String>> asking =
                editor.asking("/api/datasets/preview", preview("select 7 as seven from pg_sleep(4)"));
        HttpResponse<String> answer = asking.get(60, TimeUnit.SECONDS);
        assertThat(answer.statusCode()).isEqualTo(200);
        assertThat(answer.body()).contains("\"7\"");
    }
}

package remitto.server.run.life;

import static org.assertj.core.api.Assertions.assertThat;

import java.sql.SQLException;
import java.util.Map;
import java.util.Optional;
import org.junit.jupiter.api.AfterEach;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;
import remitto.server.harness.SilentTool;
import remitto.server.harness.TestRoute;
import remitto.server.harness.TestServer;
import remitto.server.harness.TestUser;
import tools.jackson.databind.JsonNode;

/** Somebody ends a run that is under way: what is in flight ends, nothing more begins, and nothing is lost of it. */
class CancelTest {
    private static final int ROWS = 6_000;

    private TestServer server;
    private TestUser editor;
    private TestRoute shop;
    private long route;
    private SilentTool tool;

    @BeforeEach
    void start() {
        server = TestServer.start();
        editor = server.user("EDITOR");
        server.warehouse().customers(ROWS);
        shop = new TestRoute(server, editor);
        tool = new SilentTool(server, "mail.recipients");
        route = shop.add(editor, "Recipients", TestRoute.spec(Optional.empty()));
    }

    @AfterEach
    void stop() {
        server.close();
    }

    private TestUser.Answer cancel(TestUser who, long run) {
        return who.post("/api/runs/" + run + "/cancel", Map.of());
    }

    private long begin() {
        return editor.post("/api/routes/" + route + "/runs", Map.of())
                .ok()
                .get("runId")
                .asLong();
    }

    private long written() {
        return Long.parseLong(server.warehouse().text("select count(*) from mail.recipients"));
    }

    @Test
    void whileItIsPreparedNothingIsKeptOfIt() throws SQLException {
        long[] run = new long[1];
        tool.during(() -> {
            run[0] = begin();
            tool.awaitAsked();
            assertThat(cancel(server.user("VIEWER"), run[0]).status()).isEqualTo(403);
            cancel(editor, run[0]).ok();
            cancel(editor, run[0]).ok();
        });
        JsonNode ended = shop.await(run[0]);
        assertThat(ended.get("state").asString()).isEqualTo("CANCELLED");
        assertThat(ended.get("message").asString()).isEqualTo("Cancelled while it was prepared; nothing was sent");
        assertThat(written()).isZero();
        assertThat(server.cluster()
                        .text(server.database(), "select count(*) from manifest_line where run_id = " + run[0]))
                .isEqualTo("0");
        assertThat(cancel(editor, run[0]).status()).as("it is over").isEqualTo(409);
        JsonNode next = shop.prepare(route);
        assertThat(next.get("counts").get("added").asLong()).isEqualTo(ROWS);
        assertThat(server.journal("cancelled run")).hasSize(2);
    }

    @Test
    void whileItIsSentTheRestIsThereForTheNextManifest() throws SQLException {
        long run = shop.prepare(route).get("id").asLong();
        assertThat(cancel(editor, run).status())
                .as("it waits, and is discarded instead")
                .isEqualTo(409);
        tool.during(() -> {
            editor.post("/api/runs/" + run + "/send", Map.of()).ok();
            tool.awaitAsked();
            cancel(editor, run).ok();
        });
        JsonNode ended = shop.await(run);
        assertThat(ended.get("state").asString()).isEqualTo("CANCELLED");
        assertThat(ended.get("message").asString()).isEqualTo("Cancelled; the calls in flight were finished");
        long there = written();
        assertThat(there).as("calls in flight").isPositive().isLessThan(ROWS);
        assertThat(ended.get("outcomes").get("ACKNOWLEDGED").asLong()).isEqualTo(there);
        assertThat(ended.get("outcomes").get("CANCELLED").asLong()).isEqualTo(ROWS - there);

        JsonNode rest = shop.run(route);
        assertThat(rest.get("counts").get("added").asLong()).isEqualTo(ROWS - there);
        assertThat(rest.get("state").asString()).isEqualTo("SENT");
        assertThat(written()).isEqualTo(ROWS);
    }
}

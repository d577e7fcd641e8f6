package remitto.server.run.life;

import static org.assertj.core.api.Assertions.assertThat;

import java.sql.SQLException;
import java.time.Duration;
import java.util.Map;
import java.util.Optional;
import java.util.concurrent.atomic.AtomicLong;
import java.util.function.LongConsumer;
import org.junit.jupiter.api.AfterEach;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;
import remitto.server.harness.Awaited;
import remitto.server.harness.SilentTool;
import remitto.server.harness.TestRoute;
import remitto.server.harness.TestServer;
import remitto.server.harness.TestUser;
import remitto.server.run.Progress;
import tools.jackson.databind.JsonNode;

/** A process whose run was taken over makes no more calls, and closes nothing of what is another's now. */
class LostLeaseTest {
    private static final int ROWS = 6_000;

    private TestServer server;
    private TestUser editor;
    private TestRoute shop;
    private SilentTool tool;

    @BeforeEach
    void start() {
        server = TestServer.start();
        editor = server.user("EDITOR");
        server.warehouse().customers(ROWS);
        shop = new TestRoute(server, editor);
        tool = new SilentTool(server, "mail.recipients");
    }

    @AfterEach
    void stop() {
        server.close();
    }

    private long written() {
        return Long.parseLong(server.warehouse().text("select count(*) from mail.recipients"));
    }

    private String run(long id) {
        return server.cluster().text(server.database(), "select state || ' ' || owner from run where id = " + id);
    }

    @Test
    void aRunThatIsAnothersIsLeftAlone() throws SQLException {
        long route = shop.add(editor, "Recipients", TestRoute.spec(Optional.empty()));
        long id = shop.prepare(route).get("id").asLong();
        tool.during(() -> {
            editor.post("/api/runs/" + id + "/send", Map.of()).ok();
            Awaited.until("a call is open", () -> !server.cluster()
                    .text(server.database(), "select count(*) from open_call where run_id = " + id)
                    .equals("0"));
            takeOver(id);
            Progress progress = server.bean(RunKeeper.class).progress(id).orElseThrow();
            Awaited.until("the run is told to end", progress::isToStop);
        });
        Awaited.until(
                "nobody here works on the run",
                () -> server.bean(RunKeeper.class).progress(id).isEmpty());
        assertThat(run(id)).as("it is not closed by the process that lost it").isEqualTo("SENDING another process");
        assertThat(written()).as("calls in flight end, and no other is made").isLessThan(ROWS / 2);
    }

    /** It is nobody's wish that it ends, so it is not cancelled: another process has it at once. */
    @Test
    void aServerThatEndsLeavesTheRestToAnother() throws SQLException, InterruptedException {
        long route = shop.add(editor, "Recipients", TestRoute.spec(Optional.empty()));
        long id = shop.prepare(route).get("id").asLong();
        Thread end = new Thread(server.bean(RunKeeper.class)::end);
        tool.during(() -> {
            editor.post("/api/runs/" + id + "/send", Map.of()).ok();
            Awaited.until("a call is open", () -> !server.cluster()
                    .text(server.database(), "select count(*) from open_call where run_id = " + id)
                    .equals("0"));
            Progress progress = server.bean(RunKeeper.class).progress(id).orElseThrow();
            end.start();
            Awaited.until("the run is told to end", progress::isToStop);
        });
        end.join();
        assertThat(server.cluster()
                        .text(
                                server.database(),
                                "select state || ' ' || (beat_at < now() - interval '1 year') from run where id = "
                                        + id))
                .isEqualTo("SENDING true");
        assertThat(written()).as("what was in flight").isLessThan(ROWS / 2);
    }

    /** Another process takes it over, and is heard of for as long as the test goes on. */
    private void takeOver(long run) {
        server.cluster()
                .run(
                        server.database(),
                        "update run set owner = 'another process', epoch = epoch + 1, beat_at = beat_at + interval '1 day' where id = "
                                + run);
    }

    /** Begins to draw a route up, and lets something happen before any of its records is written down. @return the run */
    private long whileItLooksRecordsUp(long route, LongConsumer happens) throws SQLException {
        AtomicLong run = new AtomicLong();
        tool.during(() -> {
            run.set(editor.post("/api/routes/" + route + "/runs", Map.of())
                    .ok()
                    .get("runId")
                    .asLong());
            tool.awaitAsked();
            happens.accept(run.get());
        });
        return run.get();
    }

    private String records(long route) {
        return server.cluster().text(server.database(), "select count(*) from route_record where route_id = " + route);
    }

    /** What it goes on to write would stand in the way of whoever draws the route up by then. */
    @Test
    void whatIsDrawnUpAfterItIsAnothersIsNotWrittenDown() throws SQLException {
        long route = shop.add(editor, "Recipients", TestRoute.spec(Optional.empty()));
        long id = whileItLooksRecordsUp(route, this::takeOver);
        Awaited.until(
                "nobody here works on the run",
                () -> server.bean(RunKeeper.class).progress(id).isEmpty());
        assertThat(run(id)).isEqualTo("PREPARING another process");
        assertThat(records(route)).as("records of the route").isEqualTo("0");
        assertThat(server.cluster().text(server.database(), "select count(*) from manifest_line where run_id = " + id))
                .as("lines")
                .isEqualTo("0");
    }

    /** As if a process that was cut off had written its last chunk down after the other began. */
    @Test
    void whoMeetsWhatTheLastOneStillWroteBeginsAgain() throws SQLException {
        long route = shop.add(editor, "Recipients", TestRoute.spec(Optional.empty()));
        long id = whileItLooksRecordsUp(route, run -> server.cluster()
                .run(
                        server.database(),
                        "insert into route_record (route_id, ordinal, key_high, key_low, source_key, label) values ("
                                + route + ", 1, 4711, 4711, 'of the last one', '')"));
        assertThat(shop.await(id).get("state").asString()).isEqualTo("INTERRUPTED");
        long next = Awaited.value(
                "it is prepared again",
                () -> editor.get("/api/runs?routeId=" + route)
                        .ok()
                        .get("runs")
                        .get(0)
                        .get("id")
                        .asLong(),
                newest -> newest != id);
        JsonNode again = shop.await(next);
        assertThat(again.get("state").asString()).isEqualTo("READY");
        assertThat(again.get("counts").get("added").asLong()).isEqualTo(ROWS);
    }

    @Test
    void aHoldEndsByTheClockThatOnlyGoesForward() {
        Progress progress = new Progress();
        assertThat(progress.isHeld()).isTrue();
        progress.heldUntil(System.nanoTime() - 1);
        assertThat(progress.isHeld()).isFalse();
        progress.heldUntil(System.nanoTime() + Duration.ofSeconds(5).toNanos());
        assertThat(progress.isHeld()).isTrue();
    }
}

package remitto.e2e;

import static org.assertj.core.api.Assertions.assertThat;

import java.io.IOException;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.concurrent.TimeUnit;
import org.junit.jupiter.api.AfterEach;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;
import remitto.demo.history.Api;
import remitto.demo.history.Scenario;
import tools.jackson.databind.JsonNode;

/** Invariant 2: the server, a process of its own here, is killed in the middle of a run and started again. */
class KillTest {
    private Stack stack;
    private int port;
    private final List<ServerProcess> processes = new ArrayList<>();

    @BeforeEach
    void start() throws Exception {
        stack = Stack.withoutServer(2_500);
        port = Berth.port();
    }

    @AfterEach
    void stop() throws Exception {
        processes.forEach(ServerProcess::kill);
        stack.close();
    }

    private Api server() throws IOException, InterruptedException {
        ServerProcess process = ServerProcess.start(stack, port);
        processes.add(process);
        return process.api();
    }

    private void kill() {
        processes.get(processes.size() - 1).kill();
    }

    @Test
    void aRunThatWasBeingSentIsFinishedWithNothingLostOrDoubled() throws Exception {
        Api api = server();
        Scenario.Ids ids = new Scenario(api).setUp(stack.places());
        long run = api.post("/api/routes/" + ids.passes() + "/runs", Map.of())
                .get("runId")
                .asLong();
        long added = api.await(run).get("counts").get("added").asLong();
        assertThat(added).isGreaterThan(800);
        stack.desk.faults("[{\"fault\":\"latency\",\"on\":\"batch\",\"share\":1,\"millis\":350}]");
        api.post("/api/runs/" + run + "/send", Map.of());
        while (new WriteLog(stack.folder).effects("contact").isEmpty()) {
            TimeUnit.MILLISECONDS.sleep(5);
        }
        kill();
        stack.desk.faults("[]");
        JsonNode done = server().await(run);
        assertThat(done.get("state").asString()).isEqualTo("SENT");
        assertThat(done.get("outcomes").get("ACKNOWLEDGED").asLong()).isEqualTo(added);
        assertThat(new WriteLog(stack.folder).effects("contact"))
                .as("lost none")
                .hasSize((int) added);
        stack.assertNothingDoubled();
    }

    @Test
    void aManifestThatWasBeingDrawnUpIsClosedAndDrawnUpAgainAndNothingWasSent() throws Exception {
        Api api = server();
        Scenario.Ids ids = new Scenario(api).setUp(stack.places());
        stack.desk.faults("[{\"fault\":\"latency\",\"on\":\"find\",\"share\":1,\"millis\":1500}]");
        long run = api.post("/api/routes/" + ids.passes() + "/runs", Map.of())
                .get("runId")
                .asLong();
        kill();
        stack.desk.faults("[]");
        Api again = server();
        JsonNode closed = again.await(run);
        assertThat(closed.get("state").asString()).isEqualTo("INTERRUPTED");
        assertThat(closed.get("message").asString()).contains("nothing was sent");
        assertThat(new WriteLog(stack.folder).effects("contact")).isEmpty();
        JsonNode next = again.until("/api/runs?routeId=" + ids.passes(), page -> {
                    JsonNode newest = page.get("runs").get(0);
                    return newest.get("id").asLong() > run
                            && !newest.get("state").asString().equals("PREPARING");
                })
                .get("runs")
                .get(0);
        assertThat(next.get("state").asString()).isEqualTo("READY");
        assertThat(next.get("trigger").asString()).isEqualTo("HAND");
    }
}

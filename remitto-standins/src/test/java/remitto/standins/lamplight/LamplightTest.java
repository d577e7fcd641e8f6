package remitto.standins.lamplight;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;
import static remitto.standins.StandInClient.json;

import java.io.IOException;
import java.net.http.HttpResponse;
import java.nio.file.Path;
import java.util.Collections;
import org.junit.jupiter.api.AfterEach;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import remitto.standins.StandInClient;

class LamplightTest {
    private static final String HASH = "0123456789abcdef".repeat(4);

    @TempDir
    private Path folder;

    private Lamplight lamplight;
    private StandInClient client;

    @BeforeEach
    void start() {
        lamplight = Lamplight.start(0, folder.resolve("lamplight.jsonl"));
        client = new StandInClient(lamplight.port());
    }

    @AfterEach
    void stop() {
        lamplight.close();
    }

    private HttpResponse<String> submit(String body) throws Exception {
        return call("POST", "/ads/lists/commuters/jobs", body);
    }

    private HttpResponse<String> call(String method, String path, String body)
            throws IOException, InterruptedException {
        return client.call(method, path, body, "X-Lamp-Key", Lamplight.KEY);
    }

    private static String adding(String... hashes) {
        return "{\"do\":\"add\",\"members\":[{\"hash\":\"" + String.join("\"},{\"hash\":\"", hashes) + "\"}]}";
    }

    @Test
    void aJobIsWorkedOnBeforeItTellsWhatBecameOfEachMember() throws Exception {
        HttpResponse<String> queued = submit(adding(HASH, "ada@halvorn.example"));
        String job = "/ads/jobs/" + json(queued).path("job").asString();

        assertThat(queued.statusCode()).isEqualTo(202);
        assertThat(json(call("GET", job, "")).path("state").asString()).isEqualTo("working");
        var done = json(call("GET", job, ""));
        assertThat(done.path("state").asString()).isEqualTo("done");
        assertThat(done.path("taken").asInt()).isEqualTo(1);
        assertThat(done.at("/results/0/outcome").asString()).isEqualTo("on");
        assertThat(done.at("/results/1/outcome").asString()).isEqualTo("refused");
        assertThat(done.at("/results/1/problems/0/message").asString()).isNotEmpty();
    }

    @Test
    void aListThatIsMadeStaysAndIsCalledAsItWasAskedFor() throws Exception {
        HttpResponse<String> made = call("POST", "/ads/lists", "{\"name\":\"Night <boats>\"}");
        assertThat(made.statusCode()).isEqualTo(201);
        String id = json(made).path("id").asString();
        assertThat(call("POST", "/ads/lists", "{\"name\":\"Night <boats>\"}").statusCode())
                .isEqualTo(409);
        assertThat(call("POST", "/ads/lists", "{\"name\":\"night <boats>\"}").statusCode())
                .as("another name, to the letter")
                .isEqualTo(201);
        assertThat(call("POST", "/ads/lists", "{\"name\":\" x\"}").statusCode()).isEqualTo(422);
        assertThat(call("POST", "/ads/lists/" + id + "/jobs", adding(HASH)).statusCode())
                .isEqualTo(202);
        stop();
        start();
        assertThat(call("GET", "/ads/lists", "").body()).contains("\"Night <boats>\"");
        assertThat(json(client.call("GET", "/control/lists/" + id, "")).size()).isEqualTo(1);
        assertThat(client.call("GET", "/", "").body())
                .contains("Night &lt;boats&gt;")
                .doesNotContain("<boats>");
    }

    @Test
    void membersStayAcrossARestart() throws Exception {
        submit(adding(HASH));
        stop();
        start();

        assertThat(json(client.call("GET", "/control/lists/commuters", "")).toString())
                .contains(HASH);
    }

    @Test
    void whatCannotBeTakenIsToldAndChangesNothing() throws Exception {
        assertThat(submit("{nonsense").statusCode()).isEqualTo(400);
        assertThat(submit("{\"do\":\"rename\",\"members\":[]}").statusCode()).isEqualTo(400);
        assertThat(submit(adding(Collections.nCopies(501, HASH).toArray(String[]::new)))
                        .statusCode())
                .isEqualTo(413);
        assertThat(call("POST", "/ads/lists/nowhere/jobs", adding(HASH)).statusCode())
                .isEqualTo(404);
        assertThat(call("GET", "/ads/jobs/none", "").statusCode()).isEqualTo(404);
        assertThat(client.call("POST", "/ads/lists/commuters/jobs", adding(HASH), "X-Lamp-Key", "guess")
                        .statusCode())
                .isEqualTo(401);

        assertThat(json(client.call("GET", "/control/jobs", ""))).isEmpty();
    }

    @Test
    void aCallWhoseAnswerIsLostWasDoneAndItsKeyIsNotDoneAgain() throws Exception {
        client.call("PUT", "/control/faults", "[{\"fault\":\"drop-after\",\"next\":1}]");

        assertThatThrownBy(() -> keyed("crossing-1")).isInstanceOf(IOException.class);
        assertThat(keyed("crossing-1").statusCode()).isEqualTo(202);

        assertThat(json(client.call("GET", "/control/jobs", ""))).hasSize(1);
    }

    @Test
    void inPartEveryOtherMemberIsRefusedAndTheRestIsOn() throws Exception {
        client.call("PUT", "/control/faults", "[{\"fault\":\"partial\",\"next\":1}]");

        String job = "/ads/jobs/"
                + json(submit(adding("a".repeat(64), "b".repeat(64), "c".repeat(64))))
                        .path("job")
                        .asString();
        call("GET", job, "");
        var done = json(call("GET", job, ""));

        assertThat(done.path("taken").asInt()).isEqualTo(2);
        assertThat(done.at("/results/1/outcome").asString()).isEqualTo("refused");
        assertThat(json(client.call("GET", "/control/lists/commuters", ""))).hasSize(2);
    }

    @Test
    void faultsCanBeSetOnThePageAndOnlyThoseItHas() throws Exception {
        client.call(
                "POST", "/faults", "server-error.next=1&limit=on", "Content-Type", "application/x-www-form-urlencoded");
        assertThat(client.call("GET", "/faults", "").body())
                .contains("aria-label=\"server-error next\" value=\"1\"", "60 calls in 6 seconds")
                .doesNotContain("expired-token");
        assertThat(call("GET", "/ads/me", "").statusCode()).isEqualTo(500);
        assertThat(call("GET", "/ads/me", "").statusCode()).isEqualTo(200);
        assertThat(client.call("GET", "/calls", "").body()).contains("GET /ads/me", "<td>500</td>");

        var unknown = client.call("PUT", "/control/faults", "[{\"fault\":\"expired-token\",\"next\":1}]");
        assertThat(unknown.statusCode()).isEqualTo(400);
        assertThat(unknown.body()).contains("expired-token");
    }

    private HttpResponse<String> keyed(String key) throws IOException, InterruptedException {
        return client.call(
                "POST", "/ads/lists/commuters/jobs", adding(HASH), "X-Lamp-Key", Lamplight.KEY, "Once-Key", key);
    }
}

package remitto.standins.gangway;

import static org.assertj.core.api.Assertions.assertThat;
import static remitto.standins.StandInClient.json;

import java.net.http.HttpResponse;
import java.nio.file.Path;
import org.junit.jupiter.api.AfterEach;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import remitto.standins.StandInClient;

class GangwayTest {
    @TempDir
    private Path folder;

    private Gangway gangway;
    private StandInClient client;

    @BeforeEach
    void start() {
        gangway = Gangway.start(0, folder.resolve("gangway.jsonl"));
        client = new StandInClient(gangway.port());
    }

    @AfterEach
    void stop() {
        gangway.close();
    }

    private HttpResponse<String> call(String method, String path, String body) throws Exception {
        return client.call(method, path, body, "Gangway-Pass", Gangway.PASS);
    }

    private String said(String method, String path, String body, String pointer) throws Exception {
        return json(call(method, path, body)).at(pointer).asString();
    }

    @Test
    void rowsAreMadeKeptAndDroppedAndStayAcrossARestart() throws Exception {
        String no = said(
                "POST",
                "/g/user/fresh",
                "{\"rows\":[{\"slots\":{\"handle\":\"P-1\",\"given\":\"Ada\"}}]}",
                "/told/0/no");
        assertThat(said("POST", "/g/user/fresh", "{\"rows\":[{\"slots\":{\"handle\":\"P-1\"}}]}", "/told/0/said"))
                .isEqualTo("clash");
        assertThat(said(
                        "PATCH",
                        "/g/user/known",
                        "{\"rows\":[{\"no\":\"" + no + "\",\"slots\":{\"given\":\"Runa\"}}]}",
                        "/told/0/said"))
                .isEqualTo("kept");
        stop();
        start();
        assertThat(said("POST", "/g/user/seek", "{\"slot\":\"handle\",\"any\":[\"P-1\"]}", "/hits/0/slots/given"))
                .isEqualTo("Runa");
        assertThat(said("POST", "/g/user/drop", "{\"rows\":[\"" + no + "\"]}", "/told/0/said"))
                .isEqualTo("dropped");
        assertThat(said("POST", "/g/user/drop", "{\"rows\":[\"" + no + "\"]}", "/told/0/said"))
                .isEqualTo("gone");
        assertThat(said("PATCH", "/g/user/known", "{\"rows\":[{\"no\":\"" + no + "\",\"slots\":{}}]}", "/told/0/said"))
                .isEqualTo("gone");
    }

    @Test
    void whatDoesNotFitIsRefusedRowByRow() throws Exception {
        var told = json(call(
                        "POST",
                        "/g/user/fresh",
                        "{\"rows\":[{\"slots\":{\"handle\":\"A\",\"crossings\":\"many\"}},{\"slots\":{\"given\":\"No handle\"}},"
                                + "{\"slots\":{\"handle\":\"B\",\"nowhere\":1}},{\"slots\":{\"handle\":\"C\"}}]}"))
                .path("told");
        assertThat(told.at("/0/faults/0/text").asString()).isEqualTo("Crossings takes number");
        assertThat(told.at("/1/faults/0/text").asString()).isEqualTo("Handle is missing");
        assertThat(told.at("/2/faults/0/text").asString()).isEqualTo("there is no slot nowhere");
        assertThat(told.at("/3/said").asString()).isEqualTo("made");
        assertThat(call("GET", "/g/ship/slots", "").statusCode()).isEqualTo(404);
        assertThat(client.call("GET", "/g/desk", "").statusCode()).isEqualTo(401);
    }

    @Test
    void aSlotThatIsAddedOnThePageIsThereAtOnce() throws Exception {
        client.call(
                "POST",
                "/slots/user",
                "slot=favourite_line&label=Line&takes=words",
                "Content-Type",
                "application/x-www-form-urlencoded");
        assertThat(call("GET", "/g/user/slots", "").body()).contains("\"favourite_line\"");
        client.call(
                "POST",
                "/slots/user",
                "slot=Bad+Name&takes=words",
                "Content-Type",
                "application/x-www-form-urlencoded");
        assertThat(call("GET", "/g/user/slots", "").body()).doesNotContain("Bad");
    }
}

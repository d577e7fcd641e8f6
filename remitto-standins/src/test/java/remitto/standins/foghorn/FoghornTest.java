package remitto.standins.foghorn;

import static org.assertj.core.api.Assertions.assertThat;
import static remitto.standins.StandInClient.json;

import java.nio.file.Path;
import org.junit.jupiter.api.AfterEach;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import remitto.standins.StandInClient;

class FoghornTest {
    private static final String SAY = "/hooks/" + Foghorn.HOOK + "/say";

    @TempDir
    private Path folder;

    private Foghorn foghorn;
    private StandInClient client;

    @BeforeEach
    void start() {
        foghorn = Foghorn.start(0, folder.resolve("foghorn.jsonl"));
        client = new StandInClient(foghorn.port());
    }

    @AfterEach
    void stop() {
        foghorn.close();
    }

    private int say(String body) throws Exception {
        return client.call("POST", SAY, body).statusCode();
    }

    @Test
    void messagesAreKeptAcrossARestartWithTheTimeTheyCameAt() throws Exception {
        client.call("PUT", "/control/clock", "{\"at\":\"2026-03-01T06:00:00Z\"}");
        assertThat(say("{\"text\":\"The 6 o'clock crossing is full\"}")).isEqualTo(200);
        stop();
        start();

        var messages = json(client.call("GET", "/control/messages", ""));
        assertThat(messages).hasSize(1);
        assertThat(messages.at("/0/text").asString()).isEqualTo("The 6 o'clock crossing is full");
        assertThat(messages.at("/0/at").asString()).isEqualTo("2026-03-01T06:00:00Z");
    }

    @Test
    void whatIsNoMessageIsRefusedAndNotKept() throws Exception {
        assertThat(say("{\"text\":\"  \"}")).isEqualTo(422);
        assertThat(say("{\"text\":\"" + "x".repeat(501) + "\"}")).isEqualTo(422);
        assertThat(say("not json")).isEqualTo(400);
        assertThat(client.call("POST", "/hooks/guess/say", "{\"text\":\"hello\"}")
                        .statusCode())
                .isEqualTo(401);

        assertThat(json(client.call("GET", "/control/messages", ""))).isEmpty();
    }

    @Test
    void callsBeyondTheLimitAreToldWhenToComeAgain() throws Exception {
        int taken = 0;
        var last = client.call("POST", SAY, "{\"text\":\"hello\"}");
        while (last.statusCode() == 200 && taken < 100) {
            taken++;
            last = client.call("POST", SAY, "{\"text\":\"hello\"}");
        }

        assertThat(last.statusCode()).isEqualTo(429);
        assertThat(last.headers().firstValueAsLong("Retry-After").orElse(0)).isPositive();
        assertThat(json(client.call("GET", "/control/messages", ""))).hasSize(taken);
    }

    @Test
    void thePageShowsMessagesAsTextNotAsMarkup() throws Exception {
        say("{\"text\":\"<b>fog</b>\"}");

        assertThat(client.call("GET", "/", "").body())
                .contains("&lt;b&gt;fog&lt;/b&gt;")
                .doesNotContain("<b>fog");
    }
}

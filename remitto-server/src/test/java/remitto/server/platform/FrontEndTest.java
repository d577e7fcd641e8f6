package remitto.server.platform;

import static org.assertj.core.api.Assertions.assertThat;

import java.net.http.HttpResponse;
import java.util.Map;
import java.util.regex.Matcher;
import java.util.regex.Pattern;
import org.junit.jupiter.api.Test;
import remitto.server.harness.TestServer;

/** How the front end reaches the browser: its page asked for each time, all else once, below whatever path it stands. */
class FrontEndTest {
    private static final Pattern SCRIPT = Pattern.compile("src=\"\\./(assets/[^\"]+\\.js)\"");

    private static String cached(HttpResponse<String> answer) {
        return answer.headers().firstValue("Cache-Control").orElse("");
    }

    @Test
    void aBrowserKeepsScriptsForGoodAndAsksForThePageEachTime() throws Exception {
        try (TestServer server = TestServer.start()) {
            HttpResponse<String> page = server.stranger().opened("/routes/4", "text/html");
            assertThat(page.body()).contains("<base href=\"/\"");
            assertThat(cached(page)).contains("no-cache");
            Matcher script = SCRIPT.matcher(page.body());
            assertThat(script.find()).as(page.body()).isTrue();
            HttpResponse<String> answer = server.stranger().opened("/" + script.group(1), "*/*");
            assertThat(answer.statusCode()).isEqualTo(200);
            assertThat(cached(answer)).isEqualTo("max-age=31536000, public, immutable");
            HttpResponse<String> gone = server.stranger().opened("/assets/RoutePage-gone.js", "*/*");
            assertThat(gone.statusCode()).isEqualTo(404);
            assertThat(cached(gone)).as("what is not there may come").contains("no-store");
            assertThat(cached(server.stranger().opened("/api/session", "application/json")))
                    .as("what is about somebody")
                    .contains("no-store");
        }
    }

    @Test
    void belowAPathThePageSaysWhich() throws Exception {
        try (TestServer server = TestServer.start(Map.of("server.servlet.context-path", "/tools/remitto"))) {
            HttpResponse<String> page = server.stranger().opened("/tools/remitto/routes/4", "text/html");
            assertThat(page.body()).contains("<base href=\"/tools/remitto/\"");
            Matcher script = SCRIPT.matcher(page.body());
            assertThat(script.find()).isTrue();
            assertThat(server.stranger()
                            .opened("/tools/remitto/" + script.group(1), "*/*")
                            .statusCode())
                    .isEqualTo(200);
            assertThat(server.stranger().opened("/routes/4", "text/html").statusCode())
                    .isEqualTo(404);
        }
    }
}

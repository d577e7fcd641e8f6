package remitto.server.destination;

import static org.assertj.core.api.Assertions.assertThat;

import java.util.Map;
import org.junit.jupiter.api.Test;
import remitto.server.harness.TestServer;
import remitto.server.harness.TestUser;

/** Files of one destination are never within reach of another's. */
class FoldersApartTest {
    private static Map<String, Object> folder(String name, String folder) {
        return Map.of(
                "name", name, "profile", "file-folder", "limitsOff", false, "settings", Map.of("base_address", folder));
    }

    @Test
    void aFolderIsOneDestinationsAlone() {
        try (TestServer server = TestServer.start()) {
            TestUser editor = server.user("EDITOR");
            String first = editor.post("/api/destinations", folder("Guide", "hand-over/guide"))
                    .ok()
                    .get("id")
                    .asString();
            for (String taken :
                    new String[] {"hand-over/guide", "hand-over/guide/in", "hand-over", "", "x/../hand-over"}) {
                TestUser.Answer answer = editor.post("/api/destinations", folder("Second", taken));
                assertThat(answer.status()).as(taken).isEqualTo(422);
                assertThat(answer.detail()).contains("shared with destination Guide");
            }
            String second = editor.post("/api/destinations", folder("Second", "hand-over/guides"))
                    .ok()
                    .get("id")
                    .asString();
            assertThat(editor.put("/api/destinations/" + second, folder("Second", "hand-over/guide"))
                            .status())
                    .isEqualTo(422);
            assertThat(editor.put("/api/destinations/" + first, folder("Guide", "hand-over/guide"))
                            .status())
                    .as("its own folder is no other's")
                    .isEqualTo(200);
        }
    }
}

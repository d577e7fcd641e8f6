package remitto.server.profile;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import java.util.Map;
import org.junit.jupiter.api.Test;
import remitto.server.harness.TestServer;

/** An empty installation knows the kinds of destinations that anybody may have, and none that only the demo calls. */
class ShippedProfilesTest {
    @Test
    void theProfilesOfStandInsAreThereWhereTheyAreWanted() {
        try (TestServer empty = TestServer.start(Map.of("remitto.stand-ins", false))) {
            assertThat(profiles(empty))
                    .contains("webhook", "database-table", "file-drop", "file-folder")
                    .doesNotContain("purser-crm", "lamplight-ads", "foghorn-chat", "gangway-support", "postbag-mail");
        }
        try (TestServer demo = TestServer.start()) {
            assertThat(profiles(demo)).contains("webhook", "purser-crm", "postbag-mail");
        }
    }

    private static String profiles(TestServer server) {
        return server.user("EDITOR").get("/api/profiles").text();
    }

    @Test
    void anAdministratorWithoutAnAddressIsAFaultToldAtTheStart() {
        assertThatThrownBy(() -> TestServer.start(Map.of("remitto.administrator.email", "")))
                .hasStackTraceContaining("Set REMITTO_ADMIN_EMAIL");
    }
}

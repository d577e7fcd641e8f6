package remitto.server.access;

import static org.assertj.core.api.Assertions.assertThat;

import java.util.Map;
import org.junit.jupiter.api.AfterAll;
import org.junit.jupiter.api.BeforeAll;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.TestInstance;
import remitto.server.harness.TestServer;
import remitto.server.harness.TestUser;
import tools.jackson.databind.JsonNode;

/** How things are shown is each person's own choice, kept with the account. */
@TestInstance(TestInstance.Lifecycle.PER_CLASS)
class UserSettingsTest {
    private TestServer server;

    @BeforeAll
    void start() {
        server = TestServer.start();
    }

    @AfterAll
    void stop() {
        server.close();
    }

    @Test
    void withoutAChoiceTheBrowserDecides() {
        JsonNode settings =
                server.user("VIEWER", "plain").get("/api/session").ok().get("settings");
        assertThat(settings.get("theme").asString()).isEqualTo("SYSTEM");
        assertThat(settings.has("zone") && !settings.get("zone").isNull()).isFalse();
    }

    @Test
    void aChoiceHoldsInTheNextSessionAndForNobodyElse() {
        TestUser one = server.user("VIEWER", "settled");
        JsonNode changed = one.put("/api/session/settings", Map.of("zone", "Asia/Kolkata", "theme", "DARK"))
                .ok();
        assertThat(changed.get("settings").get("zone").asString()).isEqualTo("Asia/Kolkata");
        TestUser again = server.stranger();
        again.signIn("settled@quay.example", TestServer.PASSWORD).ok();
        JsonNode settings = again.get("/api/session").ok().get("settings");
        assertThat(settings.get("zone").asString()).isEqualTo("Asia/Kolkata");
        assertThat(settings.get("theme").asString()).isEqualTo("DARK");
        assertThat(server.user("VIEWER", "other")
                        .get("/api/session")
                        .ok()
                        .get("settings")
                        .get("theme")
                        .asString())
                .isEqualTo("SYSTEM");
        one.put("/api/session/settings", Map.of("theme", "LIGHT")).ok();
        JsonNode back = again.get("/api/session").ok().get("settings");
        assertThat(back.get("theme").asString()).isEqualTo("LIGHT");
        assertThat(back.has("zone") && !back.get("zone").isNull()).isFalse();
    }

    @Test
    void whatIsNoZoneOrThemeIsRefused() {
        TestUser one = server.user("VIEWER", "wrong");
        TestUser.Answer zone = one.put("/api/session/settings", Map.of("zone", "Europe/Tarva", "theme", "DARK"));
        assertThat(zone.status()).isEqualTo(422);
        assertThat(zone.detail()).contains("no time zone of that name");
        assertThat(one.put("/api/session/settings", Map.of("theme", "PINK")).status())
                .isEqualTo(400);
        assertThat(one.put("/api/session/settings", Map.of("zone", "UTC")).status())
                .isBetween(400, 422);
        assertThat(one.get("/api/session").ok().get("settings").get("theme").asString())
                .isEqualTo("SYSTEM");
        assertThat(server.stranger()
                        .put("/api/session/settings", Map.of("theme", "DARK"))
                        .status())
                .isIn(401, 403);
    }
}

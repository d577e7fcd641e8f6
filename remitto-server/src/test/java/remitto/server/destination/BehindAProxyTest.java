package remitto.server.destination;

import static org.assertj.core.api.Assertions.assertThat;

import java.net.URLDecoder;
import java.nio.charset.StandardCharsets;
import java.util.Map;
import org.junit.jupiter.api.AfterAll;
import org.junit.jupiter.api.BeforeAll;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.TestInstance;
import remitto.server.harness.TestServer;
import remitto.server.harness.TestUser;
import tools.jackson.databind.JsonNode;

/** A proxy stands before the server, so that what it is asked at is not where people are; and nothing private may be called unless it is listed. */
@TestInstance(TestInstance.Lifecycle.PER_CLASS)
class BehindAProxyTest {
    private TestServer server;
    private TestUser admin;

    @BeforeAll
    void start() {
        server = TestServer.start(Map.of(
                "remitto.public-address", "https://remitto.quay.example/", "remitto.outgoing-allowed", "127.0.0.1:9"));
        admin = server.admin();
    }

    @AfterAll
    void stop() {
        server.close();
    }

    private TestUser.Answer connect(String name, String address) {
        return admin.post(
                "/api/destinations",
                Map.of(
                        "name",
                        name,
                        "profile",
                        "purser-crm",
                        "limitsOff",
                        false,
                        "signIn",
                        "person",
                        "settings",
                        Map.of("base_address", address, "client_id", "c", "client_secret", "s")));
    }

    @Test
    void whoSignsInAtAToolComesBackToThePublicAddress() {
        long id = connect("Purser", "http://127.0.0.1:9").ok().get("id").asLong();
        String to = admin.post("/api/destinations/" + id + "/sign-in", Map.of())
                .ok()
                .get("address")
                .asString();
        assertThat(URLDecoder.decode(to, StandardCharsets.UTF_8))
                .contains("redirect_uri=https://remitto.quay.example/api/sign-in/back");
    }

    /** A browser sends it along when a tool sends the person back, but not with requests that other sites make. */
    @Test
    void theSessionSurvivesTheReturn() {
        TestUser fresh = server.stranger();
        TestUser.Answer signedIn = fresh.signIn("admin@quay.example", TestServer.PASSWORD);
        assertThat(signedIn.raw().headers().allValues("Set-Cookie"))
                .filteredOn(cookie -> cookie.startsWith("remitto="))
                .isNotEmpty()
                .allSatisfy(
                        cookie -> assertThat(cookie).contains("SameSite=Lax").contains("HttpOnly"));
    }

    @Test
    void notEvenThisMachineIsCalledUnlessItIsListed() {
        for (String address : new String[] {"http://127.0.0.1:10", "http://localhost:9", "http://[::1]:9"}) {
            JsonNode made = connect("At " + address, address).ok();
            assertThat(made.get("problem").asString()).as(address).contains("are not allowed");
        }
    }
}

package remitto.server.access;

import static org.assertj.core.api.Assertions.assertThat;

import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.nio.file.attribute.PosixFilePermissions;
import java.time.Duration;
import java.util.Map;
import org.junit.jupiter.api.AfterAll;
import org.junit.jupiter.api.BeforeAll;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.TestInstance;
import org.junit.jupiter.api.io.TempDir;
import remitto.server.harness.TestServer;
import remitto.server.harness.TestUser;

/** People make their own account by a link that works once. */
@TestInstance(TestInstance.Lifecycle.PER_CLASS)
class InvitationsTest {
    private static final String PASSWORD = "quay-lantern-77-otter";
    private static final String PATH = "/api/users/invitations";

    private TestServer server;
    private TestUser admin;

    @BeforeAll
    void start() {
        server = TestServer.start();
        admin = server.admin();
    }

    @AfterAll
    void stop() {
        server.close();
    }

    /** Somebody whose browser shows the page already, and so has its token against forged requests. */
    private static TestUser stranger(TestServer of) {
        TestUser nobody = of.stranger();
        nobody.get("/api/session").ok();
        return nobody;
    }

    private String invite(String email, String role) {
        return admin.post(PATH, Map.of("email", email, "role", role))
                .ok()
                .get("token")
                .asString();
    }

    private static Map<String, String> account(String email, String name) {
        return Map.of("email", email, "name", name, "password", PASSWORD);
    }

    @Test
    void whoeverFollowsALinkMakesTheAccountItIsForAndNoOther() {
        String token = invite("Nils@Quay.example", "EDITOR");
        TestUser nobody = stranger(server);
        assertThat(nobody.get("/api/welcome/" + token).ok().get("email").asString())
                .isEqualTo("nils@quay.example");
        assertThat(admin.get(PATH).ok().toString())
                .contains("nils@quay.example")
                .doesNotContain(token);

        nobody.post("/api/welcome/" + token, account("else@quay.example", "Nils Holm"))
                .ok();
        assertThat(nobody.signIn("else@quay.example", PASSWORD).status()).isEqualTo(401);
        assertThat(nobody.signIn("nils@quay.example", PASSWORD).status()).isEqualTo(200);
        assertThat(nobody.get("/api/session").ok().get("role").asString()).isEqualTo("EDITOR");

        assertThat(stranger(server).get("/api/welcome/" + token).status()).isEqualTo(404);
        TestUser.Answer again =
                stranger(server).post("/api/welcome/" + token, account("nils2@quay.example", "Nils again"));
        assertThat(again.status()).isEqualTo(404);
        assertThat(again.detail()).contains("Ask for a new one");
        assertThat(admin.get(PATH).ok().toString()).doesNotContain("nils@quay.example");
        assertThat(admin.get("/api/journal").text()).contains("invited user", "accepted invitation");
    }

    @Test
    void whatIsWrongWithTheAccountLeavesTheLinkAsItWas() {
        String token = invite("runa@quay.example", "VIEWER");
        TestUser nobody = stranger(server);
        assertThat(nobody.post("/api/welcome/" + token, Map.of("email", "", "name", "Runa", "password", "password1"))
                        .status())
                .isEqualTo(422);
        assertThat(nobody.post("/api/welcome/" + token, account("", "7")).status())
                .isEqualTo(422);
        nobody.post("/api/welcome/" + token, account("", "Runa Elise")).ok();
    }

    @Test
    void aLinkThatWasWithdrawnOrHasExpiredLeadsNowhere() {
        String token = invite("tone@quay.example", "VIEWER");
        long id = admin.get(PATH).ok().get(0).get("id").asLong();
        assertThat(admin.delete(PATH + "/" + id).status()).isEqualTo(204);
        assertThat(admin.delete(PATH + "/" + id).status()).isEqualTo(404);
        assertThat(stranger(server).get("/api/welcome/" + token).status()).isEqualTo(404);

        String late = invite("liv@quay.example", "VIEWER");
        server.cluster()
                .run(
                        server.database(),
                        "update invitation set expires_at = '2000-01-01' where email = 'liv@quay.example'");
        assertThat(stranger(server)
                        .post("/api/welcome/" + late, account("", "Liv"))
                        .status())
                .isEqualTo(404);
    }

    @Test
    void onlyAdministratorsInvite() {
        TestUser approver = server.user("APPROVER");
        assertThat(approver.get(PATH).status()).isEqualTo(403);
        assertThat(approver.post(PATH, Map.of("email", "x@quay.example", "role", "ADMIN"))
                        .status())
                .isEqualTo(403);
        assertThat(admin.post(PATH, Map.of("email", "no address", "role", "VIEWER"))
                        .status())
                .isEqualTo(422);
    }

    @Test
    void theFirstAdministratorOfAnEmptyInstallationComesByALink(@TempDir Path folder) throws IOException {
        Path file = folder.resolve("first.link");
        try (TestServer empty = TestServer.start(
                Map.of("remitto.administrator.password", "", "remitto.first-link-file", file.toString()))) {
            String path = Files.readString(file).strip();
            assertThat(path).matches("/welcome/[A-Za-z0-9_-]{43}");
            assertThat(PosixFilePermissions.toString(Files.getPosixFilePermissions(file)))
                    .isEqualTo("rw-------");
            TestUser nobody = stranger(empty);
            nobody.post("/api" + path, account("anna@company.example", "Anna")).ok();
            nobody.signIn("anna@company.example", PASSWORD);
            assertThat(nobody.get("/api/session").ok().get("role").asString()).isEqualTo("ADMIN");
        }
        assertThat(Invitations.LASTS).isEqualTo(Duration.ofDays(7));
    }
}

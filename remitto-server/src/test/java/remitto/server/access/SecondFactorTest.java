package remitto.server.access;

import static org.assertj.core.api.Assertions.assertThat;

import java.time.Duration;
import java.util.HashSet;
import java.util.Map;
import java.util.Set;
import org.apache.commons.codec.binary.Base32;
import org.junit.jupiter.api.AfterAll;
import org.junit.jupiter.api.BeforeAll;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.TestInstance;
import remitto.server.harness.TestServer;
import remitto.server.harness.TestUser;

/** Signing in with a second factor, and without the device that shows its codes. */
@TestInstance(TestInstance.Lifecycle.PER_CLASS)
class SecondFactorTest {
    private static final String PATH = "/api/session/second-factor";
    private static final Map<String, String> OWN = Map.of("password", TestServer.PASSWORD);

    private TestServer server;
    private int number;
    private String email = "";
    private TestUser user;

    @BeforeAll
    void start() {
        server = TestServer.start();
    }

    @AfterAll
    void stop() {
        server.close();
    }

    @BeforeEach
    void somebody() {
        number++;
        user = server.user("EDITOR", "factor" + number);
        email = "factor" + number + "@quay.example";
        // No code of one test is that of another's step.
        server.clock().forward(Duration.ofMinutes(5));
    }

    private byte[] begin() {
        return new Base32().decode(user.post(PATH, OWN).ok().get("secret").asString());
    }

    private String shown(byte[] secret) {
        return OneTimeCodes.USUAL.at(secret, server.clock().instant());
    }

    private byte[] on(Set<String> recovery) {
        byte[] secret = begin();
        user.post(PATH + "/confirm", Map.of("code", shown(secret)))
                .ok()
                .get("codes")
                .forEach(code -> recovery.add(code.asString()));
        server.clock().forward(Duration.ofMinutes(2));
        return secret;
    }

    private TestUser.Answer signIn(String code) {
        TestUser browser = server.stranger();
        browser.get("/api/session");
        return browser.post("/api/session", Map.of("email", email, "password", TestServer.PASSWORD, "code", code));
    }

    @Test
    void aCodeIsAskedForOnceItWasConfirmedAndCountsOnce() {
        byte[] secret = begin();
        assertThat(signIn("").status()).as("begun, not confirmed").isEqualTo(200);
        TestUser elsewhere = server.signedIn(email);
        assertThat(user.post(PATH + "/confirm", Map.of("code", "000 000")).status())
                .isEqualTo(422);
        assertThat(user.post(PATH + "/confirm", Map.of("code", shown(secret)))
                        .ok()
                        .get("codes"))
                .hasSize(10);
        assertThat(elsewhere.get("/api/session/all").status())
                .as("sessions from before end")
                .isEqualTo(401);
        assertThat(user.get(PATH).ok().get("recoveryCodesLeft").asInt()).isEqualTo(10);

        TestUser.Answer without = signIn("");
        assertThat(without.status()).isEqualTo(401);
        assertThat(without.json().get("details").get(0).get("where").asString()).isEqualTo("second-factor");
        assertThat(signIn(shown(secret)).status())
                .as("the code that confirmed is used up")
                .isEqualTo(401);
        server.clock().forward(Duration.ofSeconds(30));
        String code = shown(secret);
        assertThat(signIn(code.substring(0, 3) + " " + code.substring(3)).status())
                .isEqualTo(200);
        assertThat(signIn(code).detail()).contains("used before");
    }

    @Test
    void theSecretIsKeptSealedAndToldOnce() {
        String secret = user.post(PATH, OWN).ok().get("secret").asString();
        assertThat(user.post(PATH, Map.of("password", "wrong-lantern-77")).status())
                .isEqualTo(422);
        assertThat(server.cluster()
                        .text(
                                server.database(),
                                "select count(*) from second_factor where position('" + secret
                                        + "'::bytea in sealed) > 0"))
                .isEqualTo("0");
        String uri = user.post(PATH, OWN).ok().get("uri").asString();
        assertThat(uri)
                .startsWith("otpauth://totp/Remitto%3A")
                .contains("issuer=Remitto")
                .doesNotContain(secret);
        user.post(PATH + "/confirm", Map.of("code", shown(new Base32().decode(uri.replaceAll(".*secret=|&.*", "")))))
                .ok();
        assertThat(user.post(PATH, OWN).status()).as("on already").isEqualTo(409);
        assertThat(user.get(PATH).text()).doesNotContain("secret");
    }

    @Test
    void aRecoveryCodeLetsInOnce() {
        Set<String> codes = new HashSet<>();
        on(codes);
        assertThat(codes).hasSize(10).allMatch(code -> code.matches("[A-Z2-7]{4}(-[A-Z2-7]{4}){3}"));
        String one = codes.iterator().next();
        assertThat(signIn(one.toLowerCase(java.util.Locale.ROOT).replace("-", " "))
                        .status())
                .isEqualTo(200);
        assertThat(signIn(one).status()).isEqualTo(401);
        assertThat(user.get(PATH).ok().get("recoveryCodesLeft").asInt()).isEqualTo(9);
        Set<String> fresh = new HashSet<>();
        user.post(PATH + "/recovery-codes", OWN).ok().get("codes").forEach(code -> fresh.add(code.asString()));
        codes.remove(one);
        assertThat(signIn(codes.iterator().next()).status())
                .as("the former are void")
                .isEqualTo(401);
        assertThat(signIn(fresh.iterator().next()).status()).isEqualTo(200);
    }

    @Test
    void wrongCodesAreSlowedDownLikeWrongPasswords() {
        byte[] secret = on(new HashSet<>());
        for (int i = 0; i < 6; i++) {
            signIn("000000");
        }
        assertThat(signIn(shown(secret)).status()).isEqualTo(429);
        server.clock().forward(Duration.ofMinutes(20));
        assertThat(signIn(shown(secret)).status()).isEqualTo(200);
    }

    @Test
    void itIsTurnedOffByOneselfAndByAnAdministratorForWhoeverLostIt() {
        on(new HashSet<>());
        assertThat(user.post(PATH + "/off", Map.of("password", "wrong-lantern-77"))
                        .status())
                .isEqualTo(422);
        user.post(PATH + "/off", OWN).ok();
        assertThat(signIn("").status()).isEqualTo(200);

        on(new HashSet<>());
        long id = user.get("/api/session").ok().get("id").asLong();
        String reset = "/api/users/" + id + "/second-factor/reset";
        assertThat(user.post(reset, Map.of()).status()).isEqualTo(403);
        assertThat(server.admin().post(reset, Map.of()).status()).isEqualTo(204);
        assertThat(user.get("/api/session/all").status()).isEqualTo(401);
        assertThat(signIn("").status()).isEqualTo(200);
        assertThat(server.admin().post(reset, Map.of()).status()).isEqualTo(409);
        assertThat(server.admin().get("/api/journal").text())
                .contains("turned on second factor", "turned off second factor", "reset second factor");
    }

    @Test
    void nobodyConfirmsWhatWasNotBegun() {
        assertThat(user.post(PATH + "/confirm", Map.of("code", "123456")).status())
                .isEqualTo(409);
        assertThat(user.post(PATH + "/recovery-codes", OWN).status()).isEqualTo(409);
        assertThat(server.stranger().get(PATH).status()).isEqualTo(401);
    }

    @Test
    void onesOwnNameIsChanged() {
        String former = user.get("/api/session").ok().get("name").asString();
        assertThat(user.put("/api/session/name", Map.of("name", " Sunniva   Quay "))
                        .ok()
                        .get("name")
                        .asString())
                .isEqualTo("Sunniva Quay");
        assertThat(user.put("/api/session/name", Map.of("name", "7")).status()).isEqualTo(422);
        TestUser other = server.user("VIEWER", "other" + number);
        assertThat(other.put("/api/session/name", Map.of("name", "sunniva quay"))
                        .status())
                .isEqualTo(409);
        assertThat(server.admin().get("/api/journal").text()).contains("changed name from " + former);
    }
}

package remitto.server.openid;

import static org.assertj.core.api.Assertions.assertThat;

import com.nimbusds.jose.jwk.gen.RSAKeyGenerator;
import com.nimbusds.jwt.JWTClaimsSet;
import java.net.URI;
import java.time.Duration;
import java.time.Instant;
import java.util.Date;
import java.util.List;
import java.util.Map;
import java.util.function.UnaryOperator;
import org.junit.jupiter.api.AfterAll;
import org.junit.jupiter.api.BeforeAll;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.TestInstance;
import org.springframework.http.HttpHeaders;
import remitto.server.harness.TestServer;
import remitto.server.harness.TestUser;

/** People sign in at a sign-in server: accounts come with them, roles follow them, and what is not theirs is not taken. */
@TestInstance(TestInstance.Lifecycle.PER_CLASS)
class OpenIdSignInTest {
    private static final String PATH = "/api/session/open-id";
    private static final UnaryOperator<JWTClaimsSet.Builder> AS_IT_IS = UnaryOperator.identity();

    private TestSignInServer there;
    private TestServer server;

    @BeforeAll
    void start() throws Exception {
        there = new TestSignInServer();
        server = TestServer.start(there.settings());
    }

    @AfterAll
    void stop() {
        server.close();
        there.close();
    }

    private static TestSignInServer.Person person(String subject, String... roles) {
        return new TestSignInServer.Person(
                subject, subject + "@quay.example", true, subject + " of the quay", List.of(roles));
    }

    private TestUser browser() {
        TestUser browser = server.stranger();
        browser.get("/api/session").ok();
        return browser;
    }

    private static URI begin(TestUser browser, String to) {
        return URI.create(
                browser.post(PATH, Map.of("to", to)).ok().get("address").asString());
    }

    private static String location(TestUser.Answer answer) {
        assertThat(answer.status()).isEqualTo(303);
        return answer.raw().headers().firstValue(HttpHeaders.LOCATION).orElseThrow();
    }

    private String signIn(TestUser browser, TestSignInServer.Person person, UnaryOperator<JWTClaimsSet.Builder> told) {
        String back = there.signIn(begin(browser, "/routes?x=1"), person, told, there.key());
        return location(browser.get(PATH + "/back?" + back));
    }

    private void assertRefused(TestUser browser, String went, String words) {
        assertThat(went).isEqualTo("/sign-in");
        assertThat(browser.get("/api/session").ok().get("signedIn").asBoolean()).isFalse();
        assertThat(browser.get(PATH).ok().get("problem").asString()).contains(words);
        assertThat(browser.get(PATH).ok().get("problem").asString())
                .as("told once")
                .isEmpty();
    }

    @Test
    void whoeverComesFirstGetsAnAccountAndTheRoleThatIsTold() {
        TestUser browser = browser();
        assertThat(browser.get(PATH).ok().get("name").asString()).isEqualTo("Quay account");
        assertThat(signIn(browser, person("runa", "something", "quay-editors"), AS_IT_IS))
                .isEqualTo("/routes?x=1");
        assertThat(browser.get("/api/session").ok().get("role").asString()).isEqualTo("EDITOR");
        assertThat(browser.get("/api/session").ok().get("name").asString()).isEqualTo("runa of the quay");
        assertThat(server.admin().get("/api/journal").text()).contains("signed in by Quay account");

        TestUser later = browser();
        signIn(later, person("runa", "quay-all"), AS_IT_IS);
        assertThat(later.get("/api/session").ok().get("role").asString())
                .as("the role follows")
                .isEqualTo("VIEWER");
        assertThat(server.admin().get("/api/users").text().split("runa@quay.example"))
                .as("one account")
                .hasSize(2);
        assertThat(server.stranger()
                        .signIn("runa@quay.example", TestServer.PASSWORD)
                        .status())
                .as("there is no password")
                .isEqualTo(401);
    }

    @Test
    void whoeverOnlyBeginsIsNotKeptForLongerThanSigningInTakes() {
        String sql = "select count(*) from spring_session where max_inactive_interval > 600 and principal_name is null";
        String before = server.cluster().text(server.database(), sql);

        begin(browser(), "/");
        TestUser comesWrong = browser();
        assertThat(location(comesWrong.get(PATH + "/back?state=made-up&code=x")))
                .isEqualTo("/sign-in");

        assertThat(server.cluster().text(server.database(), sql)).isEqualTo(before);
        TestUser in = browser();
        signIn(in, person("stays", "quay-editors"), AS_IT_IS);
        assertThat(server.cluster()
                        .text(
                                server.database(),
                                "select count(*) from spring_session s where max_inactive_interval <= 600"
                                        + " and principal_name is not null"))
                .as("whoever is signed in stays as long as everybody")
                .isEqualTo("0");
    }

    @Test
    void whoeverHasNoRoleOrAnAccountThatIsSwitchedOffIsNotLetIn() {
        TestUser nobody = browser();
        assertRefused(nobody, signIn(nobody, person("guest", "visitors"), AS_IT_IS), "You have no role here");
        assertThat(server.admin().get("/api/users").text()).doesNotContain("guest@quay.example");

        TestUser one = browser();
        signIn(one, person("odd", "quay-editors"), AS_IT_IS);
        long id = one.get("/api/session").ok().get("id").asLong();
        server.admin().post("/api/users/" + id + "/deactivate", Map.of()).ok();
        TestUser again = browser();
        assertRefused(again, signIn(again, person("odd", "quay-editors"), AS_IT_IS), "deactivated");
    }

    @Test
    void anAccountWithThatAddressIsTakenOnlyWhereTheAddressIsVouchedFor() {
        server.user("VIEWER", "tone");
        TestUser thief = browser();
        TestSignInServer.Person unsure =
                new TestSignInServer.Person("thief", "tone@quay.example", false, "Tone", List.of("quay-editors"));
        assertRefused(thief, signIn(thief, unsure, AS_IT_IS), "does not vouch");
        TestUser tone = browser();
        signIn(tone, person("tone", "quay-editors"), AS_IT_IS);
        assertThat(tone.get("/api/session").ok().get("id").asLong()).isEqualTo(server.idOf("tone"));
    }

    @Test
    void aTokenForAnotherAnotherIssuerAnotherSignInOrAnotherKeyIsRefused() throws Exception {
        for (UnaryOperator<JWTClaimsSet.Builder> wrong : List.<UnaryOperator<JWTClaimsSet.Builder>>of(
                claims -> claims.audience("another-client"),
                claims -> claims.issuer("https://elsewhere.example"),
                claims -> claims.claim("nonce", "of-another-sign-in"))) {
            TestUser browser = browser();
            assertRefused(browser, signIn(browser, person("liv", "quay-editors"), wrong), "cannot be relied on");
        }
        TestUser browser = browser();
        String back = there.signIn(
                begin(browser, "/"),
                person("liv", "quay-editors"),
                AS_IT_IS,
                new RSAKeyGenerator(2048).keyID("first").generate());
        assertRefused(browser, location(browser.get(PATH + "/back?" + back)), "cannot be relied on");
    }

    /** A minute of difference is borne; five are told, with what to look at. */
    @Test
    void clocksMayDifferByAMinute() {
        TestUser late = browser();
        assertRefused(
                late,
                signIn(late, person("siv", "quay-editors"), claims -> expiring(claims, Duration.ofMinutes(-5))),
                "its clock");
        TestUser early = browser();
        assertRefused(
                early,
                signIn(
                        early,
                        person("siv", "quay-editors"),
                        claims -> claims.issueTime(Date.from(Instant.now().plus(Duration.ofMinutes(5))))),
                "its clock");
        TestUser near = browser();
        assertThat(signIn(near, person("siv", "quay-editors"), claims -> expiring(claims, Duration.ofSeconds(-20))))
                .isEqualTo("/routes?x=1");
    }

    private static JWTClaimsSet.Builder expiring(JWTClaimsSet.Builder claims, Duration from) {
        return claims.expirationTime(Date.from(Instant.now().plus(from)));
    }

    @Test
    void aSignInEndsOnceAndInTheBrowserThatBeganIt() {
        TestUser browser = browser();
        String back = there.signIn(begin(browser, "/"), person("kari", "quay-editors"), AS_IT_IS, there.key());
        TestUser other = browser();
        assertRefused(other, location(other.get(PATH + "/back?" + back)), "not begun in this browser");
        assertThat(location(browser.get(PATH + "/back?" + back))).isEqualTo("/");
        assertThat(location(browser.get(PATH + "/back?" + back)))
                .as("a second time")
                .isEqualTo("/sign-in");

        TestUser slow = browser();
        String late = there.signIn(begin(slow, "/"), person("kari", "quay-editors"), AS_IT_IS, there.key());
        server.clock().forward(Duration.ofMinutes(11));
        assertRefused(slow, location(slow.get(PATH + "/back?" + late)), "ten minutes");
        TestUser refused = browser();
        String state = TestSignInServer.query(begin(refused, "/").getRawQuery()).get("state");
        assertRefused(
                refused, location(refused.get(PATH + "/back?error=access_denied&state=" + state)), "refused there");
    }

    /** Nobody is led to another site by signing in here. */
    @Test
    void oneComesBackToThisInstallationAlone() {
        for (String to : List.of("https://elsewhere.example/", "//elsewhere.example", "/\\elsewhere.example", "")) {
            TestUser browser = browser();
            String back = there.signIn(begin(browser, to), person("ida", "quay-all"), AS_IT_IS, there.key());
            assertThat(location(browser.get(PATH + "/back?" + back))).as(to).isEqualTo("/");
        }
    }

    /** The request as RFC 7636 and OpenID Connect have it; its appendix B as a worked example. */
    @Test
    void theRequestCarriesAChallengeAndNoSecret() {
        assertThat(TestSignInServer.challenge("dBjftJeZ4CVP-mB92K27uhbUJU1p1r_wW1gFWFOEjXk"))
                .isEqualTo("E9Melhoa2OwvFrEMTJguCHaoeK1t8URWbuGJSstw-cM");
        Map<String, String> asked = TestSignInServer.query(begin(browser(), "/").getRawQuery());
        assertThat(asked)
                .containsEntry("response_type", "code")
                .containsEntry("client_id", TestSignInServer.CLIENT)
                .containsEntry("code_challenge_method", "S256")
                .containsKeys("state", "nonce", "code_challenge")
                .doesNotContainKey("code_verifier");
        assertThat(asked.get("scope")).contains("openid");
        assertThat(asked.get("redirect_uri")).endsWith("/api/session/open-id/back");
    }

    @Test
    void aSignInServerThatIsDownIsSaidAndPasswordsGoOn() throws Exception {
        TestSignInServer down = new TestSignInServer();
        Map<String, Object> settings = down.settings();
        down.close();
        try (TestServer alone = TestServer.start(settings)) {
            TestUser browser = alone.stranger();
            browser.get("/api/session");
            TestUser.Answer answer = browser.post(PATH, Map.of("to", "/"));
            assertThat(answer.status()).isEqualTo(503);
            assertThat(answer.detail()).contains("does not answer");
            assertThat(alone.user("VIEWER")
                            .get("/api/session")
                            .ok()
                            .get("signedIn")
                            .asBoolean())
                    .isTrue();
        }
    }

    @Test
    void passwordsAreSwitchedOff() {
        Map<String, Object> settings = there.settings();
        settings.put("remitto.open-id.local-accounts", false);
        try (TestServer closed = TestServer.start(settings)) {
            TestUser browser = closed.stranger();
            TestUser.Answer answer = browser.signIn("admin@quay.example", TestServer.PASSWORD);
            assertThat(answer.status()).isEqualTo(403);
            assertThat(answer.detail()).contains("sign-in server");
            assertThat(browser.get(PATH).ok().get("localAccounts").asBoolean()).isFalse();
        }
    }

    @Test
    void anInstallationWithoutOneHasNone() {
        try (TestServer plain = TestServer.start()) {
            TestUser browser = plain.stranger();
            browser.get("/api/session");
            assertThat(browser.get(PATH).text())
                    .isEqualTo("{\"available\":false,\"name\":\"\",\"localAccounts\":true,\"problem\":\"\"}");
            assertThat(browser.post(PATH, Map.of("to", "/")).status()).isEqualTo(409);
        }
    }
}

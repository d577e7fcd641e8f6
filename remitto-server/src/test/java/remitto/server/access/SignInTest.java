package remitto.server.access;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import io.micrometer.core.instrument.simple.SimpleMeterRegistry;
import java.nio.charset.StandardCharsets;
import java.time.Duration;
import java.util.Base64;
import java.util.Map;
import java.util.concurrent.atomic.AtomicInteger;
import org.junit.jupiter.api.AfterAll;
import org.junit.jupiter.api.BeforeAll;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.TestInstance;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;
import org.junit.jupiter.params.provider.ValueSource;
import org.springframework.http.HttpStatus;
import org.springframework.security.crypto.password.PasswordEncoder;
import remitto.server.harness.TestServer;
import remitto.server.harness.TestUser;
import remitto.server.journal.Journal;
import remitto.server.permission.Accounts;
import remitto.server.platform.Problem;
import tools.jackson.databind.JsonNode;

/** Passwords cannot be guessed at speed, sessions can be seen and ended, and who is switched off is out at once. */
@TestInstance(TestInstance.Lifecycle.PER_CLASS)
class SignInTest {
    private static final String WRONG = "not the password at all";

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
    void failuresLockForLongerAndLongerAndTheLockEndsByItself() {
        server.user("VIEWER", "locked");
        TestUser guesser = server.stranger();
        for (int i = 0; i < 5; i++) {
            assertThat(guesser.signIn("locked@quay.example", WRONG).status()).isEqualTo(401);
        }
        TestUser.Answer locked = guesser.signIn("locked@quay.example", TestServer.PASSWORD);
        assertThat(locked.status()).as("even the right one waits").isEqualTo(429);
        assertThat(locked.detail()).contains("too many failed sign-ins");
        server.clock().forward(Duration.ofSeconds(2));
        assertThat(guesser.signIn("locked@quay.example", WRONG).status()).isEqualTo(401);
        server.clock().forward(Duration.ofSeconds(1));
        assertThat(guesser.signIn("locked@quay.example", WRONG).status())
                .as("the second lock takes two seconds")
                .isEqualTo(429);
        server.clock().forward(Duration.ofSeconds(2));
        guesser.signIn("locked@quay.example", TestServer.PASSWORD).ok();
        assertThat(server.journal("failed to sign in").get(0).get("subject").asString())
                .isEqualTo("locked tester");
        assertThat(server.journal("locked sign-in").get(0).get("detail").asString())
                .contains("from 127.0.0.1 for 2 s");
    }

    /** A locked pair costs no hash, however often it is tried. */
    @Test
    void aLockedPairIsRefusedWithoutHashing() {
        server.user("VIEWER", "cheap");
        AtomicInteger hashed = new AtomicInteger();
        PasswordEncoder real = server.bean(PasswordEncoder.class);
        SignIns counted = new SignIns(
                server.bean(Users.class),
                server.bean(Accounts.class),
                new PasswordEncoder() {
                    @Override
                    public String encode(CharSequence password) {
                        return real.encode(password);
                    }

                    @Override
                    public boolean matches(CharSequence password, String hash) {
                        hashed.incrementAndGet();
                        return real.matches(password, hash);
                    }
                },
                server.bean(SignInLock.class),
                server.bean(SecondFactors.class),
                server.bean(Journal.class),
                new SimpleMeterRegistry(),
                "",
                true);
        for (int i = 0; i < 5; i++) {
            assertThatThrownBy(() -> counted.signIn("cheap@quay.example", WRONG, "", "10.0.0.9"))
                    .isInstanceOfSatisfying(Problem.class, problem -> assertThat(problem.status())
                            .isEqualTo(HttpStatus.UNAUTHORIZED));
        }
        assertThat(hashed).hasValue(5);
        for (int i = 0; i < 50; i++) {
            assertThatThrownBy(() -> counted.signIn("cheap@quay.example", WRONG, "", "10.0.0.9"))
                    .isInstanceOfSatisfying(Problem.class, problem -> assertThat(problem.status())
                            .isEqualTo(HttpStatus.TOO_MANY_REQUESTS));
        }
        assertThat(hashed).as("fifty more tries cost none").hasValue(5);
    }

    @Test
    void whatStrangersTypeIsNotKept() {
        server.stranger().signIn("my-secret-by-mistake@x.example", WRONG);
        assertThat(server.admin().get("/api/journal").text()).doesNotContain("my-secret-by-mistake");
        assertThat(server.journal("failed to sign in").get(0).get("subject").asString())
                .isEqualTo("unknown account");
    }

    @Test
    void aLargeBodyIsNotReadForASignIn() {
        TestUser stranger = server.stranger();
        stranger.get("/api/session");
        assertThat(stranger.post("/api/session", Map.of("email", "a@b.example", "password", "x".repeat(100_000)))
                        .status())
                .isEqualTo(413);
    }

    @Test
    void sessionsAreListedAndEnded() {
        TestUser one = server.user("EDITOR", "mover");
        TestUser other = server.signedIn("mover@quay.example");
        JsonNode sessions = one.get("/api/session/all").ok();
        assertThat(sessions).hasSize(2);
        JsonNode theOther = sessions.valueStream()
                .filter(session -> !session.get("mine").asBoolean())
                .findFirst()
                .orElseThrow();
        assertThat(theOther.get("address").asString()).isEqualTo("127.0.0.1");
        String cookie = other.sessionCookie();
        assertThat(cookie).hasSizeGreaterThan(20);
        assertThat(sessions.toString())
                .as("the id of a session opens it")
                .doesNotContain(cookie)
                .doesNotContain(new String(Base64.getDecoder().decode(cookie), StandardCharsets.UTF_8));
        assertThat(one.delete("/api/session/all/" + theOther.get("handle").asString())
                        .ok())
                .hasSize(1);
        assertThat(other.get("/api/routes").status()).isEqualTo(401);
        assertThat(one.get("/api/routes").status()).isEqualTo(200);
        assertThat(one.delete("/api/session/all/0000000000000000").status()).isEqualTo(404);
    }

    @Test
    void aSessionEndsAfterADayWhateverIsDoneInIt() {
        TestUser user = server.user("VIEWER", "longtime");
        for (int hour = 0; hour < 23; hour++) {
            server.clock().forward(Duration.ofHours(1));
            assertThat(user.get("/api/routes").status()).isEqualTo(200);
        }
        server.clock().forward(Duration.ofHours(2));
        assertThat(user.get("/api/routes").status()).isEqualTo(401);
        server.admin().signIn("admin@quay.example", TestServer.PASSWORD).ok();
    }

    @Test
    void whoIsDeactivatedIsOutAtOnceAndStaysOut() {
        TestUser user = server.user("EDITOR", "leaver");
        long id = server.idOf("leaver");
        server.admin().post("/api/users/" + id + "/deactivate", Map.of()).ok();
        assertThat(user.get("/api/routes").status()).isEqualTo(401);
        assertThat(server.stranger()
                        .signIn("leaver@quay.example", TestServer.PASSWORD)
                        .status())
                .isEqualTo(401);
        server.admin().post("/api/users/" + id + "/activate", Map.of()).ok();
        server.signedIn("leaver@quay.example");
    }

    @Test
    void aRoleThatWasTakenAwayIsGoneWithTheNextRequest() {
        TestUser user = server.user("ADMIN", "fallen");
        user.get("/api/users").ok();
        server.admin()
                .put(
                        "/api/users/" + server.idOf("fallen"),
                        Map.of("email", "fallen@quay.example", "name", "Fallen", "role", "VIEWER", "rights", Map.of()))
                .ok();
        assertThat(user.get("/api/users").status()).isEqualTo(403);
    }

    @Test
    void theLastAdministratorStays() {
        long id = server.idOf("admin");
        assertThat(server.admin()
                        .post("/api/users/" + id + "/deactivate", Map.of())
                        .status())
                .isEqualTo(409);
        assertThat(server.admin()
                        .put(
                                "/api/users/" + id,
                                Map.of(
                                        "email",
                                        "admin@quay.example",
                                        "name",
                                        "Administrator",
                                        "role",
                                        "EDITOR",
                                        "rights",
                                        Map.of()))
                        .status())
                .isEqualTo(409);
    }

    @Test
    void aPasswordIsChangedByWhoKnowsItAndOtherSessionsEnd() {
        TestUser user = server.user("EDITOR", "changer");
        TestUser elsewhere = server.signedIn("changer@quay.example");
        String fresh = "plover-anvil-62-thistle";
        assertThat(user.put("/api/session/password", Map.of("current", WRONG, "fresh", fresh))
                        .status())
                .isEqualTo(422);
        user.put("/api/session/password", Map.of("current", TestServer.PASSWORD, "fresh", fresh))
                .ok();
        assertThat(elsewhere.get("/api/routes").status()).isEqualTo(401);
        assertThat(user.get("/api/routes").status()).isEqualTo(200);
        server.stranger().signIn("changer@quay.example", fresh).ok();
        assertThat(server.journal("changed password")).isNotEmpty();
    }

    @ParameterizedTest
    @ValueSource(
            strings = {
                "short",
                "password123",
                "qwertyuiop",
                "1234567890",
                "changer2026",
                "aaaaaaaaaaaaaaaa",
                "Remitto2026"
            })
    void commonPasswordsAreRefused(String password) {
        TestUser.Answer answer = server.admin()
                .post(
                        "/api/users",
                        Map.of(
                                "email",
                                "weak@quay.example",
                                "name",
                                "Changer Weak",
                                "role",
                                "VIEWER",
                                "password",
                                password));
        assertThat(answer.status()).isEqualTo(422);
    }

    @ParameterizedTest
    @CsvSource(
            delimiter = ';',
            value = {
                "nobody; Name",
                "a@b; Name",
                "a b@c.example; Name",
                "ok@quay.example; ' '",
                "ok@quay.example; 123",
                "'x@y.example,z@y.example'; Name"
            })
    void addressesAndNamesAreValidated(String email, String name) {
        assertThat(server.admin()
                        .post(
                                "/api/users",
                                Map.of("email", email, "name", name, "role", "VIEWER", "password", TestServer.PASSWORD))
                        .status())
                .isEqualTo(422);
    }

    @Test
    void signingInAndOutIsInTheJournal() {
        TestUser user = server.user("VIEWER", "visitor");
        user.delete("/api/session");
        assertThat(user.get("/api/routes").status()).isEqualTo(401);
        assertThat(server.journal("signed in").stream()
                        .map(entry -> entry.get("actor").asString()))
                .contains("visitor tester");
        assertThat(server.journal("signed out").get(0).get("actor").asString()).isEqualTo("visitor tester");
    }
}

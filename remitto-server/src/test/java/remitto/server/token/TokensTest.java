package remitto.server.token;

import static org.assertj.core.api.Assertions.assertThat;

import java.math.BigDecimal;
import java.net.URI;
import java.net.http.HttpClient;
import java.net.http.HttpRequest;
import java.net.http.HttpResponse;
import java.time.Duration;
import java.time.Instant;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import org.junit.jupiter.api.AfterAll;
import org.junit.jupiter.api.BeforeAll;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.TestInstance;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.ValueSource;
import remitto.server.harness.TestProgram;
import remitto.server.harness.TestRoute;
import remitto.server.harness.TestServer;
import remitto.server.harness.TestUser;
import tools.jackson.databind.JsonNode;

/** Programs call the API by tokens, for what the scopes of each and what it is narrowed to allow, and no longer than that. */
@TestInstance(TestInstance.Lifecycle.PER_CLASS)
class TokensTest {
    private static final String PATH = "/api/service-accounts";

    private TestServer server;
    private TestUser admin;
    private TestRoute shop;
    private long account;

    @BeforeAll
    void start() {
        server = TestServer.start(Map.of("remitto.token-calls-per-minute", 200));
        admin = server.admin();
        shop = new TestRoute(server, admin);
        account = add("Nightly loader");
    }

    @AfterAll
    void stop() {
        server.close();
    }

    private long add(String name) {
        return admin.post(PATH, Map.of("name", name, "rights", List.of(), "active", true))
                .ok()
                .get("id")
                .asLong();
    }

    private static Map<String, Object> wanted(
            List<String> scopes, List<Long> routes, List<Long> destinations, Instant until) {
        return Map.of(
                "name",
                "Deploys",
                "scopes",
                scopes,
                "narrowing",
                Map.of("routeIds", routes, "destinationIds", destinations),
                "expiresAt",
                until.toString());
    }

    private Instant in(Duration time) {
        return server.clock().instant().plus(time);
    }

    private JsonNode make(String... scopes) {
        return narrowed(List.of(), List.of(), scopes);
    }

    private JsonNode narrowed(List<Long> routes, List<Long> destinations, String... scopes) {
        return admin.post(
                        PATH + "/" + account + "/tokens",
                        wanted(List.of(scopes), routes, destinations, in(Duration.ofDays(90))))
                .ok();
    }

    private TestProgram program(String... scopes) {
        return server.program(make(scopes).get("token").asString());
    }

    private long tokenId(JsonNode made) {
        return made.get("made").get("id").asLong();
    }

    @Test
    void aTokenIsToldOnceAndKeptAsAHash() {
        JsonNode made = make("READ");
        String token = made.get("token").asString();
        assertThat(token).matches("remitto_[A-Za-z0-9_-]{43}");
        assertThat(admin.get(PATH).text())
                .doesNotContain(token)
                .contains("\"tail\":\"" + token.substring(token.length() - 4) + "\"");
        assertThat(server.cluster()
                        .text(
                                server.database(),
                                "select count(*) from api_token t where t::text like '%" + token.substring(8) + "%'"))
                .isEqualTo("0");
        assertThat(admin.get("/api/journal").text()).contains("made token").doesNotContain(token);
    }

    @Test
    void eachScopeOpensItsOwnOperationsAndNoOther() {
        long route = shop.add(admin, "By token", TestRoute.spec(Optional.of(BigDecimal.TEN)));
        TestProgram reader = program("READ");
        assertThat(reader.get("/api/routes/" + route).status()).isEqualTo(200);
        TestUser.Answer refused = reader.post("/api/routes/" + route + "/runs", Map.of());
        assertThat(refused.status()).isEqualTo(403);
        assertThat(refused.detail()).isEqualTo("This operation needs the scope prepare. This token has read.");

        TestProgram preparer = program("PREPARE");
        long run = preparer.post("/api/routes/" + route + "/runs", Map.of())
                .ok()
                .get("runId")
                .asLong();
        assertThat(preparer.get("/api/runs/" + run).status())
                .as("no scope holds another")
                .isEqualTo(403);
        shop.await(run);
        assertThat(preparer.post("/api/runs/" + run + "/send", Map.of()).status())
                .isEqualTo(403);
        assertThat(program("SEND").post("/api/runs/" + run + "/send", Map.of()).status())
                .isEqualTo(200);
        shop.await(run);

        assertThat(program("READ", "PREPARE", "SEND", "APPROVE")
                        .put("/api/retention/RUN_EVENTS", Map.of())
                        .detail())
                .startsWith("This operation needs the scope administer.");
        assertThat(program("DEFINE")
                        .post("/api/runs/" + run + "/approve", Map.of())
                        .detail())
                .startsWith("This operation needs the scope approve.");
        assertThat(program("ADMINISTER").get(PATH).status()).isEqualTo(200);
    }

    @Test
    void whatAProgramDoesStandsInTheJournalUnderItsAccount() {
        long route = shop.add(admin, "Journalled", TestRoute.spec(Optional.of(BigDecimal.TEN)));
        program("DEFINE")
                .post("/api/routes/" + route + "/pause", Map.of("paused", true))
                .ok();
        assertThat(admin.get("/api/journal?find=Journalled").ok().toString()).contains("Nightly loader");
    }

    /** Nobody signs in to a service account, and no token does what is for people. */
    @ParameterizedTest
    @ValueSource(
            strings = {"PUT /api/session/settings", "POST /api/session", "GET /api/drafts", "GET /api/session/all"})
    void someOperationsAreForPeople(String operation) {
        String[] parts = operation.split(" ");
        TestProgram program = program("READ", "DEFINE", "ADMINISTER");
        TestUser.Answer answer =
                switch (parts[0]) {
                    case "GET" -> program.get(parts[1]);
                    case "PUT" -> program.put(parts[1], Map.of());
                    default -> program.post(parts[1], Map.of());
                };
        assertThat(answer.status()).isEqualTo(403);
        assertThat(answer.detail()).contains("No token may call it");
    }

    @Test
    void aNarrowedTokenReachesItsRoutesAndNothingBeside() {
        long mine = shop.add(admin, "Mine", TestRoute.spec(Optional.of(BigDecimal.TEN)));
        long other = shop.add(admin, "Other", TestRoute.spec(Optional.of(BigDecimal.TEN)));
        long run = shop.prepare(other).get("id").asLong();
        TestProgram one = server.program(narrowed(List.of(mine), List.of(), "READ", "PREPARE")
                .get("token")
                .asString());
        assertThat(one.get("/api/routes/" + mine).status()).isEqualTo(200);
        assertThat(one.get("/api/runs?routeId=" + mine).status()).isEqualTo(200);
        assertThat(one.get("/api/session").status()).isEqualTo(200);
        for (String path : List.of(
                "/api/routes/" + other,
                "/api/routes/" + other + "/versions",
                "/api/runs/" + run,
                "/api/runs/" + run + "/lines",
                "/api/runs?routeId=" + other,
                "/api/runs",
                "/api/runs/recent",
                "/api/routes",
                "/api/people",
                "/api/routes/99999999",
                "/api/routes/999999999999999999999999",
                "/api/destinations/" + shop.destination())) {
            assertThat(one.get(path).status()).as(path).isEqualTo(403);
        }
        TestProgram byDestination = server.program(narrowed(List.of(), List.of(shop.destination()), "READ")
                .get("token")
                .asString());
        assertThat(byDestination.get("/api/destinations/" + shop.destination()).status())
                .isEqualTo(200);
        assertThat(byDestination.get("/api/routes/" + other).status())
                .as("a route to it")
                .isEqualTo(200);
        assertThat(byDestination.get("/api/datasets").status()).isEqualTo(403);
    }

    @Test
    void aRevokedAnExpiredAndAForeignTokenAreRefusedAtOnce() {
        JsonNode made = make("READ");
        TestProgram program = server.program(made.get("token").asString());
        assertThat(program.get("/api/routes").status()).isEqualTo(200);
        admin.delete(PATH + "/" + account + "/tokens/" + tokenId(made)).ok();
        TestUser.Answer revoked = program.get("/api/routes");
        assertThat(revoked.status()).isEqualTo(401);
        assertThat(revoked.detail()).contains("was revoked");
        assertThat(revoked.raw().headers().firstValue("WWW-Authenticate"))
                .as("RFC 6750, section 3")
                .hasValue("Bearer error=\"invalid_token\"");
        assertThat(revoked.raw().headers().firstValue("Content-Type")).hasValue("application/problem+json");

        String brief = admin.post(
                        PATH + "/" + account + "/tokens",
                        wanted(List.of("READ"), List.of(), List.of(), in(Duration.ofMinutes(5))))
                .ok()
                .get("token")
                .asString();
        server.clock().forward(Duration.ofMinutes(5));
        assertThat(server.program(brief).get("/api/routes").detail()).contains("expired at");

        for (String foreign : List.of("remitto_" + "A".repeat(43), "nonsense", "", "x".repeat(5_000))) {
            TestUser.Answer answer = server.program(foreign).get("/api/routes");
            assertThat(answer.status()).as(foreign).isEqualTo(401);
        }
    }

    @Test
    void theAccountOfATokenIsSwitchedOffAndOnAgain() {
        long paused = add("Paused loader");
        String token = admin.post(
                        PATH + "/" + paused + "/tokens",
                        wanted(List.of("READ"), List.of(), List.of(), in(Duration.ofDays(1))))
                .ok()
                .get("token")
                .asString();
        admin.put(PATH + "/" + paused, Map.of("name", "Paused loader", "rights", List.of(), "active", false))
                .ok();
        assertThat(server.program(token).get("/api/routes").detail()).contains("deactivated");
        admin.put(PATH + "/" + paused, Map.of("name", "Back again", "rights", List.of(), "active", true))
                .ok();
        assertThat(server.program(token).get("/api/routes").status()).isEqualTo(200);
    }

    @Test
    void lastUseIsShown() {
        JsonNode made = make("READ");
        assertThat(made.get("made").has("lastUsedAt")).isFalse();
        server.program(made.get("token").asString()).get("/api/routes").ok();
        JsonNode token = admin.get(PATH)
                .ok()
                .valueStream()
                .flatMap(one -> one.get("tokens").valueStream())
                .filter(one -> one.get("id").asLong() == tokenId(made))
                .findFirst()
                .orElseThrow();
        assertThat(token.get("lastUsedAt").asString()).isNotBlank();
        assertThat(token.get("lastUsedFrom").asString()).isEqualTo("127.0.0.1");
    }

    /** Beyond what it may call in a minute, a token waits, and no other has to. */
    @Test
    void aTokenThatCallsTooOftenWaitsAlone() {
        TestProgram busy = program("READ");
        TestProgram calm = program("READ");
        TestUser.Answer answer = busy.get("/api/session");
        for (int i = 0; i < 400 && answer.status() == 200; i++) {
            answer = busy.get("/api/session");
        }
        assertThat(answer.status()).isEqualTo(429);
        assertThat(answer.raw().headers().firstValueAsLong("Retry-After")).hasValue(1);
        assertThat(answer.detail()).contains("200 times a minute");
        assertThat(calm.get("/api/session").status()).isEqualTo(200);
    }

    /** Values of people are masked for a program as for people, unless its account was given the right. */
    @Test
    void rightsOfTheAccountCount() {
        assertThat(program("READ").get("/api/session").ok().get("rights")).isEmpty();
        long seeing = admin.post(
                        PATH, Map.of("name", "Seeing", "rights", List.of("SEE_PERSONAL_VALUES"), "active", true))
                .ok()
                .get("id")
                .asLong();
        String token = admin.post(
                        PATH + "/" + seeing + "/tokens",
                        wanted(List.of("READ"), List.of(), List.of(), in(Duration.ofDays(1))))
                .ok()
                .get("token")
                .asString();
        assertThat(server.program(token).get("/api/session").ok().get("rights").toString())
                .isEqualTo("[\"SEE_PERSONAL_VALUES\"]");
    }

    @Test
    void whatIsWrongWithATokenThatIsWantedIsSaid() {
        String tokens = PATH + "/" + account + "/tokens";
        Instant soon = in(Duration.ofDays(1));
        assertThat(admin.post(tokens, wanted(List.of(), List.of(), List.of(), soon))
                        .detail())
                .contains("at least one scope");
        assertThat(admin.post(tokens, wanted(List.of("READ"), List.of(), List.of(), in(Duration.ofDays(400))))
                        .detail())
                .contains("within a year");
        assertThat(admin.post(tokens, wanted(List.of("READ"), List.of(), List.of(), in(Duration.ofDays(-1))))
                        .detail())
                .contains("after now");
        assertThat(admin.post(tokens, wanted(List.of("READ"), List.of(987_654L), List.of(), soon))
                        .detail())
                .isEqualTo("There is no route 987654.");
        assertThat(admin.post(tokens, wanted(List.of("ADMINISTER"), List.of(), List.of(shop.destination()), soon))
                        .detail())
                .contains("cannot be narrowed");
        assertThat(admin.post(PATH + "/99999/tokens", wanted(List.of("READ"), List.of(), List.of(), soon))
                        .status())
                .isEqualTo(404);
        assertThat(admin.post(PATH, Map.of("name", "nightly LOADER", "rights", List.of(), "active", true))
                        .status())
                .isEqualTo(409);
        assertThat(admin.post(PATH, Map.of("name", " 7 ", "rights", List.of(), "active", true))
                        .status())
                .isEqualTo(422);
    }

    @Test
    void onlyAdministratorsManageThemAndAServiceAccountIsNoUser() {
        TestUser approver = server.user("APPROVER", "no administrator");
        assertThat(approver.get(PATH).status()).isEqualTo(403);
        assertThat(approver.post(PATH, Map.of("name", "X", "rights", List.of(), "active", true))
                        .status())
                .isEqualTo(403);
        assertThat(admin.get("/api/users").text()).doesNotContain("Nightly loader");
        assertThat(admin.put(
                                "/api/users/" + account,
                                Map.of("email", "a@b.example", "name", "Nightly", "role", "ADMIN", "rights", Map.of()))
                        .status())
                .isEqualTo(404);
        assertThat(admin.put("/api/users/" + account + "/password", Map.of("password", TestServer.PASSWORD))
                        .status())
                .isEqualTo(404);
        assertThat(admin.get("/api/labels/colleagues").text()).doesNotContain("Nightly loader");
    }

    /** A token beside the session of somebody else: what the token may do counts, not what the person may. */
    @Test
    void aTokenIsWorthWhatItIsWorthWhateverCookiesComeWithIt() throws Exception {
        String token = make("READ").get("token").asString();
        HttpResponse<String> answer = HttpClient.newHttpClient()
                .send(
                        HttpRequest.newBuilder(URI.create(server.address() + PATH))
                                .header("Authorization", "bearer " + token)
                                .header("Cookie", "remitto=" + admin.sessionCookie())
                                .build(),
                        HttpResponse.BodyHandlers.ofString());
        assertThat(answer.statusCode()).isEqualTo(403);
        assertThat(answer.headers().allValues("Set-Cookie")).noneMatch(cookie -> cookie.startsWith("remitto="));
        assertThat(admin.get(PATH).status()).as("the session goes on").isEqualTo(200);
    }
}

package remitto.server.failure;

import static org.assertj.core.api.Assertions.assertThat;

import java.math.BigDecimal;
import java.net.http.HttpResponse;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import org.junit.jupiter.api.AfterAll;
import org.junit.jupiter.api.BeforeAll;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.TestInstance;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;
import org.junit.jupiter.params.provider.ValueSource;
import remitto.core.route.RouteSpec;
import remitto.server.harness.TestRoute;
import remitto.server.harness.TestServer;
import remitto.server.harness.TestUser;
import tools.jackson.databind.node.ObjectNode;

/** What is wrong is not accepted, and what is malformed is the asker's fault: told as a problem, without a class or a database's word. */
@TestInstance(TestInstance.Lifecycle.PER_CLASS)
class WhatIsWrongTest {
    private TestServer server;
    private TestUser editor;
    private TestRoute shop;
    private long route;

    @BeforeAll
    void start() {
        server = TestServer.start();
        editor = server.user("EDITOR");
        shop = new TestRoute(server, editor);
        route = shop.add(editor, "Recipients", TestRoute.spec(Optional.empty()));
    }

    @AfterAll
    void stop() {
        server.close();
    }

    private static void isProblem(TestUser.Answer answer, int status) {
        assertThat(answer.status()).as(answer.text()).isEqualTo(status);
        assertThat(answer.raw().headers().firstValue("Content-Type").orElse("")).startsWith("application/problem+json");
        assertThat(answer.json().get("code").asString()).isNotBlank();
        assertThat(answer.text())
                .doesNotContain("Exception")
                .doesNotContain("java.")
                .doesNotContain("remitto.server")
                .doesNotContain("springframework")
                .doesNotContain("PSQL");
    }

    private TestUser.Answer save(RouteSpec spec) {
        return editor.post(
                "/api/routes/" + route + "/versions",
                Map.of("name", "Recipients", "basedOn", 1, "note", "", "spec", spec));
    }

    @Test
    void aRouteWaitsNeitherForItselfNorForNoneNorInACircle() {
        isProblem(save(TestRoute.after(List.of(route))), 422);
        isProblem(save(TestRoute.after(List.of(999L))), 422);
        long recordPreview = shop.add(editor, "Follows", TestRoute.after(List.of(route)));
        TestUser.Answer circle = save(TestRoute.after(List.of(recordPreview)));
        isProblem(circle, 422);
        assertThat(circle.detail()).contains("both would wait for ever");
    }

    @ParameterizedTest
    @ValueSource(strings = {"-5", "101", "1e308", "0.000001"})
    void aGuardIsAShareThatThereIs(String percent) {
        isProblem(save(TestRoute.spec(Optional.of(new BigDecimal(percent)))), 422);
    }

    @Test
    void anAudienceIsNeitherWithinItselfNorWithinNoneNorWithoutItsControlGroup() {
        long one = audience("One", Map.of("kind", "everyone"))
                .ok()
                .get("audience")
                .get("id")
                .asLong();
        long two = audience("Two", Map.of("kind", "audience", "audience", one))
                .ok()
                .get("audience")
                .get("id")
                .asLong();
        for (long other : List.of(one, two, 999L)) {
            Map<String, Object> draft = new HashMap<>(draft("One", Map.of("kind", "audience", "audience", other)));
            draft.put("basedOn", 1);
            isProblem(editor.post("/api/audiences/" + one + "/versions", draft), 422);
        }
        Map<String, Object> without = new HashMap<>(draft("Three", Map.of("kind", "everyone")));
        without.put("spec", Map.of("condition", Map.of("kind", "everyone"), "sql", "", "zone", "Europe/Oslo"));
        TestUser.Answer answer = editor.post("/api/audiences", without);
        isProblem(answer, 400);
        assertThat(answer.detail()).contains("spec.controlGroup");
    }

    private TestUser.Answer audience(String name, Object condition) {
        return editor.post("/api/audiences", draft(name, condition));
    }

    private static Map<String, Object> draft(String name, Object condition) {
        return Map.of(
                "name",
                name,
                "description",
                "",
                "entityType",
                "PERSON",
                "basedOn",
                0,
                "spec",
                Map.of(
                        "condition",
                        condition,
                        "sql",
                        "",
                        "zone",
                        "Europe/Oslo",
                        "controlGroup",
                        Map.of("percent", 0, "seed", "s")));
    }

    @ParameterizedTest
    @CsvSource(
            delimiter = ';',
            value = {
                "POST; /api/routes; {; 400",
                "POST; /api/routes; []; 400",
                "POST; /api/routes; {}; 400",
                "POST; /api/routes; {\"name\": null}; 400",
                "POST; /api/datasets/preview; {\"sourceId\": \"x\"}; 400",
                "GET; /api/routes/notanumber; ''; 400",
                "GET; /api/routes/999999; ''; 404",
                "GET; /api/nothing/here; ''; 404",
                "PUT; /api/routes; {}; 405",
                "GET; /api/explain; ''; 400",
                "POST; /api/users; {}; 403"
            })
    void aMalformedRequestIsTheAskersFault(String method, String path, String body, int status) {
        isProblem(editor.send(method, path, body), status);
    }

    @ParameterizedTest
    @CsvSource({"block, -1", "block, 0", "records, 0", "share, -5", "emails, 2000000"})
    void matchRulesHaveLimitsThatCanBeKept(String limit, int value) {
        ObjectNode rules =
                (ObjectNode) editor.get("/api/people/rules").ok().get("rules").deepCopy();
        ((ObjectNode) rules.get("limits")).put(limit, value);
        TestUser.Answer answer =
                editor.post("/api/people/rules/versions", Map.of("basedOn", 0, "note", "", "rules", rules));
        isProblem(answer, 422);
        assertThat(answer.detail()).contains("is from 1 to 1000000");
    }

    @Test
    void anExampleSpeaksOfFieldsAndColumnsThatAreThere() {
        String path = "/api/routes/" + route + "/examples";
        isProblem(
                editor.post(
                        path, Map.of("name", "One", "cells", Map.of("id", "1"), "expected", Map.of("nothing", "x"))),
                422);
        isProblem(
                editor.post(
                        path, Map.of("name", "One", "cells", Map.of("nothing", "1"), "expected", Map.of("town", "x"))),
                422);
        editor.post(
                        path,
                        Map.of(
                                "name",
                                "One",
                                "cells",
                                Map.of("id", "1", "town", "Lervik"),
                                "expected",
                                Map.of("town", "Lervik")))
                .ok();
    }

    /** What our own types refuse is told in their words, wherever in the body it stands. */
    @Test
    void aGuardOfMatchingIsAShare() {
        TestUser.Answer answer = editor.put(
                "/api/people/plan",
                Map.of(
                        "guards",
                        Map.of("joined", 2, "split", 0.5, "gone", 0.9),
                        "schedule",
                        Map.of("kind", "by-hand", "zone", "Europe/Oslo")));
        isProblem(answer, 400);
        assertThat(answer.detail()).contains("share from 0 to 100 percent");
    }

    @Test
    void whoIsNotSignedInIsToldSo() {
        isProblem(server.stranger().get("/api/routes"), 401);
    }

    @Test
    void aBodyOfAnotherMediaTypeIsNotTaken() throws Exception {
        TestUser.Answer answer = editor.send("POST", "/api/routes", "{}", "text/plain");
        isProblem(answer, 415);
    }

    @Test
    void aBodyThatIsTooLargeIsNotRead() {
        TestUser.Answer answer = editor.send("POST", "/api/routes", "{\"name\": \"" + "x".repeat(3_000_000) + "\"}");
        isProblem(answer, 413);
    }

    /** A person who opens an address that leads nowhere gets the front end, which says so; a program gets a problem. */
    @ParameterizedTest
    @CsvSource({
        "/nowhere,             'text/html,*/*;q=0.8', true",
        "/routes-of-mine/7,    text/html,             true",
        "/nowhere,             application/json,      false",
        "/nowhere,             '*/*',                 false",
        "/api/nowhere,         text/html,             false",
        "/api/nowhere,         application/json,      false"
    })
    void anUnknownAddress(String path, String accepted, boolean page) throws Exception {
        HttpResponse<String> answer = editor.opened(path, accepted);
        assertThat(answer.statusCode()).isEqualTo(404);
        assertThat(answer.headers().firstValue("Content-Type").orElse(""))
                .startsWith(page ? "text/html" : "application/problem+json");
        if (page) {
            assertThat(answer.body()).contains("<title>Remitto</title>");
            assertThat(answer.headers().firstValue("Cache-Control")).contains("no-store");
        }
    }
}

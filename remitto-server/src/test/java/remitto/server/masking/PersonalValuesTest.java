package remitto.server.masking;

import static org.assertj.core.api.Assertions.assertThat;

import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.regex.Matcher;
import java.util.regex.Pattern;
import org.junit.jupiter.api.AfterAll;
import org.junit.jupiter.api.BeforeAll;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.TestInstance;
import remitto.core.fieldrule.FieldRule;
import remitto.core.fieldrule.Receives;
import remitto.server.harness.Awaited;
import remitto.server.harness.TestRoute;
import remitto.server.harness.TestServer;
import remitto.server.harness.TestUser;
import tools.jackson.databind.JsonNode;

/**
 * Values of people reach those only who may see them. Rather than asking the places that somebody thought of, every operation that reads is
 * asked as a viewer, and no answer may hold any value of the shop's customers.
 */
@TestInstance(TestInstance.Lifecycle.PER_CLASS)
class PersonalValuesTest {
    /** Names, addresses, phones and notes of the made-up customers. */
    private static final Pattern VALUES =
            Pattern.compile("Given\\d+|Familyname\\d+|person\\d+@mail\\.example|\\+?4790000\\d{3}|allergy number");

    private TestServer server;
    private TestUser editor;
    private TestUser viewer;
    private long people;
    private long route;
    private long person;
    private long run;

    @BeforeAll
    void peopleWhoWereMatchedSentAndHeld() {
        server = TestServer.start();
        editor = server.user("EDITOR");
        viewer = server.user("VIEWER");
        TestRoute shop = new TestRoute(server, editor);
        people = dataset(shop);
        editor.put(
                        "/api/people/sources/" + people,
                        Map.of(
                                "entityType",
                                "PERSON",
                                "columns",
                                List.of(
                                        tied("given_name", "given_name", "GIVEN_NAME"),
                                        tied("family_name", "family_name", "FAMILY_NAME"),
                                        tied("email", "email", "EMAIL"),
                                        tied("phone", "phone", "PHONE"),
                                        tied("health_note", "health_note", "TEXT")),
                                "country",
                                "NO",
                                "countryColumn",
                                ""))
                .ok();
        editor.post("/api/people/runs?entityType=PERSON", Map.of()).ok();
        Awaited.until("matching is over", () -> editor.get("/api/people/overview?entityType=PERSON")
                .ok()
                .get("latest")
                .has("finishedAt"));
        person = editor.get("/api/people?entityType=PERSON&find=familyname7")
                .ok()
                .get(0)
                .get("id")
                .asLong();
        server.warehouse().run("insert into mail.recipients values (3, 'Elsewhere', 'person3@mail.example')");
        route = shop.add(
                editor,
                "Recipients",
                TestRoute.spec(Optional.empty())
                        .rules(List.of(
                                FieldRule.of("id", new Receives.FromColumn("id")),
                                FieldRule.of("town", new Receives.FromColumn("town")),
                                FieldRule.of("email", new Receives.Computed("id == 5 ? [email][int(id)] : email")))));
        run = shop.run(route).get("id").asLong();
        server.warehouse()
                .run("update shop.customers set email = 'person900@mail.example', town = 'Given900' where id = 9");
        shop.prepare(route);
    }

    private static Map<String, Object> tied(String column, String attribute, String kind) {
        return Map.of("column", column, "attribute", attribute, "kind", kind, "beside", Map.of());
    }

    private long dataset(TestRoute shop) {
        return shop.dataset(
                editor,
                "Customers with names",
                "select id, given_name, family_name, email, phone, health_note from shop.customers",
                Map.of(
                        "id", "KEY",
                        "given_name", "ATTRIBUTE",
                        "family_name", "ATTRIBUTE",
                        "email", "IDENTIFIER",
                        "phone", "IDENTIFIER",
                        "health_note", "SENSITIVE"));
    }

    @AfterAll
    void stop() {
        server.close();
    }

    /** Paths of every operation that reads, with ids of things that are there. */
    private List<String> readingPaths() {
        List<String> paths = new ArrayList<>();
        JsonNode document = server.admin().get("/openapi.json").ok();
        document.get("paths").properties().forEach(path -> {
            if (path.getValue().has("get") && !path.getKey().contains("{handle}")) {
                List<String> filled = List.of(path.getKey());
                if (path.getKey().contains("{")) {
                    filled = List.of("1", "2", "3", Long.toString(person), Long.toString(run + 1)).stream()
                            .distinct()
                            .map(id -> path.getKey()
                                    .replace("{object}", "recipients")
                                    .replace("{profile}", "database-table")
                                    .replace("{datasetId}", Long.toString(people))
                                    .replaceAll("\\{[a-zA-Z]+}", id))
                            .toList();
                }
                filled.forEach(one -> paths.add(one + query(path.getValue().get("get"))));
            }
        });
        return paths;
    }

    private String query(JsonNode operation) {
        StringBuilder query = new StringBuilder();
        operation.path("parameters").forEach(parameter -> {
            if (parameter.get("in").asString().equals("query")) {
                String value =
                        switch (parameter.get("name").asString()) {
                            case "name" -> "family_name";
                            case "destinationId" -> "1";
                            case "object" -> "recipients";
                            case "remoteId", "key" -> "5";
                            case "field" -> "email";
                            case "routeId" -> Long.toString(route);
                            case "line" -> "1";
                            default -> "";
                        };
                if (!value.isEmpty()) {
                    query.append(query.isEmpty() ? "?" : "&")
                            .append(parameter.get("name").asString())
                            .append("=")
                            .append(value);
                }
            }
        });
        return query.toString();
    }

    @Test
    void noOperationThatReadsTellsAViewerAnyValueOfAPerson() {
        int read = 0;
        int values = 0;
        for (String path : readingPaths()) {
            if (path.contains("/events")) {
                continue;
            }
            TestUser.Answer told = editor.get(path);
            TestUser.Answer answer = viewer.get(path);
            Matcher leak = VALUES.matcher(answer.text());
            assertThat(leak.find()).as("%s: %s", path, excerpt(answer.text())).isFalse();
            read += answer.status() == 200 ? 1 : 0;
            values += VALUES.matcher(told.text()).find() ? 1 : 0;
        }
        assertThat(read).as("operations that answered the viewer").isGreaterThan(60);
        assertThat(values).as("answers that hold values for the editor").isGreaterThan(8);
    }

    private static String excerpt(String text) {
        Matcher found = VALUES.matcher(text);
        return found.find()
                ? text.substring(Math.max(0, found.start() - 120), Math.min(text.length(), found.end() + 60))
                : "";
    }

    @Test
    void workGoesOnWithKeyKindAndLastCharacters() {
        JsonNode seen = viewer.get("/api/people/" + person).ok();
        assertThat(seen.get("records").get(0).get("key").asString()).isEqualTo("7");
        assertThat(seen.get("records").get(0).get("cells").get("email").asString())
                .matches("e-mail …le #[0-9a-f]{4}");
        assertThat(viewer.get("/api/runs/" + run + "/lines").ok().toString()).contains("\"key\":\"7\"");
    }

    @Test
    void downloadingIsARightOfItsOwn() {
        List<String> downloads = List.of(
                "/api/runs/" + run + "/manifest.csv",
                "/api/runs/" + run + "/manifest.jsonl",
                "/api/held/held.csv",
                "/api/held/held.jsonl",
                "/api/people/people.csv",
                "/api/people/people.jsonl",
                "/api/people/links.csv",
                "/api/people/links.jsonl",
                "/api/people/" + person + "/file.json");
        for (String path : downloads) {
            assertThat(viewer.get(path).status()).as("viewer, %s", path).isEqualTo(403);
            assertThat(editor.get(path).status()).as("editor, %s", path).isEqualTo(200);
        }
        assertThat(server.journal("downloaded people")).hasSize(4);
        TestUser looker = server.user("EDITOR", "looker");
        change("looker", "EDITOR", Map.of("DOWNLOAD_PERSONAL_VALUES", false));
        assertThat(looker.get("/api/people/" + person).text()).contains("person7@mail.example");
        for (String path : downloads) {
            assertThat(looker.get(path).status())
                    .as("editor without the right, %s", path)
                    .isEqualTo(403);
        }
    }

    @Test
    void aRightIsGivenToASingleUserOrToARole() {
        TestUser trusted = server.user("VIEWER", "trusted");
        assertThat(trusted.get("/api/people/" + person).text()).doesNotContain("person7@mail.example");
        change("trusted", "VIEWER", Map.of("SEE_PERSONAL_VALUES", true));
        assertThat(trusted.get("/api/people/" + person).text()).contains("person7@mail.example");

        TestUser other = server.user("APPROVER", "other");
        assertThat(other.get("/api/people/" + person).text()).contains("person7@mail.example");
        server.admin()
                .put("/api/users/role-rights", Map.of("APPROVER", List.of()))
                .ok();
        assertThat(other.get("/api/people/" + person).text()).doesNotContain("person7@mail.example");
        server.admin()
                .put(
                        "/api/users/role-rights",
                        Map.of("APPROVER", List.of("SEE_PERSONAL_VALUES", "DOWNLOAD_PERSONAL_VALUES")))
                .ok();
    }

    private void change(String name, String role, Map<String, Boolean> rights) {
        server.admin()
                .put(
                        "/api/users/" + server.idOf(name),
                        Map.of(
                                "email",
                                name + "@quay.example",
                                "name",
                                name + " tester",
                                "role",
                                role,
                                "rights",
                                rights))
                .ok();
    }

    @Test
    void sensitiveValuesNeedAThirdRightAndAStatedPurpose() {
        String path = "/api/people/" + person;
        assertThat(editor.get(path).text()).contains("person7@mail.example").doesNotContain("allergy number");
        Map<String, Object> purpose = Map.of("purpose", "A customer asks what is kept of them");
        assertThat(editor.put("/api/session/purpose", purpose).status()).isEqualTo(403);

        TestUser nurse = server.user("EDITOR", "nurse");
        change("nurse", "EDITOR", Map.of("SEE_SENSITIVE_VALUES", true));
        assertThat(nurse.get(path).text()).as("without a purpose").doesNotContain("allergy number");
        assertThat(nurse.put("/api/session/purpose", Map.of("purpose", "why")).status())
                .isEqualTo(422);
        assertThat(nurse.put("/api/session/purpose", purpose)
                        .ok()
                        .get("purpose")
                        .asString())
                .isEqualTo("A customer asks what is kept of them");
        assertThat(nurse.get(path).text()).contains("allergy number 7");
        assertThat(server.journal("stated purpose to see sensitive values")
                        .get(0)
                        .get("detail")
                        .asString())
                .isEqualTo("A customer asks what is kept of them");
        assertThat(server.journal("looked at person").get(0).get("detail").asString())
                .isEqualTo("with sensitive values");
        server.clock().forward(java.time.Duration.ofMinutes(31));
        assertThat(nurse.get(path).text()).as("a purpose ends").doesNotContain("allergy number");
    }

    @Test
    void aPreviewMasksSensitiveColumnsByTheirName() {
        TestUser.Answer preview = editor.post(
                "/api/datasets/preview",
                Map.of(
                        "sourceId",
                        1,
                        "query",
                        Map.of("kind", "sql", "text", "select id, email, health_note from shop.customers")));
        if (preview.status() != 200) {
            preview = editor.post(
                    "/api/datasets/preview",
                    Map.of(
                            "sourceId",
                            2,
                            "query",
                            Map.of("kind", "sql", "text", "select id, email, health_note from shop.customers")));
        }
        assertThat(preview.ok().toString()).contains("@mail.example").doesNotContain("allergy number");
    }

    @Test
    void everyLookAtAPersonIsInTheJournal() {
        int before = server.journal("looked at person").size();
        TestUser curious = server.user("EDITOR", "curious");
        curious.get("/api/people/" + person).ok();
        curious.get("/api/people/" + person).ok();
        List<JsonNode> looks = server.journal("looked at person");
        assertThat(looks).as("asking twice within a minute is one look").hasSize(before + 1);
        assertThat(looks.get(0).get("actor").asString()).isEqualTo("curious tester");
        assertThat(looks.get(0).get("subjectId").asLong()).isEqualTo(person);
    }
}

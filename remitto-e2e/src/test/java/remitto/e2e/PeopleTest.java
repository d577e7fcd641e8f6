package remitto.e2e;

import static com.microsoft.playwright.assertions.PlaywrightAssertions.assertThat;
import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import com.microsoft.playwright.Locator;
import com.microsoft.playwright.Page;
import com.microsoft.playwright.options.AriaRole;
import java.sql.ResultSet;
import java.sql.Statement;
import java.util.Collections;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.regex.Pattern;
import org.junit.jupiter.api.AfterAll;
import org.junit.jupiter.api.BeforeAll;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.TestInstance;
import remitto.core.identity.quality.Quality;
import remitto.demo.history.Api;
import remitto.demo.history.PeopleSetUp;
import remitto.demo.history.Scenario;
import tools.jackson.databind.JsonNode;

/** Records of four datasets joined into people, looked at, corrected and joined again. */
@TestInstance(TestInstance.Lifecycle.PER_CLASS)
class PeopleTest {
    private static final int PEOPLE = 4_000;

    private Stack stack;
    private Api editor;
    private PeopleSetUp people;
    private Map<String, Long> datasets;

    @BeforeAll
    void start() throws Exception {
        stack = Stack.start(PEOPLE);
        editor = stack.user("EDITOR");
        Scenario scenario = new Scenario(editor);
        long source = scenario.setUp(stack.places()).source();
        assertThatThrownBy(() -> joinNobody()).hasMessageContaining("No dataset of people yet");
        people = new PeopleSetUp(editor, scenario);
        datasets = people.setUp(source);
        people.join();
    }

    /** A run that cannot be done says why, and changes nothing. */
    private void joinNobody() {
        editor.post("/api/people/runs", Map.of());
        JsonNode seen =
                editor.until("/api/people/overview", one -> one.get("latest").has("finishedAt"));
        throw new IllegalStateException(seen.get("latest").get("problem").asString());
    }

    @AfterAll
    void stop() throws Exception {
        stack.close();
    }

    private JsonNode summary() {
        return editor.get("/api/people/overview").get("good").get("summary");
    }

    private JsonNode found(String text) {
        return editor.get(
                "/api/people?find=" + java.net.URLEncoder.encode(text, java.nio.charset.StandardCharsets.UTF_8));
    }

    private JsonNode person(String text) {
        return editor.get("/api/people/" + found(text).get(0).get("id").asLong());
    }

    private Map<String, Integer> truth() throws Exception {
        Map<String, Integer> truth = new HashMap<>();
        try (Statement statement = stack.warehouse.createStatement();
                ResultSet rows = statement.executeQuery("select record_no, person_no from truth.person_records")) {
            while (rows.next()) {
                truth.put(rows.getString(1), rows.getInt(2));
            }
        }
        return truth;
    }

    private Map<String, Integer> joined() throws Exception {
        Map<String, Integer> joined = new HashMap<>();
        try (var connection = stack.databases.owner(stack.remittoDatabase);
                Statement statement = connection.createStatement();
                ResultSet rows =
                        statement.executeQuery("select key, person_id from identity_record where about = 'PERSON'")) {
            while (rows.next()) {
                joined.put(rows.getString(1), rows.getInt(2));
            }
        }
        return joined;
    }

    @Test
    void peopleAreFoundAsTheyTrulyAre() throws Exception {
        Map<String, Integer> truth = truth();
        Map<String, Integer> joined = joined();
        assertThat(joined.keySet()).isEqualTo(truth.keySet());
        List<String> keys = List.copyOf(truth.keySet());
        Quality quality = Quality.of(
                keys.stream().mapToInt(joined::get).toArray(),
                keys.stream().mapToInt(truth::get).toArray());
        System.out.println("people records=" + keys.size() + " precision=" + quality.precision() + " recall="
                + quality.recall() + " b_cubed_f1=" + quality.bCubedF1());
        assertThat(quality.precision()).isGreaterThanOrEqualTo(0.995);
        assertThat(quality.recall()).isGreaterThanOrEqualTo(0.97);
    }

    @Test
    void everyNumberAddsUp() {
        JsonNode summary = summary();
        long records = summary.get("records").asLong();
        assertThat(sum(summary.get("sources"), "records")).isEqualTo(records);
        assertThat(sum(summary.get("sizes"), "persons"))
                .isEqualTo(summary.get("persons").asLong());
        assertThat(summary.get("sizes")
                        .valueStream()
                        .mapToLong(size -> size.get("records").asLong()
                                * size.get("persons").asLong())
                        .sum())
                .isEqualTo(records);
        assertThat(editor.get("/api/line").get("people").asLong())
                .isEqualTo(summary.get("persons").asLong());
    }

    private static long sum(JsonNode rows, String field) {
        return rows.valueStream().mapToLong(row -> row.get(field).asLong()).sum();
    }

    /** The key of a record of one system whose person has a record of another. */
    private String[] known(String system, String other) {
        for (JsonNode row : found("")) {
            JsonNode person = editor.get("/api/people/" + row.get("id").asLong());
            List<String> keys = person.get("records")
                    .valueStream()
                    .filter(record -> List.of(datasets.get(system), datasets.get(other))
                            .contains(record.get("datasetId").asLong()))
                    .map(record -> record.get("key").asString())
                    .toList();
            if (keys.size() >= 2) {
                return keys.toArray(String[]::new);
            }
        }
        throw new IllegalStateException("nobody is known to both");
    }

    @Test
    void anyIdOfAnySourceLeadsToThePersonAsDoEmailAndPhone() {
        String[] keys = known("pass", "ticketing");
        JsonNode one = person(keys[0]);
        assertThat(person(keys[1]).get("id")).isEqualTo(one.get("id"));
        String email = kept(one, "email");
        assertThat(found(email).valueStream().map(row -> row.get("id").asLong()))
                .contains(one.get("id").asLong());
        assertThat(one.get("kept")
                        .valueStream()
                        .filter(value -> value.get("attribute").asString().equals("phone")))
                .allSatisfy(
                        phone -> assertThat(phone.get("normalised").asString()).matches("\\+[1-9][0-9]{6,14}"));
        String[] name = one.get("label").asString().split(" ");
        assertThat(found(name[name.length - 1] + " " + name[0] + " " + email).size())
                .isPositive();
        assertThat(found("nobody-at-all").size()).isZero();
        assertThatThrownBy(() -> editor.get("/api/people/999999999")).hasMessageContaining("person 999999999");
        one.get("evidence").forEach(pair -> assertThat(pair.get("ledger")
                        .valueStream()
                        .mapToDouble(entry -> entry.get("bits").asDouble())
                        .sum())
                .as("the ledger adds up to the weight")
                .isCloseTo(pair.get("weight").asDouble(), org.assertj.core.api.Assertions.within(0.01)));
    }

    private static String kept(JsonNode person, String attribute) {
        return person.get("kept")
                .valueStream()
                .filter(one -> one.get("attribute").asString().equals(attribute))
                .findFirst()
                .orElseThrow()
                .get("value")
                .asString();
    }

    private Map<String, Object> ref(JsonNode record) {
        return Map.of(
                "datasetId",
                record.get("datasetId").asLong(),
                "key",
                record.get("key").asString());
    }

    @Test
    void aCorrectionHoldsThroughEveryJoiningAndOldIdsKeepLeading() {
        JsonNode one = person(known("pass", "ticketing")[0]);
        JsonNode stranger =
                editor.get("/api/people/" + found("").get(30).get("id").asLong());
        Map<String, Object> request = new HashMap<>(Map.of(
                "one",
                ref(one.get("records").get(0)),
                "other",
                ref(stranger.get("records").get(0)),
                "together",
                true,
                "reason",
                "the harbour office asked them"));
        editor.post("/api/people/corrections", request);
        assertThat(people.join().get("latest").get("problem").asString()).isEmpty();
        assertThat(people.join().get("latest").get("problem").asString()).isEmpty();
        JsonNode joined = editor.get("/api/people/" + stranger.get("id").asLong());
        JsonNode same = editor.get("/api/people/" + one.get("id").asLong());
        assertThat(joined.get("id")).isEqualTo(same.get("id"));
        assertThat(joined.get("formerly").size()).isEqualTo(1);
        assertThat(joined.get("records").size())
                .isEqualTo(one.get("records").size() + stranger.get("records").size());

        request.put("together", false);
        editor.post("/api/people/corrections", request);
        people.join();
        assertThat(person(stranger.get("records").get(0).get("key").asString()).get("id"))
                .isNotEqualTo(
                        person(one.get("records").get(0).get("key").asString()).get("id"));
        assertThat(editor.get("/api/journal").toString())
                .contains("kept two records apart")
                .contains("the harbour office asked them");
        assertThatThrownBy(() -> stack.user("VIEWER").post("/api/people/runs", Map.of()))
                .hasMessageContaining("403");
    }

    @Test
    void theyAreMeasuredByLabelsAndTakenAlongAsFiles() throws Exception {
        Map<String, String> systems = new HashMap<>();
        editor.get("/api/people/overview")
                .get("sources")
                .forEach(source -> datasets.forEach((system, id) -> {
                    if (source.get("datasetId").asLong() == id) {
                        systems.put(
                                system.substring(0, 1).toUpperCase(java.util.Locale.ROOT),
                                source.get("dataset").asString());
                    }
                }));
        StringBuilder labels = new StringBuilder("dataset,key,person\r\n");
        // Labels that hold two strangers for one person, so that at least this pair counts as missed.
        Map<String, Integer> told = new HashMap<>(truth());
        List<String> alone = told.keySet().stream()
                .filter(key -> Collections.frequency(told.values(), told.get(key)) == 1)
                .sorted()
                .limit(2)
                .toList();
        told.put(alone.get(0), told.get(alone.get(1)));
        told.forEach((key, person) -> labels.append(systems.get(key.substring(0, 1)))
                .append(',')
                .append(key)
                .append(",x")
                .append(person)
                .append("\r\n"));
        labels.append(systems.get("P")).append(",P-0,x0\r\n");
        JsonNode quality = editor.post("/api/people/quality", Map.of("text", labels.toString()));
        assertThat(quality.get("labelled").asInt()).isEqualTo(truth().size());
        assertThat(quality.get("unknown").asInt()).isEqualTo(1);
        assertThat(quality.get("precision").asDouble()).isGreaterThanOrEqualTo(0.995);
        assertThat(quality.get("missed").size()).isPositive();
        quality.get("missed").forEach(pair -> assertThat(pair.get("onePerson").asLong())
                .isNotEqualTo(pair.get("otherPerson").asLong()));
        assertThatThrownBy(() -> editor.post("/api/people/quality", Map.of("text", "a,b\r\n1,2")))
                .hasMessageContaining("must name the columns dataset, key and person");
        assertThatThrownBy(
                        () -> editor.post("/api/people/quality", Map.of("text", "dataset,key,person\r\nNowhere,P-1,x")))
                .hasMessageContaining("Line 2: there is no dataset called Nowhere");

        long records = summary().get("records").asLong();
        long persons = summary().get("persons").asLong();
        assertThat(editor.text("/api/people/links.csv").lines()).hasSize((int) records + 1);
        assertThat(editor.text("/api/people/links.jsonl").lines()).hasSize((int) records);
        assertThat(editor.text("/api/people/people.csv").lines().findFirst().orElseThrow())
                .startsWith("person,records,given_name,family_name,email,phone");
        assertThat(editor.text("/api/people/people.jsonl").lines()).hasSize((int) persons);
        assertThat(editor.get("/api/journal").toString()).contains("downloaded people");
    }

    @Test
    void columnsThatAreNotThereAreNotTied() {
        long pass = datasets.get("pass");
        Map<String, Object> request = new HashMap<>(Map.of(
                "entityType",
                "PERSON",
                "columns",
                List.of(Map.of("column", "gone", "attribute", "email", "kind", "EMAIL", "beside", Map.of())),
                "country",
                "NO",
                "countryColumn",
                ""));
        assertThatThrownBy(() -> editor.put("/api/people/sources/" + pass, request))
                .hasMessageContaining("has no column gone");
        request.put("columns", List.of());
        assertThatThrownBy(() -> editor.put("/api/people/sources/" + pass, request))
                .hasMessageContaining("Map at least one column");
        request.put(
                "columns",
                List.of(Map.of("column", "email", "attribute", "phone", "kind", "EMAIL", "beside", Map.of())));
        assertThatThrownBy(() -> editor.put("/api/people/sources/" + pass, request))
                .hasMessageContaining("it can be of one kind only");
        request.put(
                "columns",
                List.of(Map.of("column", "email", "attribute", "e mail", "kind", "EMAIL", "beside", Map.of())));
        assertThatThrownBy(() -> editor.put("/api/people/sources/" + pass, request))
                .hasMessageContaining("lower-case letters, digits and underscores");
    }

    @Test
    void aPersonIsFoundAndLookedAtInTheBrowser() {
        String[] keys = known("pass", "ticketing");
        try (Browser browser = new Browser()) {
            Page page = browser.open(stack.server().address().resolve("/sign-in?to=/people"));
            page.getByLabel("E-mail").fill("editor@halvorn.example");
            page.getByLabel("Password").fill(Stack.PASSWORD);
            button(page, "Sign in").click();
            assertThat(page.getByText(Pattern.compile("records of 5 datasets became [\\d,]+ people")))
                    .isVisible();
            assertThat(Browser.axe(page)).isEmpty();
            page.getByLabel("Find a person").fill(keys[0]);
            Locator rows = page.getByLabel("People found").locator("tbody tr");
            assertThat(rows).hasCount(1);
            rows.first().getByRole(AriaRole.LINK).click();
            assertThat(page.getByText("became this person.")).isVisible();
            assertThat(page.getByText(keys[1]).first()).isVisible();
            assertThat(Browser.axe(page)).isEmpty();
            page.reload();
            assertThat(page.getByText("became this person.")).isVisible();
            assertThat(browser.errors()).isEmpty();
        }
    }

    private static Locator button(Page page, String name) {
        return page.getByRole(
                AriaRole.BUTTON, new Page.GetByRoleOptions().setName(name).setExact(true));
    }
}

package remitto.e2e;

import static com.microsoft.playwright.assertions.PlaywrightAssertions.assertThat;
import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import com.microsoft.playwright.Page;
import com.microsoft.playwright.options.AriaRole;
import java.sql.ResultSet;
import java.sql.Statement;
import java.time.Duration;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.regex.Pattern;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;
import remitto.demo.history.Api;
import remitto.demo.history.PeopleSetUp;
import remitto.demo.history.Scenario;
import tools.jackson.databind.JsonNode;
import tools.jackson.databind.json.JsonMapper;
import tools.jackson.databind.node.ArrayNode;
import tools.jackson.databind.node.ObjectNode;

/** People go by rules somebody wrote, change only where something changed, and wait for an approver when that is much. */
class PeopleRulesTest extends RouteRunsFixture {
    private static final JsonMapper JSON = JsonMapper.builder().build();

    private static final int PEOPLE = 900;
    private static final World<Map<String, Long>> WORLD =
            new World<>(PEOPLE, Optional.empty(), PeopleRulesTest::joined);

    private PeopleSetUp people;
    private Map<String, Long> datasets;

    PeopleRulesTest() {
        super(PEOPLE);
    }

    @Override
    @BeforeEach
    void start() throws Exception {
        datasets = begin(WORLD);
        people = new PeopleSetUp(editor, scenario);
    }

    private static Map<String, Long> joined(Stack stack) {
        Api editor = stack.user("EDITOR");
        PeopleSetUp people = new PeopleSetUp(editor, new Scenario(editor));
        Map<String, Long> datasets = people.setUp(routes(stack).source());
        people.join("COMPANY");
        people.join();
        return datasets;
    }

    private JsonNode good(String about) {
        return editor.get("/api/people/overview?entityType=" + about).get("good");
    }

    private long number(JsonNode run, String name) {
        return run.get("summary").get(name).asLong();
    }

    /** By dataset and key, the person. */
    private Map<String, Long> persons() throws Exception {
        Map<String, Long> persons = new HashMap<>();
        try (var connection = stack.databases.owner(stack.remittoDatabase);
                Statement statement = connection.createStatement();
                ResultSet rows = statement.executeQuery("select dataset_id, key, person_id from identity_record")) {
            while (rows.next()) {
                persons.put(rows.getLong(1) + " " + rows.getString(2), rows.getLong(3));
            }
        }
        return persons;
    }

    private String text(String sql) throws Exception {
        try (var connection = stack.databases.owner(stack.remittoDatabase);
                Statement statement = connection.createStatement();
                ResultSet rows = statement.executeQuery(sql)) {
            rows.next();
            return rows.getString(1);
        }
    }

    private JsonNode personOf(String system, String key) throws Exception {
        return editor.get("/api/people/" + persons().get(datasets.get(system) + " " + key));
    }

    @Test
    void onlyWhatChangedIsJudgedAndItComesToWhatAWholeJoiningComesTo() throws Exception {
        assertThat(good("PERSON").get("whole").asBoolean()).isTrue();
        stack.change(
                "insert into ferry.wifi_signups select 'W-new', given_name || ' ' || family_name, email, phone, now()"
                        + " from ferry.customers where customer_no = (select min(customer_no) from ferry.customers)");
        String left = stack.text("select max(signup_no) from ferry.newsletter_signups");
        stack.change("delete from ferry.newsletter_signups where signup_no = '" + left + "'");
        stack.change("update ferry.pass_holders set phone = '+4799999999' where pass_number ="
                + " (select min(pass_number) from ferry.pass_holders)");
        long was = personOf("newsletter", left).get("id").asLong();
        people.join();
        JsonNode run = good("PERSON");
        assertThat(run.get("whole").asBoolean()).isFalse();
        assertThat(number(run, "changed")).isEqualTo(2);
        assertThat(number(run, "gone")).isEqualTo(1);
        assertThat(number(run, "judged")).isBetween(2L, number(run, "records") / 4);
        assertThat(number(run, "compared")).isLessThan(number(run, "records"));
        Map<String, Long> again = persons();
        String links = text(
                "select md5(string_agg(one_key || other_key || weight || used || reason || ledger, ',' order by one_key, other_key))"
                        + " from identity_link where about = 'PERSON'");
        String kept = text("select md5(string_agg(id || label || kept || keys, ',' order by id)) from person");

        editor.post("/api/people/runs?whole=true", Map.of());
        editor.until("/api/people/overview", seen -> seen.get("latest").has("finishedAt"));
        assertThat(good("PERSON").get("whole").asBoolean()).isTrue();
        assertThat(persons()).isEqualTo(again);
        assertThat(text(
                        "select md5(string_agg(one_key || other_key || weight || used || reason || ledger, ',' order by one_key, other_key))"
                                + " from identity_link where about = 'PERSON'"))
                .isEqualTo(links);
        assertThat(text("select md5(string_agg(id || label || kept || keys, ',' order by id)) from person"))
                .isEqualTo(kept);

        JsonNode joined = personOf("wifi", "W-new");
        assertThat(joined.get("records").size()).isGreaterThan(1);
        assertThat(joined.get("history").toString()).contains("W-new came");
        assertThat(text("select words from person_event where person_id = " + was))
                .contains(left);
        people.join();
        assertThat(number(good("PERSON"), "judged")).isZero();
    }

    private JsonNode rules(String about) {
        return editor.get("/api/people/rules?entityType=" + about);
    }

    /** The rules with one more that joins whoever agrees in an attribute. */
    private ObjectNode withRule(String about, String attribute) {
        ObjectNode rules = (ObjectNode) JSON.readTree(rules(about).get("rules").toString());
        ((ArrayNode) rules.get("join"))
                .add(JSON.readTree("{\"conditions\": [{\"attribute\": \"" + attribute
                        + "\", \"comparison\": {\"kind\": \"same\"}, \"agrees\": true}]}"));
        return rules;
    }

    private JsonNode save(String about, JsonNode rules) {
        return editor.post(
                "/api/people/rules/versions?entityType=" + about,
                Map.of("basedOn", rules(about).get("number").asInt(), "note", "tried", "rules", rules));
    }

    /** Companies whose persons change at all wait for an approver. */
    private void tighten() {
        editor.put(
                "/api/people/plan?entityType=COMPANY",
                Map.of(
                        "guards",
                        Map.of("joined", 0.0001, "split", 0.0001, "gone", 0.2),
                        "schedule",
                        Map.of("kind", "by-hand", "zone", "Europe/Oslo")));
    }

    @Test
    void otherRulesAreTriedSavedPutInServiceAndApproved() throws Exception {
        tighten();
        ObjectNode rules = withRule("COMPANY", "company");
        long before = number(good("COMPANY"), "persons");
        JsonNode effect =
                editor.post("/api/people/rules/effect?entityType=COMPANY", Map.of("number", 0, "second", rules));
        assertThat(effect.get("onlySecond").asLong()).isPositive();
        assertThat(effect.get("onlyFirst").asLong()).isZero();
        assertThat(effect.get("persons").asLong()).isEqualTo(before);
        assertThat(effect.get("secondExamples").size()).isPositive().isLessThanOrEqualTo(20);
        effect.get("secondExamples")
                .forEach(pair -> assertThat(pair.get("byRule").asString()).isEqualTo("company is the same"));
        assertThat(number(good("COMPANY"), "persons")).as("nothing was changed").isEqualTo(before);

        save("COMPANY", rules);
        people.join("COMPANY");
        assertThat(number(good("COMPANY"), "persons"))
                .as("saved is not in service")
                .isEqualTo(before);
        Api author = stack.user("APPROVER");
        author.post("/api/people/rules/in-service?entityType=COMPANY", Map.of("version", 1));
        JsonNode waits = people.join("COMPANY").get("latest");
        assertThat(waits.get("stopped").get("reasons").toString()).contains("would change identity");
        assertThat(number(good("COMPANY"), "persons")).isEqualTo(before);
        String approve = "/api/people/runs/" + waits.get("id").asLong() + "/approve";
        assertThatThrownBy(() -> editor.post(approve, Map.of())).hasMessageContaining("403");
        assertThatThrownBy(() -> author.post(approve, Map.of()))
                .hasMessageContaining(
                        "You put the match rules in service since this was last approved, so somebody else approves it.");
        stack.admin().post(approve, Map.of());
        JsonNode done = editor.until("/api/people/overview?entityType=COMPANY", seen -> seen.get("latest")
                        .has("finishedAt"))
                .get("latest");
        assertThat(done.get("summary").get("persons").asLong())
                .isEqualTo(effect.get("otherPersons").asLong());
        assertThat(done.get("summary").get("rules").toString()).contains("company is the same");
        long retired = Long.parseLong(text("select min(id) from retired_person where about = 'COMPANY'"));
        JsonNode leads = editor.get("/api/people/" + retired);
        assertThat(leads.get("id").asLong()).isLessThan(retired);
        assertThat(leads.get("history").toString()).contains(retired + " became this one");
        assertThatThrownBy(() -> stack.admin().post(approve, Map.of())).hasMessageContaining("does not wait");
        assertThat(editor.get("/api/journal").toString())
                .contains("put match rules in service", "approved a matching run");
    }

    @Test
    void rulesThatCannotBeFollowedAreRefused() {
        assertThatThrownBy(() -> save("PERSON", withRule("PERSON", "shoe_size")))
                .hasMessageContaining("which no dataset provides");
        ObjectNode apart = withRule("PERSON", "email");
        ((ObjectNode) apart.get("join").get(0).get("conditions").get(0)).put("agrees", false);
        assertThatThrownBy(() -> save("PERSON", apart)).hasMessageContaining("have nothing in common");
        ObjectNode circle = withRule("PERSON", "email");
        circle.set(
                "survivorship",
                JSON.readTree(
                        "{\"email\": {\"how\": \"NEWEST\", \"verifiedFirst\": false, \"sameRecordAs\": \"phone\"},"
                                + " \"phone\": {\"how\": \"NEWEST\", \"verifiedFirst\": false, \"sameRecordAs\": \"email\"}}"));
        assertThatThrownBy(() -> save("PERSON", circle)).hasMessageContaining("depends on itself");
        save("PERSON", withRule("PERSON", "email"));
        assertThatThrownBy(() -> editor.post(
                        "/api/people/rules/versions",
                        Map.of("basedOn", 0, "note", "", "rules", withRule("PERSON", "email"))))
                .hasMessageContaining("Someone saved another version meanwhile");
    }

    @Test
    void whatPeopleDecidedIsLearnedFromButNotPutInServiceByItself() {
        assertThatThrownBy(() -> editor.get("/api/people/rules/learned?entityType=COMPANY"))
                .hasMessageContaining("No pair of these records has been decided");
        JsonNode pairs = editor.get("/api/people/review?entityType=COMPANY");
        int decided = 0;
        for (JsonNode pair : pairs) {
            if (decided < 12) {
                decided++;
                editor.post(
                        "/api/people/corrections",
                        Map.of(
                                "one",
                                pair.get("evidence").get("one"),
                                "other",
                                pair.get("evidence").get("other"),
                                "together",
                                true,
                                "reason",
                                "looked them up"));
            }
        }
        assertThat(decided).as("pairs that somebody is asked about").isGreaterThanOrEqualTo(4);
        JsonNode learned = editor.get("/api/people/rules/learned?entityType=COMPANY");
        assertThat(learned.get("decided").asInt()).isEqualTo(decided);
        assertThat(learned.get("fixed").size()).isPositive();
        double estimated = bits(good("COMPANY").get("summary").get("evidence"), "strangers");
        assertThat(bits(learned.get("fixed"), "bits"))
                .as("all of them agreed in the name, and were joined")
                .isGreaterThan(estimated + 0.1);
        assertThat(rules("COMPANY").get("rules").get("fixed").size()).isZero();
    }

    /** Of companies of the same name. */
    private static double bits(JsonNode rows, String name) {
        return rows.valueStream()
                .filter(row -> row.get("attribute").asString().equals("company")
                        && row.get("level").asInt() == 0)
                .findFirst()
                .orElseThrow()
                .get(name)
                .asDouble();
    }

    @Test
    void keptValuesGoByTheRulesAndConsentByItsOrder() throws Exception {
        String pass = stack.text("select p.pass_number from ferry.pass_holders p join ferry.newsletter_signups n"
                + " on n.email = p.email join ferry.consents c on c.email = p.email and c.answer = 'yes'"
                + " where p.mail_consent = 'no' limit 1");
        if (pass.isEmpty()) {
            pass = stack.text("select p.pass_number from ferry.pass_holders p join ferry.newsletter_signups n"
                    + " on n.email = p.email join ferry.consents c on c.email = p.email and c.answer = 'yes' limit 1");
            stack.change("update ferry.pass_holders set mail_consent = 'no' where pass_number = '" + pass + "'");
            people.join();
        }
        JsonNode consent = kept(personOf("pass", pass), "newsletter_consent");
        assertThat(consent.get("value").asString()).isEqualTo("no");
        assertThat(consent.get("reason").asString()).isEqualTo("a no beats a yes");

        ObjectNode rules =
                (ObjectNode) JSON.readTree(rules("PERSON").get("rules").toString());
        rules.set(
                "survivorship",
                JSON.readTree("{\"email\": {\"how\": \"SMALLEST\", \"verifiedFirst\": false, \"sameRecordAs\": \"\"},"
                        + " \"phone\": {\"how\": \"NEWEST\", \"verifiedFirst\": false, \"sameRecordAs\": \"email\"}}"));
        save("PERSON", rules);
        editor.post("/api/people/rules/in-service", Map.of("version", 1));
        people.join();
        JsonNode run = good("PERSON");
        assertThat(number(run, "judged"))
                .as("They do not affect matching itself")
                .isZero();
        int together = 0;
        for (JsonNode row : editor.get("/api/people")) {
            JsonNode person = editor.get("/api/people/" + row.get("id").asLong());
            for (JsonNode one : person.get("kept")) {
                if (one.get("attribute").asString().equals("phone")) {
                    JsonNode email = kept(person, "email");
                    assertThat(one.get("key")).isEqualTo(email.get("key"));
                    together++;
                }
            }
        }
        assertThat(together).isPositive();
    }

    private static JsonNode kept(JsonNode person, String attribute) {
        return person.get("kept")
                .valueStream()
                .filter(one -> one.get("attribute").asString().equals(attribute))
                .findFirst()
                .orElseThrow();
    }

    @Test
    void theyAreADatasetLikeAnyOtherAndItsReaderSeesNothingElse() throws Exception {
        long source = editor.get("/api/people/overview").get("source").asLong();
        JsonNode preview = preview(source, "select * from people.person");
        assertThat(preview.get("roles").get("person_id").asString()).isEqualTo("KEY");
        assertThat(preview.get("roles").get("birth_date").asString()).isEqualTo("SENSITIVE");
        assertThatThrownBy(() -> preview(source, "select * from app_user")).hasMessageContaining("permission denied");
        assertThatThrownBy(() -> preview(source, "select set_config('role', 'remitto', false), * from source"))
                .hasMessageContaining("permission denied");
        assertThatThrownBy(() -> editor.post(
                        "/api/datasets",
                        Map.of(
                                "name",
                                "Birthdays",
                                "description",
                                "",
                                "sourceId",
                                source,
                                "basedOn",
                                0,
                                "definition",
                                Map.of(
                                        "query",
                                        Map.of(
                                                "kind",
                                                "sql",
                                                "text",
                                                "select person_id, birth_date from people.person"),
                                        "columns",
                                        List.of(
                                                Map.of("name", "person_id", "type", "INTEGER", "role", "KEY"),
                                                Map.of("name", "birth_date", "type", "DATE", "role", "ATTRIBUTE"))))))
                .hasMessageContaining("comes from one that is sensitive");
        long dataset = people.peopleDataset();
        JsonNode fresh = editor.post("/api/datasets/" + dataset + "/freshness", Map.of());
        assertThat(fresh.get("freshness").get("rows").asLong()).isEqualTo(number(good("PERSON"), "persons"));
        assertThat(editor.text("/api/people/links.csv?entityType=COMPANY").lines())
                .hasSize((int) number(good("COMPANY"), "records") + 1);
    }

    private JsonNode preview(long source, String sql) {
        return editor.post(
                "/api/datasets/preview", Map.of("sourceId", source, "query", Map.of("kind", "sql", "text", sql)));
    }

    @Test
    void aContactBelongsToItsCompanyWhateverRecordOfItNamesIt() throws Exception {
        String contact = stack.text("select min(contact_no) from ferry.freight_contacts");
        JsonNode person = personOf("freight", contact);
        assertThat(person.get("belongs").size()).isEqualTo(1);
        JsonNode company = editor.get(
                "/api/people/" + person.get("belongs").get(0).get("id").asLong());
        assertThat(company.get("entityType").asString()).isEqualTo("COMPANY");
        assertThat(company.get("belongs").valueStream().map(one -> one.get("id").asLong()))
                .contains(person.get("id").asLong());
        assertThat(text("select company_id from people.person where person_id = "
                        + person.get("id").asLong()))
                .isEqualTo(company.get("id").asString());
        JsonNode wrong = editor.get("/api/people?entityType=COMPANY&find="
                + person.get("label").asString().split(" ")[0].toLowerCase(java.util.Locale.ROOT));
        assertThat(wrong.valueStream().map(one -> one.get("id").asLong()))
                .as("people are not found among companies")
                .doesNotContain(person.get("id").asLong());
    }

    @Test
    void companiesAreMeasuredByLabelsWithACurveOverTheThreshold() throws Exception {
        Map<String, String> names = Map.of("desk", "Freight desk companies", "portal", "Cargo portal accounts");
        StringBuilder labels = new StringBuilder("dataset,key,person\n");
        try (Statement statement = stack.warehouse.createStatement();
                ResultSet rows =
                        statement.executeQuery("select company_no, system, record_no from truth.company_records")) {
            while (rows.next()) {
                labels.append("%s,%s,%d%n".formatted(names.get(rows.getString(2)), rows.getString(3), rows.getInt(1)));
            }
        }
        JsonNode quality = editor.post("/api/people/quality?entityType=COMPANY", Map.of("text", labels.toString()));
        assertThat(quality.get("precision").asDouble()).isGreaterThanOrEqualTo(0.99);
        assertThat(quality.get("recall").asDouble()).isGreaterThanOrEqualTo(0.7);
        JsonNode here = quality.get("curve")
                .valueStream()
                .filter(point ->
                        point.get("join").asDouble() == quality.get("join").asDouble())
                .findFirst()
                .orElseThrow();
        assertThat(here.get("recall").asDouble())
                .isEqualTo(quality.get("recall").asDouble());
        double last = 2;
        for (JsonNode point : quality.get("curve")) {
            assertThat(point.get("recall").asDouble()).isLessThanOrEqualTo(last);
            last = point.get("recall").asDouble();
        }
    }

    @Test
    void theyAreJoinedOnTheTimetableAndADatasetThatIsSuddenlyEmptyStopsIt() {
        long first = good("PERSON").get("id").asLong();
        JsonNode plan = stack.admin()
                .put(
                        "/api/people/plan",
                        Map.of(
                                "guards",
                                Map.of("joined", 0.5, "split", 0.5, "gone", 0.9),
                                "schedule",
                                Map.of("kind", "every", "minutes", 10, "zone", "Europe/Oslo")));
        assertThat(plan.get("schedule").get("minutes").asInt()).isEqualTo(10);
        stack.server().clock().set(stack.server().clock().instant().plus(Duration.ofMinutes(11)));
        // The server looks by itself what is due; whoever let it look as well might begin it twice.
        JsonNode run = editor.until(
                        "/api/people/overview",
                        seen -> seen.get("latest").get("id").asLong() > first
                                && seen.get("latest").has("finishedAt"))
                .get("latest");
        assertThat(run.get("startedBy").asString()).isEqualTo("the timetable");
        assertThat(number(run, "judged")).isZero();

        stack.change("delete from ferry.wifi_signups");
        JsonNode stopped = people.join().get("latest");
        assertThat(stopped.get("stopped").get("reasons").toString())
                .contains("Wi-Fi sign-ups gave no records, instead of");
        editor.post("/api/people/runs/" + stopped.get("id").asLong() + "/discard", Map.of());
        assertThat(editor.get("/api/people/overview")
                        .get("latest")
                        .get("decidedBy")
                        .asString())
                .isEqualTo(stack.user("EDITOR").get("/api/session").get("name").asString());
        assertThatThrownBy(() -> editor.put(
                        "/api/people/plan",
                        Map.of(
                                "guards",
                                Map.of("joined", 2, "split", 0.5, "gone", 0.9),
                                "schedule",
                                Map.of("kind", "by-hand", "zone", "Europe/Oslo"))))
                .hasMessageContaining("share from 0 to 100 percent");
    }

    @Test
    void rulesAreEditedInTheBrowserWithTheirEffectBesideThem() {
        tighten();
        try (Browser browser = new Browser()) {
            Page page = browser.open(stack.server().address().resolve("/sign-in?to=/companies/rules"));
            page.getByLabel("E-mail").fill("editor@halvorn.example");
            page.getByLabel("Password").fill(Stack.PASSWORD);
            button(page, "Sign in").click();
            assertThat(page.getByText(Pattern.compile("They give the same [\\d,]+ companies")))
                    .isVisible();
            assertThat(Browser.axe(page)).isEmpty();
            button(page, "Add a match rule").click();
            assertThat(page.getByText(Pattern.compile("companies instead of"))).isVisible();
            assertThat(page.getByText("By rule: company is the same", new Page.GetByTextOptions())
                            .first())
                    .isVisible();
            assertThat(Browser.axe(page)).isEmpty();
            page.getByLabel("Note on this version").fill("names are enough");
            button(page, "Save version 1").click();
            button(page, "Put version 1 in service").click();
            button(page, "Put in service").click();
            assertThat(page.getByText("Version 1 is in service")).isVisible();
            page.reload();
            assertThat(page.getByText("names are enough")).isVisible();
            page.getByRole(AriaRole.LINK, new Page.GetByRoleOptions().setName("Companies"))
                    .last()
                    .click();
            button(page, "Run matching again").click();
            assertThat(page.getByText("A matching run awaits approval. Nothing has changed yet."))
                    .isVisible();
            assertThat(Browser.axe(page)).isEmpty();
            button(page, "Discard run").click();
            assertThat(page.getByText("A matching run awaits approval. Nothing has changed yet."))
                    .isHidden();
            assertThat(browser.errors()).isEmpty();
        }
    }

    private static com.microsoft.playwright.Locator button(Page page, String name) {
        return page.getByRole(
                AriaRole.BUTTON, new Page.GetByRoleOptions().setName(name).setExact(true));
    }
}

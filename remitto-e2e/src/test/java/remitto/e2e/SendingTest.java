package remitto.e2e;

import static com.microsoft.playwright.assertions.PlaywrightAssertions.assertThat;
import static org.assertj.core.api.Assertions.assertThat;

import com.microsoft.playwright.Locator;
import com.microsoft.playwright.Page;
import com.microsoft.playwright.options.AriaRole;
import com.microsoft.playwright.options.SelectOption;
import java.io.IOException;
import java.net.URI;
import java.net.http.HttpClient;
import java.net.http.HttpRequest;
import java.net.http.HttpResponse;
import java.sql.SQLException;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.TreeMap;
import java.util.regex.Pattern;
import org.junit.jupiter.api.Test;
import remitto.core.guard.Guards;
import remitto.core.route.FirstRun;
import remitto.demo.history.Api;
import remitto.demo.history.HandOver;
import tools.jackson.databind.JsonNode;
import tools.jackson.databind.json.JsonMapper;

/** Columns to send with an audience is chosen when it is sent: columns under other names, and rows of events. */
class SendingTest extends AudienceFixture {
    private static final String LATEST =
            "select jsonb_agg(jsonb_build_object('day', e.at, 'line', e.line, 'price', e.amount)"
                    + " order by e.at desc) from (select e.* from audience.events_%d e join audience.record r on"
                    + " r.record_no = e.record_no where r.person_id = %s and e.currency = 'NOK' order by e.at desc limit 3) e";

    private final JsonMapper json = JsonMapper.builder().build();

    private Locator label(String name) {
        return page.getByLabel(name, new Page.GetByLabelOptions().setExact(true));
    }

    private void inService(long route) {
        putInService(
                route,
                editorSpec(route).guards(Guards.none()).firstRun(FirstRun.AlreadyThere.ADOPT, FirstRun.OlderRows.SEND));
    }

    private long laid() {
        page.waitForURL(Pattern.compile(".*/routes/\\d+"));
        return Long.parseLong(page.url().substring(page.url().lastIndexOf('/') + 1));
    }

    private Map<String, JsonNode> file(String path) throws IOException, InterruptedException {
        Map<String, JsonNode> rows = new TreeMap<>();
        HttpClient.newHttpClient()
                .send(
                        HttpRequest.newBuilder(URI.create(address(stack.slipway.port()) + "/control/file?path=" + path))
                                .build(),
                        HttpResponse.BodyHandlers.ofString())
                .body()
                .lines()
                .map(json::readTree)
                .forEach(row -> rows.put(row.get("Member").asString(), row));
        return rows;
    }

    private long bookings() throws SQLException {
        return number("select id from event_set where name = 'Bookings'");
    }

    /** The latest three in the currency, the newest first, by a query of its own. */
    private JsonNode latest(String person) throws SQLException {
        return json.readTree(text(LATEST.formatted(bookings(), person)));
    }

    private static List<String> told(JsonNode rows) {
        List<String> told = new ArrayList<>();
        rows.forEach(
                row -> told.add(java.time.OffsetDateTime.parse(row.get("day").asString())
                                .toInstant() + " " + row.get("line").asString() + " "
                        + row.get("price").decimalValue().stripTrailingZeros().toPlainString()));
        return told;
    }

    @Test
    void theLatestThreeBookingsTravelAlongAndNarrowNobody() throws Exception {
        new HandOver(editor, scenario).connect(new HandOver.Server(stack.slipway.sshPort(), stack.slipway.hostKey()));
        long members = audience.get("Frequent crossers");
        open("/audiences/" + members);
        page.getByRole(AriaRole.LINK, new Page.GetByRoleOptions().setName("Send to a destination"))
                .click();
        assertThat(button("Create route")).isDisabled();
        label("Destination").selectOption("Island guide");
        label("List, object or file").selectOption(new SelectOption().setLabel("a new file"));
        label("Name of the file").fill("latest-trips");
        label("As").selectOption("json");
        label("Name of the route").fill("Latest trips");
        label("Legal basis").selectOption("may_newsletter_email");
        label("Destination field for person_id").fill("Member");
        assertThat(page.getByText("Missing: the key column.")).isVisible();
        label("Key column").selectOption("Member");
        label("Send given_name").check();
        label("Destination field for given_name").fill("First name");
        assertThat(label("Send birth_date")).isDisabled();
        button("Add event rows").click();
        label("Events").selectOption("Bookings");
        for (String column : List.of("at", "line", "amount")) {
            button("add a column").click();
            label("Column of the row").last().selectOption(column);
        }
        label("Name for at").fill("day");
        label("Name for amount").fill("price");
        button("add a condition").click();
        label("Column").selectOption("currency");
        label("Compared with").fill("NOK");
        label("Destination field for Bookings").fill("Latest trips");
        assertThat(page.getByText("Ready to create.")).isVisible();
        assertThat(Browser.axe(page)).isEmpty();
        button("Create route").click();
        long route = laid();
        assertThat(page.getByText("the last 3 by at: day, line, price")).isVisible();
        inService(route);

        JsonNode sent = run(route);
        String agreed = "select count(*) from people.person p join audience.member m on m.person_id = p.person_id"
                + " and m.audience_id = " + members + " where p.may_newsletter_email = 'yes'";
        assertThat(sum(sent, "added")).isPositive().isEqualTo(number(agreed));
        Map<String, JsonNode> rows =
                file("latest-trips-20261120-" + sent.get("id").asLong() + ".jsonl");
        assertThat((long) rows.size()).as("who has no booking is there too").isEqualTo(sum(sent, "added"));
        List<String> travellers = new ArrayList<>();
        for (Map.Entry<String, JsonNode> row : rows.entrySet()) {
            JsonNode expected = latest(row.getKey());
            JsonNode there = row.getValue().get("Latest trips");
            assertThat(told(there)).isEqualTo(told(expected));
            if (!expected.isEmpty()) {
                travellers.add(row.getKey());
            }
        }
        assertThat(travellers).isNotEmpty();
        assertThat(travellers.size()).as("some never booked").isLessThan(rows.size());
        assertThat(run(route).get("message").asString()).isEqualTo("Nothing to send");

        String customer = text("select key from people.record where dataset = 'Ticketing people' and person_id = "
                + travellers.get(0) + " limit 1");
        stack.change(
                "insert into ferry.bookings select (select max(booking_no) + 1 from ferry.bookings), '" + customer
                        + "', (select min(crossing_no) from ferry.crossings), timestamptz '2026-11-20 14:00:00+00', 77.5, 'NOK'");
        audiences.refresh();
        JsonNode after = run(route);
        assertThat(sum(after, "changed")).isEqualTo(1);
        JsonNode now = file("latest-trips-20261120-" + after.get("id").asLong() + ".jsonl")
                .get(travellers.get(0))
                .get("Latest trips");
        assertThat(told(now)).isEqualTo(told(latest(travellers.get(0))));
        assertThat(now.get(0).get("price").decimalValue()).isEqualByComparingTo("77.5");
    }

    private List<String> datasets() {
        return editor.get("/api/datasets")
                .valueStream()
                .map(one -> one.get("name").asString())
                .toList();
    }

    @Test
    void aLetterSpeaksOfEachOfTheRowsThatWereSent() throws Exception {
        audiences.write(address(stack.postbag.port()) + "/north");
        Page postbag = browser.open(URI.create(address(stack.postbag.port()) + "/"));
        postbag.getByLabel("Trait", new Page.GetByLabelOptions().setExact(true)).fill("trips");
        postbag.getByLabel("Called", new Page.GetByLabelOptions().setExact(true))
                .fill("Latest trips");
        postbag.getByLabel("Holds").selectOption("rows");
        postbag.getByRole(AriaRole.BUTTON, new Page.GetByRoleOptions().setName("Add"))
                .click();

        open("/audiences/" + audience.get("Frequent crossers") + "/send");
        label("Destination").selectOption("Postbag Mail");
        label("List, object or file").selectOption("person");
        label("Name of the route").fill("Trips for letters");
        label("Legal basis").selectOption("may_newsletter_email");
        assertThat(label("Destination field for email")).hasValue("mail");
        button("Add event rows").click();
        label("Events").selectOption("Bookings");
        for (String column : List.of("line", "amount")) {
            button("add a column").click();
            label("Column of the row").last().selectOption(column);
        }
        label("Destination field for Bookings").selectOption("trips");
        assertThat(datasets()).as("opening a page makes nothing").doesNotContain("Audience: Frequent crossers");
        button("Create route").click();
        long route = laid();
        assertThat(datasets()).contains("Audience: Frequent crossers");
        inService(route);
        JsonNode sent = run(route);
        assertThat(sum(sent, "held")).isZero();
        JsonNode line = lines(sent, "&verdict=ADDED").stream()
                .filter(one -> one.toString().contains(" / "))
                .findFirst()
                .orElseThrow();
        String person = line.get("key").asString();
        String line0 = text("select e.line from audience.events_" + bookings()
                + " e join audience.record r on r.record_no = e.record_no where r.person_id = " + person
                + " order by e.at desc limit 1");
        postbag.navigate(address(stack.postbag.port()) + "/letter");
        postbag.getByLabel("Letter").fill("Your trips:\n<<each trips>>\n- <<line>> for <<amount>>\n<<end>>\nGood bye");
        postbag.getByLabel("Mail").fill(text("select email from people.person where person_id = " + person));
        postbag.getByRole(AriaRole.BUTTON, new Page.GetByRoleOptions().setName("Read it"))
                .click();
        assertThat(postbag.getByRole(AriaRole.STATUS)).containsText("- " + line0 + " for ");
        assertThat(postbag.getByRole(AriaRole.STATUS)).containsText("Good bye");
        assertThat(browser.errors()).isEmpty();
    }

    @Test
    void eventsThatARouteLooksUpInStay() throws SQLException {
        long set = bookings();
        long guide = new HandOver(editor, scenario)
                .connect(new HandOver.Server(stack.slipway.sshPort(), stack.slipway.hostKey()));
        Map<String, Object> request = Map.of(
                "name",
                "Latest trips",
                "destinationId",
                guide,
                "file",
                Map.of("name", "trips", "jsonLines", false, "changesOnly", false, "key", "Member"),
                "basis",
                Map.of("kind", "none"),
                "columns",
                List.of(Map.of("column", "person_id", "field", "Member")),
                "rows",
                List.of(Map.of(
                        "events", set,
                        "field", "Lines",
                        "parts", List.of(Map.of("column", "line", "name", "line")),
                        "only", List.of(),
                        "pick", Map.of("orderBy", "at", "newestFirst", true, "lookBackDays", 90, "most", 3))),
                "country",
                "NO",
                "zone",
                "Europe/Oslo");
        editor.post("/api/audiences/" + audience.get("Frequent crossers") + "/routes", request);
        assertRefused(
                () -> editor.post("/api/audiences/" + audience.get("Frequent crossers") + "/routes", request),
                "A file trips already exists");
        JsonNode kept = editor.get("/api/events").get(0);
        assertThat(kept.get("name").asString()).isEqualTo("Bookings");
        assertRefused(
                () -> editor.put(
                        "/api/events/" + set,
                        Map.of(
                                "name", "Bookings",
                                "datasetId", kept.get("datasetId"),
                                "personDatasetId", kept.get("personDatasetId"),
                                "personColumn", kept.get("personColumn"),
                                "timeColumn", kept.get("timeColumn"),
                                "columns", List.of("line", "amount", "currency"),
                                "overlapDays", 3)),
                "The columns departs_at stay as they are: route Latest trips may look up in them.");
        assertThat(number("select count(*) from audience.events_" + set)).isPositive();
    }

    private static void assertRefused(Runnable asked, String why) {
        try {
            asked.run();
        } catch (Api.Refused refused) {
            assertThat(refused).hasMessageContaining(why);
            return;
        }
        throw new AssertionError("this was not refused: " + why);
    }
}

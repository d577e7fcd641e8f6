package remitto.e2e;

import static com.microsoft.playwright.assertions.PlaywrightAssertions.assertThat;
import static org.assertj.core.api.Assertions.assertThat;

import com.microsoft.playwright.Locator;
import com.microsoft.playwright.Page;
import com.microsoft.playwright.options.AriaRole;
import java.net.URI;
import java.sql.SQLException;
import java.time.Instant;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.regex.Pattern;
import org.junit.jupiter.api.Test;
import remitto.core.consent.AddressHash;
import remitto.demo.history.Api;
import remitto.demo.history.AudienceSetUp;
import tools.jackson.databind.JsonNode;

/** From a condition to people reached, and back again when they take their consent back. */
class AudienceTest extends AudienceFixture {
    @Test
    void anAudienceIsBuiltCountedExplainedAndPutInService() throws SQLException {
        open("/audiences/new");
        page.getByLabel("Name").fill("Tarva regulars");
        Locator add = page.getByLabel("Add a line", new Page.GetByLabelOptions().setExact(true));
        add.selectOption("attribute home_port");
        button("line 1, test: is …").click();
        page.getByRole(AriaRole.CHECKBOX, new Page.GetByRoleOptions().setName(Pattern.compile("^Tarva")))
                .check();
        page.keyboard().press("Escape");
        add.selectOption("events Crossings");
        button("line 2, test: at least 1").click();
        page.getByLabel("Number", new Page.GetByLabelOptions().setExact(true)).fill("2");
        page.keyboard().press("Escape");
        button("line 2, time: in the last 60 days").click();
        page.getByLabel("Days back from today; 0 is today").fill("90");
        page.keyboard().press("Escape");
        long expected = bySql("home_port = 'Tarva' and crossings_90d >= 2");
        assertThat(expected).isPositive();
        Locator total = page.getByRole(AriaRole.STATUS).filter(new Locator.FilterOptions().setHasText("match"));
        assertThat(total).containsText(Pattern.compile("^" + expected + "of "));
        long port = bySql("home_port = 'Tarva'");
        assertThat(page.getByLabel("line 1", new Page.GetByLabelOptions().setExact(true)))
                .containsText("" + port);

        String other = text("select label from people.person where home_port <> 'Tarva' and crossings_90d >= 2 order by"
                + " person_id limit 1");
        long otherId = number("select person_id from people.person where home_port <> 'Tarva' and crossings_90d >= 2"
                + " order by person_id limit 1");
        page.getByLabel("A person, by name, address or id").fill("" + otherId);
        page.getByLabel("Found")
                .getByRole(
                        AriaRole.BUTTON, new Locator.GetByRoleOptions().setName(Pattern.compile(" " + otherId + "$")))
                .click();
        assertThat(page.getByText("is not a member")).isVisible();
        assertThat(page.getByLabel("line 1", new Page.GetByLabelOptions().setExact(true)))
                .containsText("no: ");
        assertThat(page.getByLabel("line 2", new Page.GetByLabelOptions().setExact(true)))
                .containsText("yes: ");
        assertThat(page.getByRole(AriaRole.LINK, new Page.GetByRoleOptions().setName(other))
                        .first())
                .isVisible();
        assertThat(Browser.axe(page)).isEmpty();

        button("Save version 1").click();
        button("Put version 1 in service").click();
        button("Put in service").click();
        assertThat(page.getByText(Pattern.compile("^" + expected + " members?, counted")))
                .isVisible();
        assertThat(number("select count(*) from audience.member m join audience a on a.id = m.audience_id"
                        + " where a.name = 'Tarva regulars'"))
                .isEqualTo(expected);
        page.getByRole(AriaRole.LINK, new Page.GetByRoleOptions().setName("Send to a destination"))
                .click();
        assertThat(page.getByText(Pattern.compile("^" + expected + " by the latest count")))
                .isVisible();
        assertThat(browser.errors()).isEmpty();
    }

    @Test
    void aConditionSaysWhatIsWrongWithItAndAChangeSaysWhatItWouldDo() {
        long id = audience.get("Frequent crossers");
        try {
            editor.post(
                    "/api/conditions/count",
                    Map.of(
                            "entityType",
                            "PERSON",
                            "exact",
                            true,
                            "spec",
                            Map.of(
                                    "condition",
                                    Map.of(
                                            "kind", "attribute",
                                            "attribute", "home_port",
                                            "test", Map.of("kind", "number", "relation", "OVER", "number", 3)),
                                    "sql",
                                    "",
                                    "zone",
                                    "Europe/Oslo",
                                    "controlGroup",
                                    Map.of("percent", 0, "seed", ""))));
            throw new AssertionError("a text was compared with a number");
        } catch (Api.Refused refused) {
            assertThat(refused).hasMessageContaining("this test is for a number");
        }
        open("/audiences/" + id);
        button("line 1, test: at least 8").click();
        page.getByLabel("Number", new Page.GetByLabelOptions().setExact(true)).fill("10");
        page.keyboard().press("Escape");
        assertThat(page.getByText("+ 0 would join")).isVisible();
        JsonNode before = editor.get("/api/audiences/" + id);
        assertThat(before.get("audience").get("latestVersion").asInt()).isEqualTo(1);
        button("Save version 2").click();
        assertThat(button("Put version 2 in service")).isVisible();
        JsonNode saved = editor.get("/api/audiences/" + id);
        assertThat(saved.get("counts").size())
                .as("saving counts nothing")
                .isEqualTo(before.get("counts").size());
        button("Put version 2 in service").click();
        button("Put in service").click();
        assertThat(page.getByText("version 2 is in service")).isVisible();
        JsonNode counted = editor.get("/api/audiences/" + id).get("counts").get(0);
        assertThat(counted.get("joined").asLong()).isZero();
        assertThat(counted.get("gone").asLong())
                .isEqualTo(before.get("counts").get(0).get("members").asLong()
                        - counted.get("members").asLong());
        open("/audiences");
        assertThat(page.getByText("People in common")).isVisible();
        assertThat(Browser.axe(page)).isEmpty();
        open("/audiences/measures");
        page.getByRole(AriaRole.LINK, new Page.GetByRoleOptions().setName("days_since_crossing"))
                .click();
        assertThat(page.getByText("Distribution of values")).isVisible();
        assertThat(Browser.axe(page)).isEmpty();
        assertThat(browser.errors()).isEmpty();
    }

    @Test
    void measuresKeptFreshInPartsAreWhatAWholeWorkingOutGives() throws SQLException {
        stack.change("insert into ferry.pass_trips select pass_number, 1, timestamptz '2026-11-20 12:00:00+00'"
                + " from ferry.pass_holders where hashtext(pass_number) % 3 = 0");
        stack.change("delete from ferry.pass_trips where boarded_at >= '2026-11-18' and hashtext(pass_number) % 2 = 0");
        stack.server().clock().set(Instant.parse("2026-11-23T09:00:00Z"));
        audiences.refresh();
        for (String measure :
                List.of("crossings_90d", "last_crossing", "days_since_crossing", "recency", "spent_12m")) {
            long id = number("select id from measure where name = '" + measure + "'");
            String values = "select md5(coalesce(string_agg(person_id || '=' || value, ',' order by person_id), ''))"
                    + " from audience.measure_" + id;
            String inParts = text(values);
            editor.post("/api/measures/" + id + "/refreshes", Map.of());
            assertThat(text(values)).as(measure).isEqualTo(inParts);
        }
    }

    @Test
    void whoTakesConsentBackThereLeavesAndIsNotWrittenToAgain() throws SQLException {
        long letters = audiences.write(address(stack.postbag.port()) + "/north");
        long advertised = audiences.advertise("Commuters", audience.get("Frequent crossers"), lamplight, "commuters");
        JsonNode mailed = run(letters);
        assertThat(sum(mailed, "added")).isPositive();
        JsonNode sent = run(advertised);
        long reached = sum(sent, "added");
        assertThat(reached).isPositive().isEqualTo(listed().size());
        assertThat(sum(sent, "read"))
                .isEqualTo(editor.get("/api/audiences/" + audience.get("Frequent crossers"))
                        .get("counts")
                        .get(0)
                        .get("members")
                        .asLong());
        open("/audiences/" + audience.get("Frequent crossers"));
        assertThat(page.getByText("Accepted by the destination")).isVisible();
        JsonNode ladder =
                editor.get("/api/runs/" + sent.get("id").asLong() + "/ladder").get("rungs");
        assertThat(ladder.get(4).get("people").asLong()).isEqualTo(reached);
        assertThat(ladder.get(0).get("people").asLong()).isEqualTo(sum(sent, "read"));
        assertThat(ladder.get(5).get("people").asLong())
                .as("found there, as Lamplight says")
                .isEqualTo(listed().stream()
                        .filter(hash -> Integer.parseInt(hash.substring(0, 4), 16) % 100 < 64)
                        .count());

        String email = lines(sent, "&verdict=ADDED").get(0).get("key").asString();
        String mail = text("select email from people.person where person_id = " + email);
        Page postbag = browser.open(URI.create(address(stack.postbag.port()) + "/"));
        postbag.navigate(address(stack.postbag.port()) + "/segment?trait=mail&how=the+same+as&than=" + mail);
        postbag.getByRole(AriaRole.LINK, new Page.GetByRoleOptions().setName(Pattern.compile("^\\d+$")))
                .click();
        postbag.getByRole(AriaRole.BUTTON, new Page.GetByRoleOptions().setName("No more letters, please"))
                .click();
        assertThat(postbag.getByRole(AriaRole.CELL, new Page.GetByRoleOptions().setName("left")))
                .isVisible();

        open("/audiences/consent");
        button("Read now").click();
        assertThat(page.getByText("1 opted out in the destination")).isVisible();
        assertThat(Browser.axe(page)).isEmpty();
        JsonNode after = run(advertised);
        assertThat(sum(after, "removed")).isEqualTo(1);
        JsonNode gone = lines(after, "&verdict=REMOVED").get(0);
        assertThat(gone.get("key").asString()).isEqualTo(email);
        assertThat(gone.get("reason").asString()).isEqualTo("No consent to the newsletter");
        assertThat(listed()).hasSize((int) reached - 1);
        assertThat(listed()).doesNotContain(AddressHash.of(mail, "NO").orElseThrow());
        JsonNode again = run(letters);
        assertThat(sum(again, "added") + sum(again, "changed") + sum(again, "removed"))
                .as("nobody is subscribed again")
                .isZero();
        postbag.reload();
        assertThat(postbag.getByRole(AriaRole.CELL, new Page.GetByRoleOptions().setName("left")))
                .isVisible();

        postbag.getByRole(AriaRole.BUTTON, new Page.GetByRoleOptions().setName("Write to me again"))
                .click();
        button("Read now").click();
        assertThat(page.getByText("0 opted out in the destination")).isVisible();
        assertThat(sum(run(advertised), "added"))
                .as("a later yes with evidence of its own lifts the no")
                .isEqualTo(1);
        assertThat(browser.errors()).isEmpty();
    }

    @Test
    void aListIsPickedByItsExactNameOrMadeAndOneThatIsTooSmallIsToldBeforeSending() {
        open("/routes/new?dataset="
                + editor.post("/api/audiences/" + audience.get("Booked and waiting") + "/dataset", Map.of())
                        .get("id")
                        .asLong());
        page.getByLabel("To", new Page.GetByLabelOptions().setExact(true)).selectOption("Lamplight Ads");
        page.getByLabel("Find or create a list").fill("commuters");
        button("Find").click();
        assertThat(page.getByText("No exact match. Similar names, differing only in case or spacing:"))
                .isVisible();
        assertThat(page.getByText("Create list")).hasCount(0);
        assertThat(Browser.axe(page)).isEmpty();
        button("Commuters").click();
        assertThat(page.getByText("Found and selected.")).isVisible();
        assertThat(page.getByLabel("Object", new Page.GetByLabelOptions().setExact(true)))
                .hasValue("commuters");
        page.getByLabel("Find or create a list").fill("Waiting <b>guests");
        button("Find").click();
        button("Create list Waiting <b>guests").click();
        assertThat(page.getByText("Created and selected.")).isVisible();
        assertThat(page.getByLabel("Object", new Page.GetByLabelOptions().setExact(true)))
                .hasValue("list-1");
        try {
            editor.post("/api/destinations/" + lamplight + "/named", Map.of("name", "waiting  <B>guests"));
            throw new AssertionError("a list was made that is called nearly as another");
        } catch (Api.Refused refused) {
            assertThat(refused).hasMessageContaining("differs in case or spacing only");
        }
        long route = audiences.advertise("Waiting", audience.get("Booked and waiting"), lamplight, "list-1");
        JsonNode prepared = prepare(route);
        open("/manifests/" + prepared.get("id").asLong());
        long after = sum(prepared, "added");
        assertThat(page.getByText("List size afterwards " + after + (after == 1 ? " member" : " members")
                        + ". The destination does not use lists smaller than 100."))
                .isVisible();
        JsonNode sent = send(prepared);
        assertThat(outcome(sent, "ACKNOWLEDGED")).isEqualTo(after);
        assertThat(editor.get("/api/runs/" + sent.get("id").asLong() + "/list")
                        .get("members")
                        .asLong())
                .isEqualTo(after);
        page.reload();
        assertThat(page.getByText("List size now " + after)).isVisible();
        assertThat(browser.errors()).isEmpty();
    }

    @Test
    void allAddressesOfAPersonCanBeSentAndLeaveTogether() throws SQLException {
        long source = editor.get("/api/people/overview").get("source").asLong();
        long members = audience.get("Frequent crossers");
        long dataset = scenario.dataset(
                source,
                "All addresses of frequent crossers",
                "",
                "select a.* from people.address a join people.audience_member m on m.person_id = a.person_id and m.audience_id = "
                        + members + " and not m.held_out where a.kind = 'email'",
                Map.of("address_key", "KEY", "person_id", "ATTRIBUTE", "address", "IDENTIFIER"));
        long route =
                scenario.route("All addresses", dataset, lamplight, "summer-2026", AudienceSetUp.hashed("address"));
        JsonNode sent = run(route);
        String expected =
                "select count(distinct r.normalised[place]) from identity_record r join audience.member m on m.person_id = r.person_id"
                        + " and m.audience_id = " + members + " join people.person p on p.person_id = r.person_id, "
                        + " (select (array_agg(place))[1] as place from (select i as place, (select count(*) from identity_record x"
                        + " where x.about = 'PERSON' and x.normalised[i] like '%@%') as many from generate_series(1, 12) i) c where many > 0) e"
                        + " where r.normalised[place] <> '' and p.may_newsletter_email = 'yes'";
        assertThat(sum(sent, "added")).isEqualTo(number(expected));
        String several = text(
                "select person_id from people.address a join audience.member m using (person_id) where a.kind = 'email'"
                        + " and m.audience_id = " + members
                        + " and a.may_newsletter_email = 'yes' group by 1 having count(*) > 1"
                        + " order by 1 limit 1");
        assertThat(lines(sent, "&find=" + several + "@"))
                .as("somebody with several")
                .hasSizeGreaterThan(1);
        editor.post(
                "/api/consents/suppressions",
                Map.of(
                        "addresses",
                        text("select min(address) from people.address where kind = 'email' and person_id = " + several),
                        "reason",
                        "by letter"));
        JsonNode after = run(route);
        assertThat(lines(after, "&verdict=REMOVED&find=" + several + "@"))
                .as("all of them leave when one is suppressed")
                .hasSameSizeAs(lines(sent, "&find=" + several + "@"));
    }

    @Test
    void whatSomethingBuildsOnStays() throws SQLException {
        long bookings = number("select id from event_set where name = 'Bookings'");
        assertThat(refusal(() -> editor.delete("/api/events/" + bookings)))
                .contains("Bookings is used by audience Booked and waiting, measure ");
        JsonNode set = editor.get("/api/events").get(0);
        List<String> used = List.of("amount");
        List<String> kept = new ArrayList<>();
        set.get("columns").forEach(column -> kept.add(column.get("name").asString()));
        kept.removeAll(used);
        Map<String, Object> request = Map.of(
                "name", "Bookings",
                "datasetId", set.get("datasetId").asLong(),
                "personDatasetId", set.get("personDatasetId").asLong(),
                "personColumn", set.get("personColumn").asString(),
                "timeColumn", set.get("timeColumn").asString(),
                "columns", kept,
                "overlapDays", 4);
        assertThat(refusal(() -> editor.put("/api/events/" + bookings, request)))
                .contains("The column amount stays as it is: measure spent_12m speaks of it.");
        assertThat(refusal(() -> editor.delete("/api/audiences/" + audience.get("Contacts of freight companies"))))
                .contains("is used by audience Lapsed islanders");
        long members = audience.get("Frequent crossers");
        audiences.advertise("Commuters", members, lamplight, "commuters");
        assertThat(refusal(() -> editor.delete("/api/audiences/" + members))).contains("is used by route Commuters");
        long free = audience.get("Best customers");
        editor.post("/api/audiences/" + free + "/dataset", Map.of());
        open("/audiences/" + free);
        button("Remove").click();
        page.waitForURL("**/audiences");
        assertThat(number("select count(*) from audience where id = " + free)).isZero();
        assertThat(number("select count(*) from audience_member where audience_id = " + free))
                .isZero();
        assertThat(number("select count(*) from dataset where audience_id = " + free))
                .isZero();
    }

    private static String refusal(Runnable request) {
        try {
            request.run();
            return "not refused";
        } catch (Api.Refused refused) {
            assertThat(refused.status()).isEqualTo(409);
            return String.valueOf(refused.getMessage());
        }
    }

    @Test
    void theSuppressionListBeatsEverything() throws SQLException {
        long advertised = audiences.advertise("Commuters", audience.get("Frequent crossers"), lamplight, "commuters");
        JsonNode sent = run(advertised);
        long reached = sum(sent, "added");
        String person = lines(sent, "&verdict=ADDED").get(0).get("key").asString();
        // Not the address that was sent, where the person has more than one: they are all the person's.
        String hash = text("select hash from person_address where person_id = " + person + " order by hash limit 1");
        JsonNode added = editor.post(
                "/api/consents/suppressions", Map.of("addresses", hash + "\nnot an address", "reason", "by letter"));
        assertThat(added.get("added").asInt()).isEqualTo(1);
        assertThat(added.get("unreadable").size()).isEqualTo(1);
        JsonNode after = run(advertised);
        assertThat(sum(after, "removed")).isPositive();
        assertThat(lines(after, "&verdict=REMOVED")).anySatisfy(line -> {
            assertThat(line.get("key").asString()).isEqualTo(person);
            assertThat(line.get("reason").asString()).isEqualTo("On the suppression list: by letter");
        });
        assertThat(listed()).hasSize((int) (reached - sum(after, "removed")));
        assertThat(sum(run(advertised), "added")).as("and stays away").isZero();
        editor.delete("/api/consents/suppressions/" + hash);
        assertThat(sum(run(advertised), "added")).isEqualTo(sum(after, "removed"));
    }
}

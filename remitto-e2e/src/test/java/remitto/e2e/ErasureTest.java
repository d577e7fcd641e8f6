package remitto.e2e;

import static com.microsoft.playwright.assertions.PlaywrightAssertions.assertThat;
import static org.assertj.core.api.Assertions.assertThat;

import com.microsoft.playwright.Page;
import com.microsoft.playwright.options.AriaRole;
import java.sql.Connection;
import java.sql.PreparedStatement;
import java.sql.ResultSet;
import java.sql.SQLException;
import java.sql.Statement;
import java.time.Instant;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.TreeMap;
import java.util.regex.Pattern;
import org.junit.jupiter.api.Test;
import remitto.core.consent.AddressHash;
import remitto.demo.history.Api;
import remitto.demo.history.HandOver;
import tools.jackson.databind.JsonNode;

/** Somebody asks for their file, and to be forgotten. */
class ErasureTest extends AudienceFixture {
    private static final String ERASED = "Erased on request, erasure 1; the row is still in its source";

    /** Somebody whom three routes keep something of, one of them from a dataset that says nothing of people. */
    private long somebody() throws SQLException {
        return number("""
                select r.person_id from identity_record r join dataset d on d.id = r.dataset_id and d.name = 'Pass office people'
                join route_record e on e.source_key = r.key and e.route_id = %d
                join record_state s on s.route_id = e.route_id and s.ordinal = e.ordinal and s.record_id is not null
                where (select count(distinct x.route_id) from audience.sent x where x.person_id = r.person_id and x.state = 'SENT') >= 2
                  and (select count(*) from identity_record o where o.person_id = r.person_id) > 1
                  and not exists (select from person_address a join person_address o on o.hash = a.hash and o.person_id <> a.person_id
                    where a.person_id = r.person_id)
                order by 1 limit 1
                """.formatted(ids.passes()));
    }

    /** Texts that tell of a person and of nobody else: keys of the records, e-mail addresses and their hashes. */
    private List<String> tellTales(long person) throws SQLException {
        List<String> tales = new ArrayList<>();
        for (String sql : List.of(
                "select key from identity_record where person_id = " + person,
                "select distinct lower(cells ->> 'email') from identity_record where cells ->> 'email' <> '' and person_id = "
                        + person,
                "select hash from person_address where kind = 'EMAIL' and person_id = " + person)) {
            tales.addAll(texts(sql));
        }
        return tales;
    }

    private List<String> texts(String sql) throws SQLException {
        List<String> texts = new ArrayList<>();
        try (Connection connection = stack.databases.owner(stack.remittoDatabase);
                Statement statement = connection.createStatement();
                ResultSet rows = statement.executeQuery(sql)) {
            while (rows.next()) {
                texts.add(rows.getString(1));
            }
        }
        return texts;
    }

    /** By text, the tables in which it stands anywhere in a row. */
    private Map<String, List<String>> found(List<String> tales) throws SQLException {
        Map<String, List<String>> found = new TreeMap<>();
        List<String> tables = texts("""
                select format('%I.%I', n.nspname, c.relname) from pg_class c join pg_namespace n on n.oid = c.relnamespace
                where c.relkind = 'r' and n.nspname in ('public', 'audience', 'people')
                """);
        try (Connection connection = stack.databases.owner(stack.remittoDatabase)) {
            for (String table : tables) {
                try (PreparedStatement statement = connection.prepareStatement(
                        "select tale from unnest(?::text[]) as tale where exists (select from " + table
                                + " t where strpos(lower(t::text), lower(tale)) > 0)")) {
                    statement.setArray(1, connection.createArrayOf("text", tales.toArray()));
                    try (ResultSet rows = statement.executeQuery()) {
                        while (rows.next()) {
                            found.computeIfAbsent(rows.getString(1), tale -> new ArrayList<>())
                                    .add(table);
                        }
                    }
                }
            }
        }
        return found;
    }

    private void asAdministrator() {
        Api admin = stack.admin();
        assertThat(admin.get("/api/session").get("role").asString()).isEqualTo("ADMIN");
        browser.signIn(page, stack.server().address(), "admin");
    }

    private void awaitErasure(long id) {
        editor.until("/api/erasures/" + id, seen -> seen.has("finishedAt"));
    }

    @Test
    void nothingOfAnErasedPersonIsLeftAnywhereAndNothingComesBack() throws SQLException {
        putInService(ids.passes(), passes());
        JsonNode passes = run(ids.passes());
        long letters = audiences.write(address(stack.postbag.port()) + "/north");
        run(letters);
        long advertised = audiences.advertise("Commuters", audience.get("Frequent crossers"), lamplight, "commuters");
        JsonNode sent = run(advertised);
        long person = somebody();
        List<String> tales = tellTales(person);
        assertThat(found(tales).keySet()).as("all of it is known before").containsAll(tales);
        String pass = text("select key from identity_record where key like 'P-%' and person_id = " + person);
        String email = text("select email from people.person where person_id = " + person);
        assertThat(contacts()).contains(pass);
        int listedBefore = listed().size();

        asAdministrator();
        open("/people/" + person + "/file");
        assertThat(page.getByText("This view is recorded in the journal")).isVisible();
        assertThat(page.getByRole(
                                AriaRole.CELL,
                                new Page.GetByRoleOptions()
                                        .setName("Purser CRM")
                                        .setExact(true))
                        .first())
                .isVisible();
        assertThat(page.getByText("consent to the newsletter").first()).isVisible();
        assertThat(Browser.axe(page)).isEmpty();
        open("/people/" + person);
        page.getByRole(AriaRole.LINK, new Page.GetByRoleOptions().setName("Erase"))
                .click();
        assertThat(page.getByText("Nothing has happened yet")).isVisible();
        assertThat(Browser.axe(page)).isEmpty();
        assertThat(found(tales).keySet()).as("looking erases nothing").containsAll(tales);
        page.getByLabel("Request").fill("letter 2026-114");
        button("Erase person " + person).click();
        assertThat(page.getByRole(AriaRole.ALERTDIALOG)).containsText("cannot be stopped or undone");
        assertThat(Browser.axe(page)).isEmpty();
        assertThat(editor.get("/api/erasures")).as("it asks before it begins").isEmpty();
        button("Erase permanently").click();
        page.waitForURL("**/people/erasures/1");
        awaitErasure(1);
        assertThat(page.getByText("not yet")).hasCount(0);
        assertThat(page.getByRole(AriaRole.CELL, new Page.GetByRoleOptions().setName(Pattern.compile("^removed"))))
                .hasCount(3);
        assertThat(Browser.axe(page)).isEmpty();

        assertThat(found(tales)).isEmpty();
        assertThat(contacts()).doesNotContain(pass);
        assertThat(listed())
                .hasSize(listedBefore - 1)
                .doesNotContain(AddressHash.of(email, "NO").orElseThrow());
        assertThat(editor.get("/api/runs/" + sent.get("id").asLong()).get("counts"))
                .isEqualTo(sent.get("counts"));
        assertThat(editor.get("/api/runs/" + sent.get("id").asLong() + "/ladder")
                        .get("rungs"))
                .isNotEmpty();
        assertThat(lines(passes, "&find=Erased")).hasSize(1);

        people.join();
        audiences.refresh();
        JsonNode again = run(ids.passes());
        assertThat(lines(again, "&verdict=LEFT_OUT&code=erased"))
                .as("the row is still in the pass office, and is told apart by its key")
                .singleElement()
                .satisfies(line -> {
                    assertThat(line.get("reason").asString()).isEqualTo(ERASED);
                    assertThat(line.get("key").asString()).isEmpty();
                });
        // Others may have changed meanwhile: the warehouse counts days by its own clock.
        assertThat(sum(again, "added") + sum(again, "removed")).isZero();
        assertThat(sum(run(letters), "added")).isZero();
        assertThat(sum(run(advertised), "added")).isZero();
        stack.change(
                "insert into ferry.pass_holders (pass_number, given_name, family_name, email, country, status, mail_consent)"
                        + " select 'P-99999', given_name, family_name, email, country, status, mail_consent from ferry.pass_holders"
                        + " where pass_number = '" + pass + "'");
        people.join();
        audiences.refresh();
        assertThat(lines(run(ids.passes()), "&verdict=LEFT_OUT&code=erased"))
                .as("a new row with an address of the person is told apart as well")
                .hasSizeBetween(1, 2);
        assertThat(found(tales)).isEmpty();

        open("/people/erasures");
        page.getByLabel("E-mail address or phone number").fill(" " + email.toUpperCase());
        button("Check").click();
        assertThat(page.getByText("Rejected since")).isVisible();
        assertThat(Browser.axe(page)).isEmpty();
        stack.admin().post("/api/erasures/1/let-back-in", Map.of("reason", "signed up again"));
        people.join();
        assertThat(number("select count(*) from identity_record where key = '" + pass + "'"))
                .as("by their own request they come in again")
                .isEqualTo(1);
        assertThat(browser.errors()).isEmpty();
    }

    @Test
    void aDestinationThatDoesNotAnswerIsAskedUntilItDoes() throws SQLException {
        putInService(ids.passes(), passes());
        run(ids.passes());
        run(audiences.write(address(stack.postbag.port()) + "/north"));
        run(audiences.advertise("Commuters", audience.get("Frequent crossers"), lamplight, "commuters"));
        long person = somebody();
        String pass = text("select key from identity_record where key like 'P-%' and person_id = " + person);
        try {
            editor.post("/api/erasures", Map.of("personId", person, "reference", "letter 7"));
            throw new AssertionError("an editor erased a person");
        } catch (Api.Refused refused) {
            assertThat(refused.status()).isEqualTo(403);
        }
        stack.desk.faults("[{\"fault\":\"server-error\",\"on\":\"\",\"share\":1}]");
        stack.admin().post("/api/erasures", Map.of("personId", person, "reference", "letter 7"));
        JsonNode erasure = editor.until(
                "/api/erasures/1", seen -> seen.get("waitsFor").asString().contains("Purser"));
        assertThat(erasure.has("forgottenAt"))
                .as("here it is forgotten already")
                .isTrue();
        assertThat(contacts()).contains(pass);
        assertThat(erasure.get("removals").toString()).contains("PENDING").contains("REMOVED");
        stack.desk.faults("[]");
        stack.server().clock().set(Instant.parse("2026-11-20T15:10:00Z"));
        awaitErasure(1);
        assertThat(contacts()).doesNotContain(pass);
    }

    @Test
    void whatADestinationDoesNotLetGoIsDoneByHand() throws SQLException {
        HandOver guide = new HandOver(editor, scenario);
        long members = audience.get("Frequent crossers");
        long destination = guide.connect(new HandOver.Server(stack.slipway.sshPort(), stack.slipway.hostKey()));
        long route = guide.route("Island guide", members, destination, HandOver.everybody());
        JsonNode sent = run(route);
        String person = lines(sent, "&verdict=ADDED").get(0).get("key").asString();
        asAdministrator();
        open("/people/" + person + "/erase");
        page.getByLabel("Request").fill("letter 8");
        assertThat(page.getByText(Pattern.compile("1 file handed over to Island guide .* may hold rows of the person")))
                .isVisible();
        button("Erase person " + person).click();
        button("Erase permanently").click();
        assertThat(page.getByText("A delivered file cannot be removed by Remitto"))
                .isVisible();
        assertThat(Browser.axe(page)).isEmpty();
        assertThat(editor.get("/api/erasures/1").has("finishedAt"))
                .as("it is not done before somebody says so")
                .isFalse();
        button("Try again").click();
        assertThat(page.getByText("A delivered file cannot be removed by Remitto"))
                .isVisible();
        button("Mark as removed").click();
        assertThat(page.getByText("done manually")).isVisible();
        awaitErasure(1);
        JsonNode removal = editor.get("/api/erasures/1").get("removals").get(0);
        assertThat(removal.get("state").asString()).isEqualTo("DONE_BY_HAND");
        assertThat(removal.get("remoteId").asString()).as("not kept any longer").isEmpty();

        try {
            guide.route("A second route", members, destination, HandOver.everybody());
            throw new AssertionError("two routes write one file");
        } catch (Api.Refused refused) {
            assertThat(refused).hasMessageContaining("islanders is written by Island guide already");
        }
        assertThat(browser.errors()).isEmpty();
    }
}

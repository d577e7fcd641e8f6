package remitto.e2e;

import static com.microsoft.playwright.assertions.PlaywrightAssertions.assertThat;
import static org.assertj.core.api.Assertions.assertThat;

import com.iab.gpp.encoder.GppModel;
import com.iab.gpp.encoder.section.TcfEuV2;
import com.microsoft.playwright.Page;
import com.microsoft.playwright.options.AriaRole;
import java.net.URI;
import java.net.URLEncoder;
import java.nio.charset.StandardCharsets;
import java.sql.SQLException;
import java.time.Instant;
import java.time.ZoneOffset;
import java.time.ZonedDateTime;
import java.util.ArrayList;
import java.util.Collections;
import java.util.List;
import java.util.Map;
import java.util.regex.Pattern;
import org.junit.jupiter.api.Test;
import remitto.core.consent.AddressHash;
import remitto.core.fieldrule.FieldConsent;
import remitto.core.guard.Guards;
import remitto.core.route.Basis;
import remitto.core.route.FirstRun;
import remitto.core.route.RouteSpec;
import tools.jackson.databind.JsonNode;

/** Consents that come by address, in columns and in consent strings, and how often people are written to. */
class ConsentTest extends AudienceFixture {
    private static final ZonedDateTime SAID = ZonedDateTime.of(2026, 11, 19, 0, 0, 0, 0, ZoneOffset.UTC);

    private static String string(int... agreed) {
        List<Boolean> purposes = new ArrayList<>(Collections.nCopies(24, false));
        for (int purpose : agreed) {
            purposes.set(purpose - 1, true);
        }
        GppModel model = new GppModel();
        model.setFieldValue(TcfEuV2.NAME, "PurposeConsents", purposes);
        model.setFieldValue(TcfEuV2.NAME, "Created", SAID);
        model.setFieldValue(TcfEuV2.NAME, "LastUpdated", SAID);
        return model.encodeSection(TcfEuV2.NAME);
    }

    private List<String> emails(String where, int most) throws SQLException {
        return List.of(
                text("select string_agg(email, ' ') from (select lower(email) as email from people.person p where "
                                + where
                                + " and email is not null and not exists (select from person_address a join person_address o"
                                + " on o.hash = a.hash and o.person_id <> a.person_id where a.person_id = p.person_id)"
                                + " order by person_id limit " + most + ") as chosen")
                        .split(" "));
    }

    private String answer(String email, String purpose) throws SQLException {
        return text(
                "select coalesce(max(c.answer), 'NONE') from consent_answer c join person_address a on a.person_id = c.person_id"
                        + " where a.hash = '" + AddressHash.of(email, "NO").orElseThrow() + "' and c.purpose = '"
                        + purpose + "'");
    }

    @Test
    void answersOfADatasetHoldForWhoeverOwnsTheAddress() throws SQLException {
        List<String> some = emails("may_newsletter_email = 'yes'", 3);
        stack.change("create table ferry.preferences (address text, answer text, said timestamptz, form text)");
        stack.change("grant select on ferry.preferences to public");
        stack.change("insert into ferry.preferences values ('" + some.get(0).toUpperCase()
                + " ', 'no', '2026-11-19', 'page 4'),"
                + " ('" + AddressHash.of(some.get(1), "NO").orElseThrow() + "', 'No', '2026-11-19', 'page 4'),"
                + " ('" + some.get(2) + "', 'perhaps', '2026-11-19', ''), ('nobody', 'no', '2026-11-19', ''),"
                + " ('" + some.get(2) + "', 'no', null, '')");
        long dataset = scenario.dataset(
                ids.source(), "Preferences", "", "select * from ferry.preferences", Map.of("address", "KEY"));
        open("/audiences/consent");
        button("Add a dataset").click();
        page.getByLabel("Dataset", new Page.GetByLabelOptions().setExact(true)).selectOption("Preferences");
        page.getByLabel("Address or its hash in column").selectOption("address");
        page.getByLabel("Answer or consent string in column").selectOption("answer");
        page.getByLabel("Time of the answer in column").selectOption("said");
        page.getByLabel("Evidence in column").selectOption("form");
        assertThat(Browser.axe(page)).isEmpty();
        button("Use its answers").click();
        assertThat(page.getByText(
                        "2 answers, 1 with neither yes nor no, 1 with no e-mail address, phone number or hash,"
                                + " 1 with no time of the answer"))
                .isVisible();
        assertThat(answer(some.get(0), "newsletter")).isEqualTo("NO");
        assertThat(answer(some.get(1), "newsletter")).isEqualTo("NO");
        assertThat(answer(some.get(2), "newsletter")).isEqualTo("YES");
        stack.change("delete from ferry.preferences where answer = 'no'");
        editor.post("/api/consents/datasets/readings", Map.of());
        assertThat(answer(some.get(0), "newsletter"))
                .as("what vanished is not kept")
                .isEqualTo("YES");
        assertThat(answer(some.get(1), "newsletter")).isEqualTo("NO");
        editor.delete("/api/consents/datasets/" + dataset);
        assertThat(answer(some.get(1), "newsletter")).isEqualTo("YES");
        assertThat(browser.errors()).isEmpty();
    }

    @Test
    void consentStringsAreReadAsEvidence() throws SQLException {
        List<String> some = emails("true", 3);
        stack.change("create table ferry.banners (mail text, string text)");
        stack.change("grant select on ferry.banners to public");
        stack.change(
                "insert into ferry.banners values ('" + some.get(0) + "', '" + string(1, 3, 4) + "'), ('" + some.get(1)
                        + "', '" + string(1, 3) + "'), ('" + some.get(2) + "', 'BOEFEAyOEFEAyAHABDENAI4AAAB9vABAASA')");
        long dataset =
                scenario.dataset(ids.source(), "Banners", "", "select * from ferry.banners", Map.of("mail", "KEY"));
        JsonNode taken = editor.put(
                "/api/consents/datasets/" + dataset,
                Map.of(
                        "address", "mail",
                        "purpose", "profiled advertising",
                        "channel", "web",
                        "answer", "string",
                        "tcfPurposes", List.of(3, 4),
                        "saidAt", "",
                        "expires", "",
                        "evidence", ""));
        assertThat(taken.get(0).get("answers").asInt()).isEqualTo(2);
        assertThat(taken.get(0).get("unusable").toString())
                .isEqualTo("{\"no consent string, or one without this purpose\":1}");
        assertThat(answer(some.get(0), "profiled advertising")).isEqualTo("YES");
        assertThat(answer(some.get(1), "profiled advertising")).isEqualTo("NO");
        assertThat(answer(some.get(2), "profiled advertising")).isEqualTo("NONE");
        assertThat(text("select evidence from consent_record where origin like 'DATASET %' and answer = 'YES'"))
                .contains(string(1, 3, 4));
        assertThat(
                        text(
                                "select said_at at time zone 'UTC' from consent_record where origin like 'DATASET %' and answer = 'YES'"))
                .startsWith("2026-11-19 00:00:00");
        assertThat(editor.post("/api/consents/strings/reading", Map.of("text", string(2)))
                        .get("says")
                        .toString())
                .contains("purpose 2, select simple advertising: yes")
                .contains("purpose 3, build profiles for advertising: no");
    }

    @Test
    void nobodyIsWrittenToMoreOftenThanIsSaid() throws SQLException {
        long letters = audiences.write(address(stack.postbag.port()) + "/north");
        open("/audiences/consent");
        button("limit: any number of messages").click();
        page.getByLabel("Limited").check();
        page.getByLabel("Maximum messages").fill("1");
        page.getByLabel("In days").fill("7");
        page.keyboard().press("Escape");
        page.getByLabel("Letters, to Postbag Mail").check();
        page.getByRole(
                        AriaRole.BUTTON,
                        new Page.GetByRoleOptions().setName("Set").setExact(true))
                .click();
        assertThat(button("limit: at most 1 in 7 days")).isVisible();
        assertThat(Browser.axe(page)).isEmpty();
        JsonNode first = run(letters);
        assertThat(sum(first, "added")).isPositive();
        assertThat(number("select count(*) from person_message")).isEqualTo(sum(first, "added"));

        stack.change("update ferry.pass_holders set home_port = 'TAR'");
        people.join();
        audiences.refresh();
        JsonNode second = prepare(letters);
        assertThat(sum(second, "changed")).isZero();
        List<JsonNode> quiet = lines(second, "&code=quiet");
        assertThat(quiet).isNotEmpty().allSatisfy(line -> assertThat(
                        line.get("reason").asString())
                .isEqualTo("Was written to 1 time in 7 days; may be again from 27 November 15:00 UTC on"));
        JsonNode ladder = editor.get("/api/runs/" + second.get("id").asLong() + "/ladder");
        assertThat(ladder.get("rungs").get(1).get("losses").toString())
                .as("the ladder tells them")
                .contains("Was written to 1 time");
        String mail = text("select email from people.person where person_id = "
                + quiet.get(0).get("key").asString());
        editor.post("/api/consents/suppressions", Map.of("addresses", mail, "reason", "by letter"));
        assertThat(lines(prepare(letters), "&code=quiet"))
                .as("who is suppressed is left out for that, not for today only")
                .hasSizeLessThan(quiet.size());

        stack.server().clock().set(Instant.parse("2026-11-27T16:00:00Z"));
        JsonNode later = run(letters);
        assertThat(sum(later, "changed")).as("a week later it goes").isPositive();
        assertThat(lines(later, "&code=quiet")).isEmpty();
        assertThat(browser.errors()).isEmpty();
    }

    @Test
    void whoSaysNoWhileAManifestWaitsIsNotSentTo() throws SQLException {
        long advertised = audiences.advertise("Commuters", audience.get("Frequent crossers"), lamplight, "commuters");
        JsonNode prepared = prepare(advertised);
        List<JsonNode> added = lines(prepared, "&verdict=ADDED");
        String suppressed = added.get(0).get("key").asString();
        String withdrew = added.get(1).get("key").asString();
        stack.server().clock().set(Instant.parse("2026-11-20T15:05:00Z"));
        editor.post(
                "/api/consents/suppressions",
                Map.of(
                        "addresses",
                        text("select email from people.person where person_id = " + suppressed),
                        "reason",
                        "by letter"));
        editor.post(
                "/api/consents/people/" + withdrew,
                Map.of(
                        "purpose", "newsletter",
                        "channel", "email",
                        "yes", false,
                        "saidAt", "2026-11-20T15:02:00Z",
                        "evidence", "called the office"));
        JsonNode sent = send(prepared);
        assertThat(sent.get("state").asString()).isEqualTo("SENT");
        assertThat(outcome(sent, "FORBIDDEN")).isEqualTo(2);
        assertThat(outcome(sent, "ACKNOWLEDGED")).isEqualTo(sum(sent, "added") - 2);
        assertThat(listed()).hasSize((int) sum(sent, "added") - 2);
        assertThat(lines(sent, "&state=FORBIDDEN"))
                .extracting(line -> line.get("key").asString(), line -> line.get("answer")
                        .asString())
                .containsExactlyInAnyOrder(
                        org.assertj.core.groups.Tuple.tuple(
                                suppressed, "Since it was prepared: On the suppression list: by letter"),
                        org.assertj.core.groups.Tuple.tuple(
                                withdrew, "Since it was prepared: No consent to the newsletter"));
        JsonNode ladder =
                editor.get("/api/runs/" + sent.get("id").asLong() + "/ladder").get("rungs");
        assertThat(ladder.get(4).get("people").asLong()).isEqualTo(outcome(sent, "ACKNOWLEDGED"));
        assertThat(ladder.get(1).get("losses").toString()).contains("Since it was prepared: No consent");
        JsonNode after = prepare(advertised);
        assertThat(sum(after, "added")).as("nor later").isZero();
    }

    @Test
    void twoRoutesThatWaitedTogetherWriteNoMoreOftenThanIsSaid() throws SQLException {
        long letters = audiences.write(address(stack.postbag.port()) + "/north");
        long advertised = audiences.advertise("Commuters", audience.get("Frequent crossers"), lamplight, "commuters");
        editor.put(
                "/api/consents/frequency-cap",
                Map.of("limit", Map.of("most", 1, "days", 7), "routes", List.of(letters, advertised)));
        JsonNode first = prepare(letters);
        JsonNode second = prepare(advertised);
        assertThat(sum(first, "added")).isPositive();
        assertThat(sum(second, "added")).as("nobody was written to yet").isPositive();
        editor.post("/api/runs/" + first.get("id").asLong() + "/send", Map.of());
        editor.post("/api/runs/" + second.get("id").asLong() + "/send", Map.of());
        JsonNode one = editor.await(first.get("id").asLong());
        JsonNode other = editor.await(second.get("id").asLong());
        assertThat(number(
                        "select coalesce(max(n), 0) from (select count(*) n from person_message group by person_id) m"))
                .isEqualTo(1);
        assertThat(outcome(one, "FORBIDDEN") + outcome(other, "FORBIDDEN"))
                .as("each of them is written to by one of the two")
                .isEqualTo(sum(second, "added"));
        assertThat(outcome(one, "ACKNOWLEDGED") + outcome(other, "ACKNOWLEDGED"))
                .isEqualTo(number("select count(*) from person_message"));
    }

    @Test
    void aNoToAFieldGoesThoughItsPersonHadEnough() throws SQLException {
        long letters = audiences.write(address(stack.postbag.port()) + "/north");
        RouteSpec before = editorSpec(letters);
        putInService(
                letters,
                RouteSpec.of(
                                before.mode(),
                                before.match(),
                                before.rules().stream()
                                        .map(rule -> rule.field().equals("port")
                                                ? rule.consent(
                                                        new FieldConsent("the newsletter", "may_newsletter_email"))
                                                : rule)
                                        .toList(),
                                new Basis.Stated("a contract of carriage"),
                                Guards.none(),
                                before.schedule())
                        .firstRun(FirstRun.AlreadyThere.ADOPT, FirstRun.OlderRows.SEND));
        audiences.limitMessages(1, 7, letters);
        run(letters);
        String person = text("select min(person_id) from people.person where may_newsletter_email = 'yes'"
                + " and home_port is not null and email is not null");
        String mail = text("select lower(email) from people.person where person_id = " + person);
        assertThat(port(mail)).isNotBlank();
        editor.post(
                "/api/consents/people/" + person,
                Map.of("purpose", "newsletter", "channel", "email", "yes", false, "evidence", "by phone"));
        JsonNode sent = run(letters);
        assertThat(outcome(sent, "FORBIDDEN")).isZero();
        assertThat(lines(sent, "&verdict=CHANGED"))
                .extracting(line -> line.get("key").asString())
                .containsExactly(person);
        assertThat(port(mail)).as("what was put there is taken back").isBlank();
    }

    /** As Postbag's own page of the person shows it. */
    private String port(String mail) {
        Page postbag = browser.open(URI.create(address(stack.postbag.port())
                + "/segment?trait=mail&how=the+same+as&than=" + URLEncoder.encode(mail, StandardCharsets.UTF_8)));
        postbag.getByRole(AriaRole.LINK, new Page.GetByRoleOptions().setName(Pattern.compile("^\\d+$")))
                .click();
        String port = postbag.getByRole(
                        AriaRole.ROW, new Page.GetByRoleOptions().setName(Pattern.compile("^Home port")))
                .getByRole(AriaRole.CELL)
                .last()
                .innerText();
        postbag.close();
        return port;
    }
}

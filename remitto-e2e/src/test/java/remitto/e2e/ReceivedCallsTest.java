package remitto.e2e;

import static com.microsoft.playwright.assertions.PlaywrightAssertions.assertThat;
import static org.assertj.core.api.Assertions.assertThat;

import com.microsoft.playwright.Locator;
import com.microsoft.playwright.Page;
import com.microsoft.playwright.options.AriaRole;
import java.net.URI;
import java.net.http.HttpClient;
import java.net.http.HttpRequest;
import java.net.http.HttpResponse;
import java.time.Instant;
import java.util.Map;
import java.util.concurrent.TimeUnit;
import org.junit.jupiter.api.Test;
import remitto.core.fieldrule.FieldRule;
import remitto.core.fieldrule.IfEmpty;
import remitto.core.fieldrule.Receives;
import remitto.core.guard.Guards;
import remitto.core.route.Basis;
import remitto.core.route.FirstRun;
import remitto.core.route.Mode;
import remitto.core.route.RouteSpec;
import remitto.core.timetable.Schedule;
import remitto.standins.ticketshop.SignedCall;
import tools.jackson.databind.JsonNode;

/** A tool that calls when something happens there, from the address that is pasted into it to the record in another. */
class ReceivedCallsTest extends RouteRunsFixture {
    private static final HttpClient HTTP = HttpClient.newHttpClient();

    ReceivedCallsTest() {
        super(200);
    }

    private static void press(Page page, String button) {
        page.getByRole(
                        AriaRole.BUTTON,
                        new Page.GetByRoleOptions().setName(button).setExact(true))
                .click();
    }

    private static void follow(Page page, String link) {
        page.getByRole(AriaRole.LINK, new Page.GetByRoleOptions().setName(link)).click();
    }

    private static int call(HttpRequest request) throws Exception {
        return HTTP.send(request, HttpResponse.BodyHandlers.ofString()).statusCode();
    }

    private static String company(String no, String name) {
        return "{\"type\":\"company.added\",\"company\":{\"no\":\"" + no + "\",\"name\":" + name + "}}";
    }

    @Test
    void aCallIsCaughtLaidOutAndSentOn() throws Exception {
        try (Browser browser = new Browser()) {
            Page page = browser.open(stack.server().address());
            browser.signIn(page, stack.server().address(), "editor");
            page.navigate(stack.server().address().resolve("/sources/new").toString());
            page.getByLabel("Kind of source").selectOption("calls");
            page.getByLabel("Name").fill("Calls of partners");
            press(page, "Save and test");
            follow(page, "New receiver");
            page.getByLabel("Receiver", new Page.GetByLabelOptions().setExact(true))
                    .fill("Freight desk");
            press(page, "Save receiver");
            assertThat(page.getByText("Waiting for the first call")).isVisible();
            press(page, "Show address and secret");
            SignedCall tool = new SignedCall(
                    URI.create(page.getByLabel("Address", new Page.GetByLabelOptions().setExact(true))
                            .textContent()),
                    page.getByLabel("Secret", new Page.GetByLabelOptions().setExact(true))
                            .textContent());

            assertThat(call(tool.of("m1", company("K-1", "\"Bjørnøy Frakt\""), Instant.now())))
                    .isEqualTo(200);
            assertThat(page.getByText("1 call caught as samples")).isVisible();
            assertThat(call(tool.of("m2", company("K-2", "{}"), Instant.now()))).isEqualTo(200);
            assertThat(call(tool.of("m1", company("K-1", "\"Bjørnøy Frakt\""), Instant.now())))
                    .isEqualTo(200);
            assertThat(call(tool.of("m3", company("K-3", "\"x\""), Instant.now().minusSeconds(4_000))))
                    .isEqualTo(401);
            Locator calls = page.getByRole(AriaRole.TABLE, new Page.GetByRoleOptions().setName("Last calls"));
            assertThat(calls.getByText("refused")).isVisible();
            assertThat(calls.getByText("more than the 300 that are allowed")).isVisible();

            follow(page, "Choose columns");
            page.getByLabel("Keep company.no").check();
            page.getByLabel("Keep company.name").check();
            page.getByLabel("Name of company.no").fill("no");
            page.getByLabel("Name of company.name").fill("name");
            assertThat(page.getByRole(AriaRole.CELL, new Page.GetByRoleOptions().setName("Bjørnøy Frakt"))
                            .first())
                    .isVisible();
            press(page, "Save receiver");
            assertThat(calls.getByText("known already")).isVisible();
            assertThat(calls.getByText("in the table").first()).isVisible();
            follow(page, "New dataset");
            press(page, "Run preview");
            assertThat(page.getByRole(AriaRole.CELL, new Page.GetByRoleOptions().setName("K-2")))
                    .isVisible();
            assertThat(browser.errors()).isEmpty();
        }
        long source = editor.get("/api/sources")
                .valueStream()
                .filter(one -> one.get("name").asString().equals("Calls of partners"))
                .findFirst()
                .orElseThrow()
                .get("id")
                .asLong();
        long dataset = scenario.dataset(
                source, "Freight desk", "", "select no, name from landed.freight_desk", Map.of("no", "KEY"));
        long route = scenario.route("Freight desk to Purser", dataset, ids.purser(), "company", spec());
        assertThat(outcome(run(route), "ACKNOWLEDGED")).isEqualTo(2);
        assertThat(there("company", "vat_number", "name")).containsEntry("K-1", "Bjørnøy Frakt");

        JsonNode receiver = editor.get("/api/receivers").get(0);
        JsonNode address = editor.post("/api/receivers/" + receiver.get("id").asLong() + "/address/show", Map.of());
        SignedCall tool = new SignedCall(
                URI.create(address.get("url").asString()), address.get("secret").asString());
        assertThat(call(tool.of("m4", company("K-4", "\"Vik Sjø\""), Instant.now())))
                .isEqualTo(200);
        while (editor.get("/api/receivers/" + receiver.get("id").asLong())
                        .get("counts")
                        .get("waiting")
                        .asLong()
                > 0) {
            TimeUnit.MILLISECONDS.sleep(20);
        }
        JsonNode again = run(route);
        assertThat(sum(again, "added")).isEqualTo(1);
        assertThat(there("company", "vat_number", "name")).containsEntry("K-4", "Vik Sjø");
    }

    private static RouteSpec spec() {
        return RouteSpec.of(
                        Mode.ADD_OR_UPDATE,
                        java.util.List.of("vat_number"),
                        java.util.List.of(
                                FieldRule.of("vat_number", new Receives.FromColumn("no"))
                                        .ifEmpty(IfEmpty.HOLD_RECORD),
                                FieldRule.of("name", new Receives.FromColumn("name"))
                                        .ifEmpty(IfEmpty.HOLD_RECORD)),
                        new Basis.NotStated(),
                        Guards.none(),
                        new Schedule.ByHand("Europe/Oslo"))
                .firstRun(FirstRun.AlreadyThere.ADOPT, FirstRun.OlderRows.SEND);
    }
}

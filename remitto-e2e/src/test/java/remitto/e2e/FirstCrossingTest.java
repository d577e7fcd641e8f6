package remitto.e2e;

import static com.microsoft.playwright.assertions.PlaywrightAssertions.assertThat;
import static org.assertj.core.api.Assertions.assertThat;

import com.microsoft.playwright.Locator;
import com.microsoft.playwright.Page;
import com.microsoft.playwright.options.AriaRole;
import com.microsoft.playwright.options.ColorScheme;
import java.util.List;
import java.util.regex.Pattern;
import org.junit.jupiter.api.AfterEach;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;
import remitto.demo.Databases;
import remitto.demo.history.Scenario;

/** The real interface in a browser, from an empty Remitto to one changed row that sends exactly one record. */
class FirstCrossingTest {
    private Stack stack;
    private Browser browser;
    private Page page;

    @BeforeEach
    void start() throws Exception {
        stack = Stack.start(300);
        browser = new Browser();
    }

    @AfterEach
    void stop() throws Exception {
        browser.close();
        stack.close();
    }

    private void signIn() {
        stack.user("EDITOR");
        page = browser.open(stack.server().address());
        page.getByLabel("E-mail").fill("editor@halvorn.example");
        page.getByLabel("Password").fill(Stack.PASSWORD);
        button("Sign in").click();
        assertThat(page.getByRole(AriaRole.HEADING, new Page.GetByRoleOptions().setName("Departures")))
                .isVisible();
    }

    private Locator button(String name) {
        return page.getByRole(
                AriaRole.BUTTON, new Page.GetByRoleOptions().setName(name).setExact(true));
    }

    private Locator token(String label) {
        return page.getByRole(AriaRole.BUTTON, new Page.GetByRoleOptions().setName(Pattern.compile("^" + label)));
    }

    private void stop(String name) {
        page.getByRole(AriaRole.NAVIGATION, new Page.GetByRoleOptions().setName("Main navigation"))
                .getByRole(AriaRole.LINK, new Locator.GetByRoleOptions().setName(Pattern.compile("^" + name)))
                .click();
        // What stands on the page before may lead elsewhere by the same words.
        assertThat(page.getByRole(
                                AriaRole.HEADING,
                                new Page.GetByRoleOptions().setName(name).setExact(true))
                        .first())
                .isVisible();
    }

    private Locator label(String name) {
        return page.getByLabel(name, new Page.GetByLabelOptions().setExact(true));
    }

    @Test
    void fromStartToOneRowChange() {
        signIn();

        stop("Sources");
        page.getByRole(AriaRole.LINK, new Page.GetByRoleOptions().setName("Connect a source"))
                .first()
                .click();
        page.getByLabel("Name").fill("Halvorn warehouse");
        label("Host").fill("127.0.0.1");
        label("Port").fill(Integer.toString(stack.databases.port()));
        label("Database").fill(stack.warehouseDatabase);
        label("TLS").selectOption("OFF");
        label("User").fill(Databases.READER);
        label("Password").fill("wrong");
        button("Save and test").click();
        assertThat(page.getByRole(AriaRole.ALERT)).containsText("refused user " + Databases.READER);
        label("Password").fill(Databases.READER_PASSWORD);
        button("Save and test").click();
        assertThat(page.getByText("What it can reach")).isVisible();
        assertThat(page.getByLabel("Grant statements")).containsText("grant select on all tables in schema ferry");

        stop("Destinations");
        page.getByRole(AriaRole.LINK, new Page.GetByRoleOptions().setName("Connect a destination"))
                .first()
                .click();
        label("Profile").selectOption("purser-crm");
        label("Name").fill("Purser CRM");
        label("Address").fill(stack.purserAddress().toString());
        label("Client id").fill("remitto-demo");
        label("Client secret").fill("gangplank-7731");
        button("Save and test").click();
        assertThat(page.getByText("Custom fields, 22")).isVisible();
        assertThat(page.getByText("not writable by this login")).isVisible();

        stop("Datasets");
        page.getByRole(AriaRole.LINK, new Page.GetByRoleOptions().setName("New dataset"))
                .first()
                .click();
        label("Name").fill("Pass holders");
        query("select pass_nmber from ferry.pass_holders");
        button("Run preview").click();
        assertThat(page.getByText("(at character 8)")).isVisible();
        query(Scenario.PASSES_SQL);
        button("Run preview").click();
        page.getByLabel("Role of pass_number").selectOption("KEY");
        page.getByLabel("Role of birth_date").selectOption("SENSITIVE");
        page.getByLabel("Role of mail_consent").selectOption("CONSENT");
        page.getByLabel("Role of updated_at").selectOption("UPDATED_AT");
        button("Check key").click();
        assertThat(page.getByText("every row has a unique key")).isVisible();
        button("Save version 1").click();
        button("Put version 1 in service").click();
        button("Put in service").click();
        assertThat(page.getByText("Version 1 is in service.")).isVisible();

        stop("Routes");
        page.getByRole(AriaRole.LINK, new Page.GetByRoleOptions().setName("New route"))
                .first()
                .click();
        label("Name").fill("Commuter passes");
        label("Object").selectOption("contact");
        button("Propose rules").click();
        assertThat(page.getByText("Records of Contact are people: state the consent or another legal basis."))
                .isVisible();
        token("Legal basis").click();
        page.getByLabel("only with consent").check();
        page.getByLabel("Purpose").fill("mail about your pass");
        page.keyboard().press("Escape");
        assertThat(page.getByText("Choose what the first run does with records already in the destination"))
                .isVisible();
        token("On the first run").click();
        page.getByLabel("matching records already in the destination are adopted")
                .check();
        page.getByLabel("rows older than the route are sent").check();
        page.keyboard().press("Escape");
        page.getByLabel("Add a rule for a field").selectOption("external_ref");
        page.getByLabel("Column", new Page.GetByLabelOptions().setExact(true)).selectOption("pass_number");
        token("Match by ").first().click();
        page.getByLabel("Key field").selectOption("external_ref");
        page.keyboard().press("Escape");
        button("mobile").click();
        page.getByLabel("Column with the country").selectOption("country");
        page.getByLabel("Add a rule for a field").selectOption("pass_status");
        page.getByLabel("What pass_status receives").selectOption("expression");
        expression("pass_status", "status == \"active\" ? \"current\" : statu");
        assertThat(page.getByText(Pattern.compile("undeclared reference to 'statu'"))
                        .first())
                .isVisible();
        expression("pass_status", "status == \"active\" ? \"current\" : \"former\"");
        Locator followed = page.getByLabel("One record, followed");
        page.getByLabel("Choose a row").fill("P-2");
        assertThat(followed.getByText("Now in the destination")).isVisible();
        assertThat(page.getByText(Pattern.compile("undeclared reference"))).hasCount(0);
        button("Save version 2").click();
        button("Put version 2 in service").click();
        assertThat(page.getByText("Nothing is sent before a manifest is prepared and sent."))
                .isVisible();
        button("Put in service").click();
        button("Prepare manifest").click();

        assertThat(page.getByText("Nothing has been sent.")).isVisible();
        assertThat(new WriteLog(stack.folder).effects("contact")).isEmpty();
        button("Send " + addedCount()).click();
        assertThat(page.getByText("acknowledged", new Page.GetByTextOptions().setExact(true)))
                .isVisible();
        int added = new WriteLog(stack.folder).effects("contact").size();
        assertThat(Integer.toString(added)).isEqualTo(addedCount());

        String key =
                page.getByRole(AriaRole.CELL).getByRole(AriaRole.BUTTON).first().textContent();
        assertThat(stack.desk.find("contact", key)).as("seen in the CRM").isPresent();

        assertThat(stack.change(
                        "update ferry.pass_holders set given_name = 'Runa Elise' where pass_number = '" + key + "'"))
                .isEqualTo(1);
        button("Prepare manifest").click();
        button("Send 1").click();
        assertThat(page.getByText("acknowledged", new Page.GetByTextOptions().setExact(true)))
                .isVisible();
        assertThat(page.getByText("Runa Elise", new Page.GetByTextOptions().setExact(true)))
                .isVisible();
        assertThat(new WriteLog(stack.folder)
                        .effects("contact").values().stream()
                                .mapToInt(Integer::intValue)
                                .sum())
                .as("exactly one record went out")
                .isEqualTo(added + 1);
        assertThat(browser.errors()).isEmpty();
    }

    private String addedCount() {
        String text =
                page.getByLabel("Verdicts").getByRole(AriaRole.BUTTON).first().textContent();
        return text.replaceAll("\\D", "");
    }

    private void query(String sql) {
        Locator editor = page.getByRole(AriaRole.TEXTBOX, new Page.GetByRoleOptions().setName("Query"));
        editor.fill(sql);
    }

    private void expression(String field, String text) {
        page.getByRole(AriaRole.TEXTBOX, new Page.GetByRoleOptions().setName("Expression for " + field))
                .fill(text);
    }

    @Test
    void axeFindsNothingOnAnyView() {
        var editor = stack.user("EDITOR");
        var ids = new Scenario(editor).setUp(stack.places());
        long run = editor.post("/api/routes/" + ids.passes() + "/runs", java.util.Map.of())
                .get("runId")
                .asLong();
        editor.await(run);
        stack.desk.add("contact", java.util.Map.of("external_ref", "DESK-1", "family_name", "Stray"));
        long stocktake = editor.post(
                        "/api/destinations/" + ids.purser() + "/objects/contact/stocktakes", java.util.Map.of())
                .get("id")
                .asLong();
        editor.post(
                "/api/crosswalks",
                java.util.Map.of(
                        "name",
                        "Words",
                        "description",
                        "",
                        "entries",
                        List.of(java.util.Map.of("from", "active", "to", "current"))));
        String record = stack.desk.find("contact", "DESK-1").orElseThrow();
        signIn();
        for (String path : List.of(
                "/crosswalks/1",
                "/crosswalks/new",
                "/destinations/" + ids.purser() + "/contact",
                "/explain?destination=" + ids.purser() + "&object=contact&record=" + record + "&field=family_name",
                "/departures",
                "/sources",
                "/sources/1",
                "/sources/2",
                "/datasets",
                "/datasets/1",
                "/people",
                "/people/rules",
                "/companies",
                "/audiences",
                "/routes",
                "/routes/1",
                "/routes/new",
                "/destinations",
                "/destinations/1",
                "/manifests/" + run,
                "/stocktakes/" + stocktake,
                "/held",
                "/journal")) {
            page.navigate(stack.server().address() + path);
            page.waitForLoadState(com.microsoft.playwright.options.LoadState.NETWORKIDLE);
            assertThat(Browser.axe(page)).as(path).isEmpty();
            page.emulateMedia(new Page.EmulateMediaOptions().setColorScheme(ColorScheme.DARK));
            assertThat(Browser.axe(page)).as(path + " in the dark").isEmpty();
            page.emulateMedia(new Page.EmulateMediaOptions().setColorScheme(ColorScheme.LIGHT));
            assertThat((Boolean) page.evaluate("() => document.documentElement.scrollWidth <= innerWidth"))
                    .as("no sideways scroll on " + path)
                    .isTrue();
        }
        assertThat(browser.errors()).isEmpty();
    }
}

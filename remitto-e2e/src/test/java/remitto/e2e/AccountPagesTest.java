package remitto.e2e;

import static com.microsoft.playwright.assertions.PlaywrightAssertions.assertThat;
import static org.assertj.core.api.Assertions.assertThat;

import com.microsoft.playwright.Locator;
import com.microsoft.playwright.Page;
import com.microsoft.playwright.options.AriaRole;
import com.microsoft.playwright.options.LoadState;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import org.junit.jupiter.api.AfterAll;
import org.junit.jupiter.api.BeforeAll;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.TestInstance;
import remitto.demo.history.Api;
import remitto.demo.history.Scenario;

/** What people decide about accounts, in the browser: rights, sessions, archiving. */
@TestInstance(TestInstance.Lifecycle.PER_CLASS)
class AccountPagesTest {
    private Stack stack;
    private Api editor;
    private Scenario.Ids ids;

    @BeforeAll
    void start() throws Exception {
        stack = Stack.start(80);
        editor = stack.user("EDITOR");
        ids = new Scenario(editor).setUp(stack.places());
    }

    @AfterAll
    void stop() throws Exception {
        stack.close();
    }

    private Page signedIn(Browser browser, String name) {
        Page page = browser.open(stack.server().address());
        browser.signIn(page, stack.server().address(), name);
        return page;
    }

    private static void press(Page page, String name) {
        page.getByRole(
                        AriaRole.BUTTON,
                        new Page.GetByRoleOptions().setName(name).setExact(true))
                .click();
    }

    @Test
    void anAdministratorGivesARightAndTakesAnAccountAway() {
        try (Browser browser = new Browser()) {
            Page page = signedIn(browser, "admin");
            Api approver = stack.user("APPROVER");
            page.navigate(stack.server().address().resolve("/users").toString());
            press(page, "APPROVER person");
            page.getByRole(AriaRole.GROUP, new Page.GetByRoleOptions().setName("Rights of this user"))
                    .getByText("See sensitive values")
                    .click();
            press(page, "Save user");
            assertThat(page.getByRole(AriaRole.ROW, new Page.GetByRoleOptions().setName("APPROVER person")))
                    .containsText("See sensitive values");
            assertThat(approver.get("/api/session").get("rights").toString()).contains("SEE_SENSITIVE_VALUES");
            assertThat(Browser.axe(page)).isEmpty();
            press(page, "Deactivate");
            assertThat(page.getByText("deactivated", new Page.GetByTextOptions().setExact(true)))
                    .isVisible();
            org.assertj.core.api.Assertions.assertThatThrownBy(() -> approver.get("/api/routes"))
                    .hasMessageContaining("401");
            press(page, "Activate");
            assertThat(page.getByText("deactivated", new Page.GetByTextOptions().setExact(true)))
                    .hasCount(0);
        }
    }

    @Test
    void somebodyEndsASessionOfTheirOwn() {
        try (Browser browser = new Browser()) {
            Page page = signedIn(browser, "editor");
            page.navigate(stack.server().address().resolve("/account").toString());
            assertThat(page.getByText("this session")).isVisible();
            assertThat(Browser.axe(page)).isEmpty();
            page.getByRole(AriaRole.BUTTON, new Page.GetByRoleOptions().setName("End session"))
                    .first()
                    .click();
            assertThat(page.getByText("this session")).isVisible();
            editor = stack.user("EDITOR");
        }
    }

    @Test
    void whatIsUsedIsNotArchivedAndThePageSaysByWhat() {
        try (Browser browser = new Browser()) {
            Page page = signedIn(browser, "editor");
            page.navigate(stack.server()
                    .address()
                    .resolve("/destinations/" + ids.purser())
                    .toString());
            press(page, "Archive");
            assertThat(page.getByRole(AriaRole.ALERTDIALOG)).containsText("Archive destination Purser CRM");
            assertThat(Browser.axe(page)).isEmpty();
            press(page, "Archive destination");
            assertThat(page.getByRole(AriaRole.ALERT)).containsText("is used by route");
            press(page, "Cancel");
            page.navigate(
                    stack.server().address().resolve("/routes/" + ids.churn()).toString());
            press(page, "Archive");
            press(page, "Archive route");
            page.waitForURL("**/routes");
            assertThat(page.getByText("Churn score")).hasCount(0);
            assertThat(editor.get("/api/journal").toString()).contains("archived route");
        }
    }

    @Test
    void aViewerSeesNoValueAndNoDownload() {
        editor.await(editor.post("/api/routes/" + ids.passes() + "/runs", Map.of())
                .get("runId")
                .asLong());
        stack.user("VIEWER");
        try (Browser browser = new Browser()) {
            Page page = signedIn(browser, "viewer");
            page.navigate(stack.server().address().resolve("/manifests/1").toString());
            assertThat(page.locator("main")).containsText("e-mail …");
            assertThat(page.getByText("JSON Lines")).hasCount(0);
            assertThat(page.content()).doesNotContainPattern("[a-z]+@[a-z]+\\.example");
        }
    }

    private List<String> pages() {
        return List.of(
                "/",
                "/sources",
                "/sources/" + ids.source(),
                "/datasets",
                "/datasets/1",
                "/people",
                "/people/rules",
                "/people/review",
                "/people/erasures",
                "/companies",
                "/audiences",
                "/audiences/measures",
                "/audiences/events",
                "/audiences/consent",
                "/routes",
                "/routes/" + ids.passes(),
                "/destinations",
                "/destinations/" + ids.purser(),
                "/destinations/" + ids.purser() + "/contact",
                "/profiles/purser-crm",
                "/explain",
                "/manifests/1",
                "/held",
                "/journal",
                "/account",
                "/retention");
    }

    /** Nothing that a viewer is shown, and nothing that they can press, is refused to them. */
    @Test
    void aViewerIsShownNothingThatIsRefusedToThem() {
        editor.await(editor.post("/api/routes/" + ids.passes() + "/runs", Map.of())
                .get("runId")
                .asLong());
        stack.user("VIEWER");
        try (Browser browser = new Browser()) {
            Page page = signedIn(browser, "viewer");
            List<String> refused = new ArrayList<>();
            page.onResponse(response -> {
                if (response.status() == 403) {
                    refused.add(page.url() + ": " + response.request().method() + " " + response.url());
                }
            });
            for (String path : pages()) {
                page.navigate(stack.server().address().resolve(path).toString());
                page.waitForLoadState(LoadState.NETWORKIDLE);
                assertThat(page.locator("main h1")).isVisible();
                pressAll(page);
            }
            assertThat(refused).isEmpty();
            assertThat(browser.errors()).isEmpty();
        }
    }

    private static void pressAll(Page page) {
        Locator buttons = page.locator("main button:enabled:visible");
        String here = page.url();
        for (int i = 0; i < buttons.count(); i++) {
            String name = buttons.nth(i).innerText();
            // A download is let through or not by its own test, and what ends the session ends the walk.
            if (!name.contains("End session") && !name.contains("Change password")) {
                buttons.nth(i)
                        .click(new Locator.ClickOptions().setTimeout(5_000).setForce(true));
                page.keyboard().press("Escape");
            }
            if (!page.url().equals(here)) {
                page.navigate(here);
            }
        }
        page.waitForLoadState(LoadState.NETWORKIDLE);
    }
}

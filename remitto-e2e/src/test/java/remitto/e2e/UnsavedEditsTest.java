package remitto.e2e;

import static com.microsoft.playwright.assertions.PlaywrightAssertions.assertThat;
import static org.assertj.core.api.Assertions.assertThat;

import com.microsoft.playwright.Locator;
import com.microsoft.playwright.Page;
import com.microsoft.playwright.options.AriaRole;
import java.util.List;
import java.util.Map;
import java.util.regex.Pattern;
import org.junit.jupiter.api.Test;
import remitto.core.fieldrule.FieldRule;
import remitto.core.fieldrule.Receives;
import remitto.core.shaper.UpperCase;

/** Work is never lost on the way, and one field has one owner, as somebody meets it in the browser. */
class UnsavedEditsTest extends RouteRunsFixture {
    UnsavedEditsTest() {
        super(60);
    }

    private static Locator button(Page page, String name) {
        return page.getByRole(
                AriaRole.BUTTON, new Page.GetByRoleOptions().setName(name).setExact(true));
    }

    private void stop(Page page, String name) {
        page.getByRole(AriaRole.LINK, new Page.GetByRoleOptions().setName(Pattern.compile("^" + name)))
                .first()
                .click();
    }

    @Test
    void anEditThatWasAbandonedIsFoundAgain() {
        putInService(ids.passes(), passes());
        try (Browser browser = new Browser()) {
            Page page = browser.open(stack.server().address());
            browser.signIn(page, stack.server().address(), "editor");
            String route = "/routes/" + ids.passes();
            int saved = editor.get("/api" + route).get("latestVersion").asInt();
            page.navigate(stack.server().address().resolve(route).toString());
            button(page, "given_name").click();
            page.getByLabel("If empty", new Page.GetByLabelOptions().setExact(true))
                    .selectOption("CLEAR");
            stop(page, "Datasets");
            assertThat(page.getByRole(AriaRole.HEADING, new Page.GetByRoleOptions().setName("Datasets"))
                            .first())
                    .isVisible();

            page.navigate(stack.server().address().resolve(route).toString());
            assertThat(page.getByText("Restored your unsaved changes from")).isVisible();
            assertThat(button(page, "Prepare version " + saved)).isVisible();
            assertThat(Browser.axe(page)).isEmpty();
            button(page, "given_name").click();
            assertThat(page.getByLabel("If empty", new Page.GetByLabelOptions().setExact(true)))
                    .hasValue("CLEAR");
            assertThat(editor.get("/api" + route).get("latestVersion").asInt()).isEqualTo(saved);

            stop(page, "Datasets");
            page.getByRole(AriaRole.LINK, new Page.GetByRoleOptions().setName("New dataset"))
                    .first()
                    .click();
            page.getByLabel("Name", new Page.GetByLabelOptions().setExact(true)).fill("Ferry ports");
            page.getByRole(AriaRole.TEXTBOX, new Page.GetByRoleOptions().setName("Query"))
                    .fill("select port from ferry.ports");
            stop(page, "Routes");
            page.navigate(stack.server().address().resolve("/account").toString());
            assertThat(page.getByRole(AriaRole.LINK, new Page.GetByRoleOptions().setName("Commuter passes")))
                    .isVisible();
            page.getByRole(AriaRole.LINK, new Page.GetByRoleOptions().setName("New dataset"))
                    .click();
            assertThat(page.getByLabel("Name", new Page.GetByLabelOptions().setExact(true)))
                    .hasValue("Ferry ports");
            assertThat(page.getByRole(AriaRole.TEXTBOX, new Page.GetByRoleOptions().setName("Query")))
                    .containsText("select port from ferry.ports");
            button(page, "Discard changes").click();
            assertThat(page.getByText("Nothing is saved yet.")).isVisible();
            assertThat(browser.errors()).isEmpty();
        }
    }

    @Test
    void aNewRouteIntoAFieldThatOthersWriteAsksWhoseValueWins() {
        putInService(ids.passes(), passes());
        send(prepare(ids.passes()));
        long later = editor.post(
                        "/api/routes/" + ids.passes() + "/copy",
                        Map.of("name", "Loud names", "destinationId", ids.purser(), "object", "contact"))
                .get("id")
                .asLong();
        List<FieldRule> rules = new java.util.ArrayList<>(passes().rules());
        rules.removeIf(rule -> rule.field().equals("given_name"));
        rules.add(FieldRule.of("given_name", new Receives.FromColumn("given_name"), new UpperCase()));
        int copied = editor.get("/api/routes/" + later).get("latestVersion").asInt();
        editor.post(
                "/api/routes/" + later + "/versions",
                Map.of("name", "Loud names", "basedOn", copied, "note", "", "spec", passes().rules(rules)));
        try (Browser browser = new Browser()) {
            Page page = browser.open(stack.server().address());
            browser.signIn(page, stack.server().address(), "admin");
            page.navigate(stack.server().address().resolve("/routes/" + later).toString());
            button(page, "given_name").click();
            assertThat(page.getByText("writes it too")).isVisible();
            assertThat(page.getByText("Nobody has decided, so the run that sends last wins.")
                            .first())
                    .isVisible();
            button(page, "Put version " + (copied + 1) + " in service").click();
            assertThat(button(page, "Put in service")).isDisabled();
            assertThat(page.getByText("Choose whose value wins in given_name.")).isVisible();
            assertThat(Browser.axe(page)).isEmpty();
            page.getByLabel("Whose value wins in given_name").selectOption("Commuter passes owns the field");
            assertThat(page.getByText("Commuter passes owns the field, so this rule writes nothing.")
                            .last())
                    .isVisible();
            button(page, "Put in service").click();
            assertThat(page.getByText("It is in service.")).isVisible();
            assertThat(browser.errors()).isEmpty();
        }
        assertThat(sum(prepare(later), "changed"))
                .as("the route that does not own the name writes none")
                .isZero();
    }
}

package remitto.e2e;

import static com.microsoft.playwright.assertions.PlaywrightAssertions.assertThat;
import static org.assertj.core.api.Assertions.assertThat;

import com.microsoft.playwright.Keyboard;
import com.microsoft.playwright.Locator;
import com.microsoft.playwright.Page;
import com.microsoft.playwright.options.AriaRole;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.regex.Pattern;
import java.util.stream.Collectors;
import java.util.stream.IntStream;
import org.junit.jupiter.api.Test;
import remitto.core.fieldrule.FieldRule;
import remitto.core.fieldrule.IfEmpty;
import remitto.core.fieldrule.Receives;
import remitto.core.guard.Guards;
import remitto.core.route.Basis;
import remitto.core.route.Mode;
import remitto.core.route.RouteSpec;
import remitto.core.shaper.Trim;
import remitto.core.timetable.Schedule;
import tools.jackson.databind.JsonNode;

/** A wide object and a route of two hundred rules, worked on with the keyboard alone. */
class ManyRulesTest extends RouteRunsFixture {
    private static final int FIELDS = 400;
    private static final int RULES = 200;

    ManyRulesTest() {
        super(60);
    }

    private static String field(int number) {
        return String.format(java.util.Locale.ROOT, "field_%03d", number);
    }

    private long wide() {
        return editor.post(
                        "/api/destinations",
                        Map.of(
                                "name",
                                "Wide receiver",
                                "profile",
                                "webhook",
                                "limitsOff",
                                true,
                                "settings",
                                Map.of(
                                        "base_address",
                                        stack.purserAddress() + "/nowhere",
                                        "secret",
                                        "whsec_MfKQ9r8GKYqrTwjUPD8ILPZIo2LaLaSw",
                                        "source",
                                        "/halvorn",
                                        "type",
                                        "example.halvorn.changed",
                                        "fields",
                                        IntStream.range(0, FIELDS)
                                                .mapToObj(ManyRulesTest::field)
                                                .collect(Collectors.joining(", ")))))
                .get("id")
                .asLong();
    }

    private long route(long destination) {
        List<FieldRule> rules = new ArrayList<>();
        rules.add(FieldRule.of("ref", new Receives.FromColumn("pass_number"), new Trim()));
        IntStream.range(0, RULES)
                .forEach(i -> rules.add(FieldRule.of(field(i), new Receives.FromColumn("given_name"), new Trim())));
        RouteSpec spec = RouteSpec.of(
                Mode.ADD_ONLY,
                List.of("ref"),
                rules,
                new Basis.Stated("a made-up receiver"),
                Guards.none(),
                new Schedule.ByHand("UTC"));
        return editor.post(
                        "/api/routes",
                        Map.of(
                                "name",
                                "Two hundred rules",
                                "ends",
                                Map.of(
                                        "datasetId",
                                        editor.get("/api/routes/" + ids.passes())
                                                .get("datasetId")
                                                .asLong(),
                                        "destinationId",
                                        destination,
                                        "object",
                                        "event"),
                                "spec",
                                spec))
                .get("id")
                .asLong();
    }

    private static void tabTo(Page page, Locator wanted) {
        for (int i = 0; i < 60; i++) {
            if ((boolean) wanted.evaluate("element => element === document.activeElement")) {
                return;
            }
            page.keyboard().press("Tab");
        }
        throw new AssertionError("Tab never came to " + wanted);
    }

    @Test
    void oneOfTwoHundredRulesIsFoundChangedAndSavedByKeyboard() {
        long destination = wide();
        long route = route(destination);
        try (Browser browser = new Browser()) {
            Page page = browser.open(stack.server().address().resolve("/sign-in?to=/routes/" + route));
            Keyboard keys = page.keyboard();
            page.getByLabel("E-mail").focus();
            keys.type("editor@halvorn.example");
            keys.press("Tab");
            keys.type(Stack.PASSWORD);
            keys.press("Enter");
            Locator find = page.getByLabel("Find a rule");
            assertThat(find).isVisible();
            assertThat(page.getByText("201 rules. Use arrow keys")).isVisible();
            tabTo(page, find);
            keys.type("field_15");
            assertThat(page.getByText("10 rules. Use arrow keys")).isVisible();
            keys.press("ArrowDown");
            keys.press("ArrowDown");
            keys.press("ArrowDown");
            assertThat(page.locator(":focus")).hasText(field(152));
            keys.press("Enter");
            Locator ifEmpty = page.getByLabel("If empty", new Page.GetByLabelOptions().setExact(true));
            assertThat(ifEmpty).isVisible();
            tabTo(page, ifEmpty);
            keys.type("clear");
            keys.press("Escape");
            assertThat(page.locator(":focus")).hasText(field(152));
            assertThat(ifEmpty).isHidden();
            keys.press("End");
            assertThat(page.locator(":focus")).hasText(field(159));
            Locator save = page.getByRole(
                    AriaRole.BUTTON, new Page.GetByRoleOptions().setName(Pattern.compile("^Save version 2")));
            save.focus();
            keys.press("Enter");
            assertThat(page.getByText("Version 2").first()).isVisible();
            assertThat(Browser.axe(page)).isEmpty();
            assertThat(browser.errors()).isEmpty();

            page.navigate(stack.server()
                    .address()
                    .resolve("/destinations/" + destination + "/event")
                    .toString());
            assertThat(page.getByText("401 fields").first()).isVisible();
            int rows = page.getByRole(AriaRole.TABLE).getByRole(AriaRole.ROW).count();
            assertThat(rows)
                    .as("only what is seen of a wide field book is drawn")
                    .isBetween(10, 80);
        }
        RouteSpec saved = editorSpec(route);
        assertThat(saved.rules()).hasSize(RULES + 1);
        assertThat(saved.rules().stream().filter(rule -> rule.ifEmpty() == IfEmpty.CLEAR))
                .extracting(FieldRule::field)
                .containsExactly(field(152));
        JsonNode check = editor.get("/api/destinations/" + destination + "/objects/event/book");
        assertThat(check.get("fields").size()).isEqualTo(FIELDS + 1);
    }
}

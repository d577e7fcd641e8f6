package remitto.e2e;

import static com.microsoft.playwright.assertions.PlaywrightAssertions.assertThat;
import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import com.microsoft.playwright.Locator;
import com.microsoft.playwright.Page;
import com.microsoft.playwright.options.AriaRole;
import java.util.List;
import java.util.Map;
import java.util.regex.Pattern;
import org.junit.jupiter.api.Test;
import tools.jackson.databind.JsonNode;

/** Profiles written, tried and switched; in the API and in the browser. */
class ProfilesTest extends RouteRunsFixture {
    ProfilesTest() {
        super(60);
    }

    private String text() {
        return editor.get("/api/profiles/purser-crm").get("text").asString();
    }

    private JsonNode save(int basedOn, String text) {
        return editor.post(
                "/api/profiles/purser-crm/versions", Map.of("basedOn", basedOn, "text", text, "note", "smaller calls"));
    }

    private Map<String, Object> request(String call, boolean send, Map<String, String> fields) {
        return Map.of(
                "text",
                text(),
                "call",
                call,
                "object",
                "contact",
                "by",
                "external_ref",
                "values",
                List.of("P-1"),
                "cursor",
                "",
                "fields",
                fields,
                "send",
                send);
    }

    /** The same tool, connected once more and written to by no route. */
    private long unused() {
        return editor.post(
                        "/api/destinations",
                        Map.of(
                                "name",
                                "Purser for trying out",
                                "profile",
                                "purser-crm",
                                "limitsOff",
                                true,
                                "settings",
                                Map.of(
                                        "base_address", stack.purserAddress().toString(),
                                        "client_id", "remitto-demo",
                                        "client_secret", "gangplank-7731")))
                .get("id")
                .asLong();
    }

    private JsonNode bench(long destination, String call, boolean send, Map<String, String> fields) {
        return editor.post("/api/destinations/" + destination + "/bench", request(call, send, fields));
    }

    @Test
    void whatIsSavedIsNotThereforeInService() {
        putInService(ids.passes(), passes());
        JsonNode waiting = prepare(ids.passes());
        JsonNode saved = save(1, text().replace("records_per_call: 250", "records_per_call: 10"));
        assertThat(saved.get("latestVersion").asInt()).isEqualTo(2);
        assertThat(saved.get("liveVersion").asInt()).isEqualTo(1);
        assertThat(editor.get("/api/destinations/" + ids.purser())
                        .get("profileVersion")
                        .asInt())
                .isEqualTo(1);
        assertThatThrownBy(() -> save(1, text())).hasMessageContaining("Someone saved another version meanwhile");

        JsonNode touched = editor.get("/api/profiles/purser-crm/touched").get(0);
        assertThat(touched.get("routes").valueStream().map(JsonNode::asString)).contains("Commuter passes");
        editor.post("/api/profiles/purser-crm/in-service", Map.of("version", 2));
        assertThat(editor.get("/api/destinations/" + ids.purser())
                        .get("profileVersion")
                        .asInt())
                .isEqualTo(2);
        assertThatThrownBy(() -> send(waiting)).hasMessageContaining("Another version is in service");
        JsonNode run = run(ids.passes());
        long batches = sum(run, "added");
        assertThat(batches).isGreaterThan(10);
        assertThat(stack.desk.get("/calls")).contains("/api/v1/contact/batch");
        assertThat(editor.get("/api/journal").toString())
                .contains("put profile in service")
                .contains("version 2; destinations: Purser CRM");
    }

    @Test
    void aTextThatIsNoProfileIsNotSavedAndItsLinesAreNamed() {
        String wrong = text().replace("  period_seconds: 12", "  period_seconds: soon");
        JsonNode checked = editor.post("/api/profiles/check", Map.of("text", wrong));
        JsonNode fault = checked.get("faults").get(0);
        assertThat(wrong.lines().toList().get(fault.get("line").asInt() - 1)).contains("period_seconds: soon");
        assertThatThrownBy(() -> save(1, wrong)).hasMessageContaining("This is not a profile yet");
        assertThatThrownBy(() -> save(1, text().replace("profile: purser-crm", "profile: other")))
                .hasMessageContaining("a profile keeps its name");
        assertThatThrownBy(() -> editor.post("/api/profiles", Map.of("basedOn", 0, "text", text(), "note", "")))
                .hasMessageContaining("A profile already has the name purser-crm");
    }

    @Test
    void theBenchReadsFreelyAndWritesOnlyWhereNoRouteDoes() {
        JsonNode found = bench(ids.purser(), "FIND", false, Map.of());
        assertThat(found.get("problem").asString()).isEmpty();
        assertThat(found.toString()).doesNotContain("gangplank-7731");
        assertThat(bench(ids.purser(), "LIST", false, Map.of())
                        .get("reading")
                        .get("more")
                        .asString())
                .isNotEmpty();

        Map<String, String> fields = Map.of("external_ref", "P-BENCH", "family_name", "Bench");
        JsonNode shown = bench(ids.purser(), "ADD", false, fields);
        assertThat(shown.get("reading").get("sentence").asString()).contains("it was not made");
        assertThat(contacts()).doesNotContain("P-BENCH");
        JsonNode made = bench(unused(), "ADD", true, fields);
        assertThat(made.get("reading").get("rows").get(0).get(0).asString()).isEqualTo("yes");
        assertThat(contacts()).contains("P-BENCH");

        assertThatThrownBy(() -> bench(ids.purser(), "ADD", true, fields))
                .hasMessageContaining("is in service here, so nothing is written from the bench");
        Map<String, Object> disguised = new java.util.HashMap<>(request("CHECK", false, Map.of()));
        disguised.put(
                "text",
                text().replace(
                                "  method: GET\n  path: /api/v1/whoami",
                                "  method: POST\n  path: /api/v1/contact/remove"));
        assertThatThrownBy(() -> editor.post("/api/destinations/" + ids.purser() + "/bench", disguised))
                .hasMessageContaining("asks with POST /api/v1/contact/remove, so that it may write");
        assertThatThrownBy(() -> stack.user("VIEWER")
                        .post("/api/destinations/" + ids.purser() + "/bench", request("CHECK", false, Map.of())))
                .hasMessageContaining("403");
    }

    @Test
    void whatAProfileWouldDoToItsRoutesIsSeenBeforeItIsSaved() {
        putInService(ids.passes(), passes());
        JsonNode same = effect(text().replace("  custom: /custom\n", ""));
        assertThat(same.get("rows").asLong()).isPositive();
        assertThat(same.get("differ").asLong()).as("nothing that matters here").isZero();
        JsonNode phones = effect(text().replace("phone: PHONE", "phone: BOOLEAN"));
        assertThat(phones.get("differ").asLong()).isPositive();
        assertThat(phones.get("fields")
                        .valueStream()
                        .filter(one -> one.get("field").asString().equals("mobile")))
                .singleElement()
                .satisfies(one -> {
                    assertThat(one.get("writtenBefore").asLong()).isPositive();
                    assertThat(one.get("writtenAfter").asLong()).isZero();
                    assertThat(one.get("heldAfter").asLong()).isPositive();
                });
        assertThat(effect(text().replace("read_only: /read_only", "read_only: /unique"))
                        .get("problem")
                        .asString())
                .contains("external_ref: This field is read-only in the destination");
        assertThatThrownBy(() -> effect("profile: none")).hasMessageContaining("This is not a profile yet");
    }

    /** What the text would do to the commuter passes. */
    private JsonNode effect(String text) {
        JsonNode one = WhatIfAnswers.effects(editor, "/api/profiles/purser-crm/what-if", Map.of("text", text))
                .valueStream()
                .filter(route -> route.get("route").asString().equals("Commuter passes"))
                .findFirst()
                .orElseThrow();
        return one.has("effect") ? one.get("effect") : one;
    }

    @Test
    void secretsGoWhereTheyWereGivenForAndNowhereElse() {
        Map<String, String> moved = Map.of("base_address", address(stack.gangway.port()), "client_id", "remitto-demo");
        assertThatThrownBy(() -> editor.put("/api/destinations/" + ids.purser(), purser(moved)))
                .hasMessageContaining("Calls would go to " + address(stack.gangway.port()))
                .hasMessageContaining("Give Client secret again");
        assertThat(editor.get("/api/destinations/" + ids.purser()).toString())
                .as("nothing was changed")
                .contains(stack.purserAddress().toString());

        String elsewhere =
                text().replaceFirst("(?m)token_path: .*$", "token_path: " + address(stack.gangway.port()) + "/token");
        Map<String, Object> bench = new java.util.HashMap<>(request("CHECK", false, Map.of()));
        bench.put("text", elsewhere);
        assertThat(editor.post("/api/destinations/" + unused() + "/bench", bench)
                        .get("problem")
                        .asString())
                .contains("Nothing is sent to " + address(stack.gangway.port()))
                .contains("the secrets were given for " + stack.purserAddress());

        Map<String, String> again = new java.util.HashMap<>(moved);
        again.put("client_secret", "harbour-1");
        assertThat(editor.put("/api/destinations/" + ids.purser(), purser(again))
                        .get("settings")
                        .toString())
                .contains(address(stack.gangway.port()));
    }

    private static Map<String, Object> purser(Map<String, String> settings) {
        return Map.of("name", "Purser CRM", "profile", "purser-crm", "limitsOff", true, "settings", settings);
    }

    private Map<String, Object> lamplight(String account) {
        return Map.of(
                "name",
                "Lamplight",
                "profile",
                "lamplight-ads",
                "limitsOff",
                true,
                "settings",
                Map.of(
                        "base_address",
                        address(stack.lamplight.port()),
                        "lamp_key",
                        "lamp-4410-halvorn",
                        "account",
                        account));
    }

    private List<String> lists(long destination) {
        return editor.get("/api/destinations/" + destination + "/objects")
                .valueStream()
                .map(one -> one.get("title").asString())
                .toList();
    }

    @Test
    void anAccountIsChosenFromThoseTheLoginReaches() {
        long id = editor.post("/api/destinations", lamplight("")).get("id").asLong();
        JsonNode choice = editor.get("/api/destinations/" + id + "/accounts");
        assertThat(choice.get("setting").asString()).isEqualTo("account");
        assertThat(choice.get("accounts").valueStream().map(one -> one.get("title")
                        .asString()))
                .containsExactly("Halvorn Ferries", "Halvorn Freight");
        assertThat(lists(id)).contains("Commuters").doesNotContain("Shippers");
        JsonNode other = editor.put("/api/destinations/" + id, lamplight("HAL-2"));
        assertThat(other.get("result").asString()).contains("account Halvorn Freight");
        assertThat(lists(id)).containsExactly("Shippers");
        assertThat(editor.put("/api/destinations/" + id, lamplight("HAL-3"))
                        .get("problem")
                        .asString())
                .contains("does not reach account HAL-3");
    }

    @Test
    void aProfileIsWrittenAndTriedInTheBrowser() {
        try (Browser browser = new Browser()) {
            Page page = browser.open(stack.server().address().resolve("/sign-in?to=/profiles/purser-crm"));
            page.getByLabel("E-mail").fill("editor@halvorn.example");
            page.getByLabel("Password").fill(Stack.PASSWORD);
            button(page, "Sign in").click();
            Locator editorField = page.getByRole(AriaRole.TEXTBOX, new Page.GetByRoleOptions().setName("Profile"));
            assertThat(editorField).containsText("profile: purser-crm");
            assertThat(page.getByText("No errors.")).isVisible();

            editorField.click();
            page.keyboard().press("Control+End");
            page.keyboard().press("Enter");
            page.keyboard().press("Home");
            page.keyboard().type("acc");
            assertThat(page.locator(".cm-tooltip-autocomplete")).containsText("accounts");
            page.keyboard().press("Escape");
            assertThat(page.getByText(Pattern.compile("^\\d+ errors?$"))).isVisible();
            assertThat(button(page, "Save version 2")).isDisabled();
            for (int i = 0; i < 3; i++) {
                page.keyboard().press("Backspace");
            }
            page.keyboard().type("# tried in the browser");
            assertThat(page.getByText("No errors.")).isVisible();

            page.getByLabel("Call", new Page.GetByLabelOptions().setExact(true)).selectOption("FIELDS");
            page.getByLabel("Object", new Page.GetByLabelOptions().setExact(true))
                    .selectOption("contact");
            button(page, "Send call").click();
            assertThat(page.getByText(Pattern.compile("\\d+ fields of Contact")))
                    .isVisible();
            assertThat(page.getByLabel("Interpretation")).containsText("external_ref");

            page.getByLabel("Note on this version").fill("a comment");
            button(page, "Save version 2").click();
            assertThat(button(page, "Put version 2 in service")).isVisible();
            button(page, "Compare").click();
            assertThat(page.getByLabel("Differences from version 1").first()).containsText("tried in the browser");
            assertThat(Browser.axe(page)).isEmpty();
            button(page, "Put version 2 in service").click();
            assertThat(page.getByText("Putting version 2 in service changes how these destinations are called"))
                    .isVisible();
            button(page, "Put in service").click();
            assertThat(page.getByText("It is in service.")).isVisible();
            assertThat(browser.errors()).isEmpty();
        }
    }

    private static Locator button(Page page, String name) {
        return page.getByRole(
                AriaRole.BUTTON, new Page.GetByRoleOptions().setName(name).setExact(true));
    }
}

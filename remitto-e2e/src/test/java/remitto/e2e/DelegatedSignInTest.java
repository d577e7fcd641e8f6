package remitto.e2e;

import static com.microsoft.playwright.assertions.PlaywrightAssertions.assertThat;
import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import com.microsoft.playwright.Locator;
import com.microsoft.playwright.Page;
import com.microsoft.playwright.options.AriaRole;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.concurrent.Callable;
import java.util.concurrent.ExecutorService;
import java.util.concurrent.Executors;
import java.util.concurrent.Future;
import org.junit.jupiter.api.AfterEach;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;
import remitto.demo.history.Api;
import remitto.demo.history.RunningServer;
import tools.jackson.databind.JsonNode;

/** A person signs in at the tool itself; later the sign-in is renewed, ended and begun again with nothing rebuilt. */
class DelegatedSignInTest extends RouteRunsFixture {
    private Browser browser;
    private Page page;

    DelegatedSignInTest() {
        super(60);
    }

    @BeforeEach
    void open() {
        browser = new Browser();
        page = browser.open(stack.server().address().resolve("/sign-in?to=/destinations/" + ids.purser()));
        page.getByLabel("E-mail").fill("editor@halvorn.example");
        page.getByLabel("Password").fill(Stack.PASSWORD);
        button("Sign in").click();
    }

    @AfterEach
    void close() {
        browser.close();
    }

    private Locator button(String name) {
        return page.getByRole(
                AriaRole.BUTTON, new Page.GetByRoleOptions().setName(name).setExact(true));
    }

    private void chooseToSignIn() {
        page.getByLabel("Sign in", new Page.GetByLabelOptions().setExact(true)).selectOption("person");
        button("Save and test").click();
        assertThat(page.getByRole(AriaRole.ALERT).first()).containsText("Nobody has signed in to Purser CRM yet");
    }

    private void signInThere(String email, String password) {
        page.getByLabel("E-mail").fill(email);
        page.getByLabel("Password").fill(password);
        button("Sign in and allow").click();
    }

    @Test
    void aSignInIsBegunRenewedEndedAndBegunAgain() {
        putInService(ids.passes(), passes());
        chooseToSignIn();
        button("Sign in at Purser CRM").click();
        signInThere("runa.vik@halvorn.example", "wrong");
        assertThat(page.getByText("The e-mail or the password is wrong.")).isVisible();
        signInThere("runa.vik@halvorn.example", "harbour-5512");
        assertThat(page.getByText("EDITOR person signed in")).isVisible();
        assertThat(page.getByText("login Runa Vik")).isVisible();
        assertThat(page.getByText("not met")).isHidden();
        long first = sum(run(ids.passes()), "added");
        assertThat(first).isPositive();

        stack.desk.faults("[{\"fault\":\"expired-token\",\"on\":\"find\",\"next\":1}]");
        stack.change("update ferry.pass_holders set given_name = 'Tove', updated_at = updated_at + interval '1 hour'"
                + " where status = 'active'");
        assertThat(run(ids.passes()).get("state").asString()).isIn("SENT", "READY");
        JsonNode renewed = editor.get("/api/destinations/" + ids.purser() + "/sign-in");
        assertThat(renewed.has("renewedAt")).isTrue();

        stack.desk.endLogins();
        stack.desk.faults("[{\"fault\":\"expired-token\",\"on\":\"contact\",\"next\":1}]");
        stack.change("update ferry.pass_holders set given_name = 'Liv', updated_at = updated_at + interval '2 hours'"
                + " where status = 'active'");
        JsonNode failed = prepare(ids.passes());
        assertThat(failed.get("state").asString()).isEqualTo("FAILED");
        assertThat(failed.get("message").asString()).contains("has ended; sign in again on the destination's page");

        page.reload();
        button("Sign in again").click();
        signInThere("runa.vik@halvorn.example", "harbour-5512");
        assertThat(page.getByText("EDITOR person signed in")).isVisible();
        JsonNode after = run(ids.passes());
        assertThat(sum(after, "changed")).isPositive();
        assertThat(sum(after, "added"))
                .describedAs("the same known state serves on")
                .isZero();
        assertThat(browser.errors()).isEmpty();
        assertThat(Browser.axe(page)).isEmpty();
    }

    /** A refresh token serves once; whoever came second would be signed out. */
    @Test
    void oneProcessRenewsForAll() throws Exception {
        chooseToSignIn();
        button("Sign in at Purser CRM").click();
        signInThere("runa.vik@halvorn.example", "harbour-5512");
        assertThat(page.getByText("EDITOR person signed in")).isVisible();
        try (RunningServer second = RunningServer.start(stack.properties())) {
            Api other = new Api(second.address()).signIn("editor@halvorn.example", Stack.PASSWORD);
            String test = "/api/destinations/" + ids.purser() + "/test";
            other.post(test, Map.of());
            stack.desk.faults("[{\"fault\":\"expired-token\",\"on\":\"whoami\",\"next\":1}]");
            List<Callable<JsonNode>> calls = new ArrayList<>();
            for (int i = 0; i < 8; i++) {
                Api api = i % 2 == 0 ? editor : other;
                calls.add(() -> api.post(test, Map.of()));
            }
            ExecutorService pool = Executors.newFixedThreadPool(calls.size());
            for (Future<JsonNode> told : pool.invokeAll(calls)) {
                assertThat(told.get().get("problem").asString()).isEmpty();
            }
            pool.shutdown();
        }
        assertThat(editor.get("/api/destinations/" + ids.purser() + "/sign-in").has("renewedAt"))
                .isTrue();
    }

    @Test
    void aLoginThatOnlyLooksIsSaidOnTheChecklist() {
        chooseToSignIn();
        button("Sign in at Purser CRM").click();
        signInThere("odd.berge@halvorn.example", "lighthouse-9083");
        Locator missing = page.getByRole(AriaRole.LISTITEM)
                .filter(new Locator.FilterOptions().setHasText("The login may write contacts"));
        assertThat(missing).containsText("not met");
        assertThat(page.getByText("not writable by this login").nth(9)).isVisible();
        assertThat(missing).containsText("Without it every record is refused.");
        assertThat(page.getByRole(AriaRole.LISTITEM)
                        .filter(new Locator.FilterOptions().setHasText("The login may write companies")))
                .containsText("Optional.");
        page.getByLabel("The login is used by Remitto alone").click();
        assertThat(page.getByText("confirmed")).isVisible();
    }

    @Test
    void aRefusalThereChangesNothingHere() {
        chooseToSignIn();
        button("Sign in at Purser CRM").click();
        button("Refuse").click();
        assertThat(page.getByText("The destination refused the sign-in. Nothing was changed."))
                .isVisible();
    }

    @Test
    void aSignInThatSomebodyElseBeganIsNotTaken() {
        chooseToSignIn();
        String address = editor.post("/api/destinations/" + ids.purser() + "/sign-in", Map.of())
                .get("address")
                .asString();
        String state = address.replaceAll(".*[?&]state=([^&]+).*", "$1");
        assertThatThrownBy(() -> stack.admin().get("/api/sign-in/back?code=c&state=" + state))
                .hasMessageContaining("was not begun by you");
    }
}

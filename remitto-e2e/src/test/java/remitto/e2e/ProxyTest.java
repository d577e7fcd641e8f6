package remitto.e2e;

import static com.microsoft.playwright.assertions.PlaywrightAssertions.assertThat;
import static org.assertj.core.api.Assertions.assertThat;

import com.microsoft.playwright.Download;
import com.microsoft.playwright.Locator;
import com.microsoft.playwright.Page;
import com.microsoft.playwright.Response;
import com.microsoft.playwright.options.AriaRole;
import com.microsoft.playwright.options.Cookie;
import java.net.URI;
import java.net.http.HttpClient;
import java.net.http.HttpRequest;
import java.net.http.HttpResponse;
import java.nio.file.Files;
import java.util.Map;
import java.util.regex.Pattern;
import org.junit.jupiter.api.AfterEach;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;
import remitto.demo.history.RunningServer;

/** Behind a proxy that ends TLS and puts the product below a path: pages, downloads, events, sign-ins, here and at a tool. */
class ProxyTest extends RouteRunsFixture {
    private static final String PATH = "/remitto";

    private RunningServer behind;
    private Proxy proxy;
    private Browser browser;
    private Page page;

    ProxyTest() {
        super(60);
    }

    @BeforeEach
    void open() throws Exception {
        int port = Berth.port();
        int proxyPort = Berth.port();
        Map<String, Object> properties = stack.properties();
        properties.put("server.port", port);
        properties.put("server.servlet.context-path", PATH);
        properties.put("server.forward-headers-strategy", "native");
        properties.put("remitto.public-address", "https://127.0.0.1:" + proxyPort + PATH);
        behind = RunningServer.start(properties);
        proxy = Proxy.before(port, proxyPort, PATH, Files.createTempDirectory("remitto-proxy"));
        browser = new Browser();
        page = browser.open(proxy.address());
    }

    @AfterEach
    void close() {
        browser.close();
        proxy.close();
        behind.close();
    }

    private Locator button(String name) {
        return page.getByRole(
                AriaRole.BUTTON, new Page.GetByRoleOptions().setName(name).setExact(true));
    }

    private Locator link(String name) {
        return page.getByRole(AriaRole.LINK, new Page.GetByRoleOptions().setName(Pattern.compile("^" + name)))
                .first();
    }

    private void signIn() {
        page.getByLabel("E-mail").fill("editor@halvorn.example");
        page.getByLabel("Password").fill(Stack.PASSWORD);
        button("Sign in").click();
    }

    private void assertDepartures() {
        assertThat(page.getByRole(AriaRole.HEADING, new Page.GetByRoleOptions().setName("Departures")))
                .isVisible();
    }

    private Pattern at(String path) {
        return Pattern.compile("^" + (proxy.address() + path).replace(".", "\\.") + ".*");
    }

    @Test
    void everythingIsThereBelowThePath() {
        assertThat(page).hasURL(at("/sign-in"));
        signIn();
        assertDepartures();
        for (Cookie cookie : page.context().cookies()) {
            assertThat(cookie.secure).as(cookie.name).isTrue();
            assertThat(cookie.path).as(cookie.name).startsWith(PATH);
        }
        assertThat(page.context().cookies()).extracting(cookie -> cookie.name).contains("remitto", "XSRF-TOKEN");

        link("Routes").click();
        link("Commuter passes").click();
        assertThat(page).hasURL(at("/routes/" + ids.passes()));
        Response again = page.reload();
        assertThat(again.headers())
                .containsKey("content-security-policy")
                .hasEntrySatisfying(
                        "strict-transport-security", told -> assertThat(told).contains("max-age="));
        button("Prepare manifest").click();
        assertThat(page).hasURL(at("/manifests/"));
        assertThat(page.getByRole(AriaRole.BUTTON, new Page.GetByRoleOptions().setName(Pattern.compile("^Send \\d"))))
                .isVisible();
        Download file = page.waitForDownload(() -> link("CSV").click());
        assertThat(file.url()).startsWith(proxy.address() + "/api/runs/");
        assertThat(file.failure()).isNull();

        page.context().clearCookies();
        link("Routes").click();
        assertThat(page).hasURL(at("/sign-in"));
        signIn();
        assertThat(page).hasURL(at("/routes"));
        assertThat(browser.errors()).isEmpty();
        assertThat(Browser.refused())
                .as("nothing was asked for beside the path")
                .noneMatch(one -> one.startsWith("404"));
    }

    @Test
    void aPersonSignsInAtAToolAndComesBack() {
        signIn();
        assertDepartures();
        page.navigate(proxy.address() + "/destinations/" + ids.purser());
        page.getByLabel("Sign in", new Page.GetByLabelOptions().setExact(true)).selectOption("person");
        button("Save and test").click();
        button("Sign in at Purser CRM").click();
        page.getByLabel("E-mail").fill("runa.vik@halvorn.example");
        page.getByLabel("Password").fill("harbour-5512");
        button("Sign in and allow").click();
        assertThat(page).hasURL(at("/destinations/" + ids.purser()));
        assertThat(page.getByText("EDITOR person signed in")).isVisible();
    }

    /** The address that a proxy tells counts where a proxy is said to stand, and nowhere else. */
    @Test
    void whoAsksIsBelievedOfTheProxyAlone() throws Exception {
        signIn();
        assertDepartures();
        assertThat(signedInFrom()).contains("from " + Proxy.CALLER);
        URI direct = stack.server().address().resolve("/api/session");
        HttpResponse<String> forged = HttpClient.newHttpClient()
                .send(
                        HttpRequest.newBuilder(direct)
                                .header("X-Forwarded-For", "198.51.100.9")
                                .header("X-Forwarded-Proto", "https")
                                .build(),
                        HttpResponse.BodyHandlers.ofString());
        assertThat(forged.headers().firstValue("Strict-Transport-Security")).isEmpty();
        stack.user("VIEWER");
        assertThat(signedInFrom()).contains("from 127.0.0.1").doesNotContain("198.51.100.9");
    }

    private String signedInFrom() {
        return stack.admin().get("/api/journal?find=signed+in").toString();
    }
}

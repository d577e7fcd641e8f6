package remitto.e2e;

import com.microsoft.playwright.BrowserContext;
import com.microsoft.playwright.BrowserType;
import com.microsoft.playwright.Page;
import com.microsoft.playwright.Playwright;
import com.microsoft.playwright.assertions.PlaywrightAssertions;
import com.microsoft.playwright.options.AriaRole;
import java.io.IOException;
import java.io.UncheckedIOException;
import java.net.URI;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.Optional;

/** Debian's Chromium, driven by Playwright. Whatever a page says on its console as an error is kept. */
final class Browser implements AutoCloseable {
    private static final double TIMEOUT = 20_000;

    /** One for all tests, which run one after the other: it takes seconds to start. */
    private static Optional<com.microsoft.playwright.Browser> running = Optional.empty();

    /** What the latest browser was refused, and its pages: told when a test fails. */
    private static final List<String> REFUSED = new ArrayList<>();

    private static final List<Page> PAGES = new ArrayList<>();

    private final com.microsoft.playwright.Browser browser = chromium();
    private final List<BrowserContext> contexts = new ArrayList<>();
    private final List<String> errors = new ArrayList<>();

    private static com.microsoft.playwright.Browser chromium() {
        if (running.filter(com.microsoft.playwright.Browser::isConnected).isEmpty()) {
            running = Optional.of(launch());
        }
        return running.get();
    }

    private static com.microsoft.playwright.Browser launch() {
        PlaywrightAssertions.setDefaultAssertionTimeout(TIMEOUT);
        Playwright playwright = Playwright.create(
                new Playwright.CreateOptions().setEnv(Map.of("PLAYWRIGHT_SKIP_BROWSER_DOWNLOAD", "1")));
        return playwright
                .chromium()
                .launch(new BrowserType.LaunchOptions()
                        .setExecutablePath(Path.of("/usr/bin/chromium"))
                        .setArgs(List.of(
                                "--no-sandbox",
                                "--disable-gpu",
                                "--disable-background-networking",
                                "--disable-component-update",
                                "--disable-sync",
                                "--disable-quic",
                                "--no-first-run")));
    }

    Page open(URI address) {
        BrowserContext context = browser.newContext(new com.microsoft.playwright.Browser.NewContextOptions()
                .setViewportSize(1280, 800)
                // A proxy of a test has a certificate that it made itself.
                .setIgnoreHTTPSErrors(true)
                .setTimezoneId("Europe/Oslo")
                .setLocale("en-GB"));
        contexts.add(context);
        Page page = context.newPage();
        page.setDefaultTimeout(TIMEOUT);
        page.onPageError(errors::add);
        page.onResponse(answer -> {
            if (answer.status() >= 400) {
                REFUSED.add(answer.status() + " " + answer.request().method() + " " + answer.url());
            }
        });
        PAGES.add(page);
        page.navigate(address.toString());
        return page;
    }

    /** Signs in at a page that {@link #open} opened, as a user of a role. */
    void signIn(Page page, URI server, String role) {
        page.context().clearCookies();
        page.navigate(server.resolve("/sign-in").toString());
        page.getByLabel("E-mail").fill(role + "@halvorn.example");
        page.getByLabel("Password").fill(Stack.PASSWORD);
        page.getByRole(
                        AriaRole.BUTTON,
                        new Page.GetByRoleOptions().setName("Sign in").setExact(true))
                .click();
        page.waitForURL("**/");
    }

    static List<String> refused() {
        return List.copyOf(REFUSED);
    }

    static List<Page> pages() {
        return PAGES.stream().filter(page -> !page.isClosed()).toList();
    }

    List<String> errors() {
        return errors;
    }

    /** What axe-core finds on a page, one line a finding. */
    static List<String> axe(Page page) {
        try {
            page.evaluate(Files.readString(Path.of("..", "remitto-web", "node_modules", "axe-core", "axe.min.js")));
        } catch (IOException e) {
            throw new UncheckedIOException(e);
        }
        Object found = page.evaluate(
                "async () => (await axe.run()).violations.map(v => v.id + ': ' + v.nodes.map(n => n.target + ' ' + n.failureSummary).join(' | '))");
        List<String> lines = new ArrayList<>();
        ((List<?>) found).forEach(line -> lines.add(line.toString()));
        return lines;
    }

    @Override
    public void close() {
        contexts.forEach(BrowserContext::close);
        PAGES.clear();
        REFUSED.clear();
    }
}

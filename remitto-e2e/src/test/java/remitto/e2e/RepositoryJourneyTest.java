package remitto.e2e;

import static com.microsoft.playwright.assertions.PlaywrightAssertions.assertThat;
import static org.assertj.core.api.Assertions.assertThat;

import com.microsoft.playwright.Locator;
import com.microsoft.playwright.Page;
import com.microsoft.playwright.options.AriaRole;
import java.io.IOException;
import java.net.URI;
import java.nio.file.Files;
import java.nio.file.Path;
import java.sql.SQLException;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.concurrent.TimeUnit;
import org.junit.jupiter.api.AfterAll;
import org.junit.jupiter.api.BeforeAll;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.TestInstance;
import org.junit.jupiter.api.io.TempDir;
import remitto.demo.history.Api;
import remitto.demo.history.RunningServer;
import tools.jackson.databind.JsonNode;

/** A change that somebody makes on a page of one installation, reviewed as a file, and met on the same page of another. */
@TestInstance(TestInstance.Lifecycle.PER_CLASS)
class RepositoryJourneyTest {
    private static final Path COMMAND = Path.of("..", "remitto-command", "target", "remitto.jar");

    @TempDir
    private static Path repository;

    private Stack test;
    private RunningServer live;

    @BeforeAll
    void start() throws SQLException, IOException {
        test = Stack.start(20);
        String database = test.remittoDatabase + "_live";
        test.databases.fresh(database, "remitto");
        Map<String, Object> properties = new HashMap<>(test.properties());
        properties.put("spring.datasource.url", test.databases.url(database));
        properties.put("remitto.secret-key-file", test.folder.resolve("live.key"));
        live = RunningServer.start(properties);
    }

    @AfterAll
    void stop() throws SQLException {
        live.close();
        test.close();
    }

    private static String token(URI address) {
        Api admin = new Api(address).signIn("admin@halvorn.example", Stack.PASSWORD);
        long account = admin.post(
                        "/api/service-accounts", Map.of("name", "Repository", "rights", List.of(), "active", true))
                .get("id")
                .asLong();
        JsonNode made = admin.post(
                "/api/service-accounts/" + account + "/tokens",
                Map.of(
                        "name",
                        "repository",
                        "scopes",
                        List.of("READ", "PREPARE", "DEFINE"),
                        "narrowing",
                        Map.of("routeIds", List.of(), "destinationIds", List.of()),
                        "expiresAt",
                        java.time.Instant.now()
                                .plus(java.time.Duration.ofDays(30))
                                .toString()));
        return made.get("token").asString();
    }

    private record Outcome(int exit, String text) {}

    /** The command as it is installed: a jar, in a process of its own. */
    private Outcome remitto(Map<String, String> environment, String... arguments)
            throws IOException, InterruptedException {
        assertThat(COMMAND).exists();
        List<String> command = new ArrayList<>(List.of("java", "-XX:TieredStopAtLevel=1", "-jar"));
        command.add(COMMAND.toAbsolutePath().toString());
        command.addAll(List.of(arguments));
        ProcessBuilder builder =
                new ProcessBuilder(command).directory(repository.toFile()).redirectErrorStream(true);
        builder.environment().putAll(environment);
        Process process = builder.start();
        String text = new String(process.getInputStream().readAllBytes(), java.nio.charset.StandardCharsets.UTF_8);
        assertThat(process.waitFor(2, TimeUnit.MINUTES)).isTrue();
        return new Outcome(process.exitValue(), text);
    }

    private static Locator button(Page page, String name) {
        return page.getByRole(
                AriaRole.BUTTON, new Page.GetByRoleOptions().setName(name).setExact(true));
    }

    @Test
    void whatIsEditedOnAPageOfOneIsMetOnThePageOfTheOther() throws IOException, InterruptedException {
        URI here = test.server().address();
        Map<String, String> environment = Map.of("TEST_TOKEN", token(here), "LIVE_TOKEN", token(live.address()));
        Files.writeString(repository.resolve("remitto.yaml"), """
                usual: test
                installations:
                  test: {url: "%s", token: {env: TEST_TOKEN}}
                  live: {url: "%s", token: {env: LIVE_TOKEN}}
                """.formatted(here, live.address()));
        try (Browser browser = new Browser()) {
            Page page = browser.open(here);
            browser.signIn(page, here, "admin");
            page.navigate(here.resolve("/crosswalks/new").toString());
            page.getByLabel("Name", new Page.GetByLabelOptions().setExact(true)).fill("Ports");
            button(page, "Add value").click();
            page.getByLabel("Our value 1").fill("SVN");
            page.getByLabel("Destination's value for SVN").fill("Stavern");
            button(page, "Save version 1").click();
            assertThat(button(page, "Put version 1 in service")).isVisible();

            assertThat(remitto(environment, "pull").text()).contains("wrote crosswalks/ports.yaml");
            Path file = repository.resolve("crosswalks/ports.yaml");
            assertThat(Files.readString(file)).contains("name: Ports").contains("- from: SVN\n  to: Stavern\n");
            Files.writeString(file, Files.readString(file) + "- from: LVK\n  to: Lervik\n");
            assertThat(remitto(environment, "plan").text())
                    .contains("~ crosswalks/ports.yaml  changes")
                    .contains("entries[LVK]: added");
            for (String installation : List.of("test", "live")) {
                Outcome applied = remitto(environment, "apply", "-i", installation, "--in-service", "--yes");
                assertThat(applied.exit()).as(applied.text()).isZero();
                assertThat(remitto(environment, "plan", "-i", installation, "--check", "--in-service")
                                .exit())
                        .as("the second time changes nothing")
                        .isZero();
            }

            Page other = browser.open(live.address());
            browser.signIn(other, live.address(), "admin");
            other.navigate(live.address().resolve("/crosswalks/1").toString());
            assertThat(other.getByLabel("Our value 2")).hasValue("LVK");
            assertThat(other.getByLabel("Destination's value for LVK")).hasValue("Lervik");
            assertThat(other.getByText("It is in service.")).isVisible();
            page.reload();
            assertThat(page.getByText("Version 2, saved by Repository")).isVisible();
        }
    }
}

package remitto.server.definition;

import static org.assertj.core.api.Assertions.assertThat;

import java.io.IOException;
import java.io.PrintWriter;
import java.io.StringWriter;
import java.nio.file.Files;
import java.nio.file.Path;
import java.time.Clock;
import java.time.Duration;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import org.junit.jupiter.api.AfterAll;
import org.junit.jupiter.api.BeforeAll;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import picocli.CommandLine;
import remitto.command.RemittoCommand;
import remitto.command.Surroundings;
import remitto.server.harness.TestServer;
import remitto.server.harness.TestUser;

/** The way of a change from a test installation over a repository to a live one, by the command. */
class RepositoryTest {
    private static TestServer test;
    private static TestServer live;
    private static FilledShop shop;

    @TempDir
    private static Path repository;

    @BeforeAll
    static void start() throws IOException {
        test = TestServer.start();
        shop = new FilledShop(test);
        live = TestServer.start();
    }

    @AfterAll
    static void stop() {
        test.close();
        live.close();
    }

    private record Outcome(int exit, String out, String err) {
        Outcome well() {
            assertThat(exit).as("%s%n%s", out, err).isZero();
            return this;
        }
    }

    private static final class RealTime implements Surroundings {
        @Override
        public Map<String, String> environment() {
            return Map.of(
                    "TEST_TOKEN", token(test),
                    "LIVE_TOKEN", token(live),
                    "WAREHOUSE_PASSWORD", live.cluster().password());
        }

        @Override
        public boolean isAsked() {
            return false;
        }

        @Override
        public String answer() {
            return "";
        }

        @Override
        public Clock clock() {
            return Clock.systemUTC();
        }

        @Override
        public void sleep(Duration time) {
            try {
                Thread.sleep(50);
            } catch (InterruptedException e) {
                Thread.currentThread().interrupt();
            }
        }
    }

    /** A token of everything that a repository and a build server do; it is an administrator's, so that addresses are let in. */
    private static String token(TestServer server) {
        TestUser admin = server.admin();
        long account = admin.post(
                        "/api/service-accounts",
                        Map.of(
                                "name",
                                "Repository " + System.nanoTime(),
                                "rights",
                                List.of("SEE_PERSONAL_VALUES"),
                                "active",
                                true))
                .ok()
                .get("id")
                .asLong();
        return admin.post(
                        "/api/service-accounts/" + account + "/tokens",
                        Map.of(
                                "name",
                                "repository",
                                "scopes",
                                List.of("READ", "PREPARE", "SEND", "DEFINE", "ADMINISTER"),
                                "narrowing",
                                Map.of("routeIds", List.of(), "destinationIds", List.of()),
                                "expiresAt",
                                server.clock()
                                        .instant()
                                        .plus(Duration.ofDays(30))
                                        .toString()))
                .ok()
                .get("token")
                .asString();
    }

    private static Outcome remitto(String... arguments) {
        StringWriter out = new StringWriter();
        StringWriter err = new StringWriter();
        CommandLine line = RemittoCommand.line(new RealTime());
        line.setOut(new PrintWriter(out, true));
        line.setErr(new PrintWriter(err, true));
        List<String> all = new ArrayList<>(List.of(arguments));
        all.addAll(List.of("-C", repository.toString()));
        return new Outcome(line.execute(all.toArray(String[]::new)), out.toString(), err.toString());
    }

    @Test
    void twoInstallationsAreKeptAlikeFromOneRepository() throws IOException {
        Files.writeString(repository.resolve("remitto.yaml"), """
                usual: test
                installations:
                  test:
                    url: %s
                    token: {env: TEST_TOKEN}
                  live:
                    url: %s
                    token: {env: LIVE_TOKEN}
                    secrets:
                      sources/shop.yaml: {password: {env: WAREHOUSE_PASSWORD}}
                      %s: {password: {env: WAREHOUSE_PASSWORD}}
                """.formatted(
                        test.address(),
                        live.address(),
                        shop.editor()
                                .get("/api/definitions")
                                .ok()
                                .valueStream()
                                .map(file -> file.get("path").asString())
                                .filter(path -> path.startsWith("destinations/"))
                                .findFirst()
                                .orElseThrow()));

        remitto("pull").well();
        assertThat(remitto("plan", "--check", "--remove").well().out()).contains("0 changes");
        Outcome first = remitto("apply", "-i", "live", "--in-service", "--yes", "--note", "first release")
                .well();
        assertThat(first.out())
                .contains("+ routes/customers-to-mail.yaml  is new")
                .endsWith("Applied.\n");
        assertThat(remitto("plan", "-i", "live", "--check", "--in-service", "--remove")
                        .well()
                        .out())
                .contains("0 changes");

        remitto("run", "customers-to-mail", "-i", "live", "--send").well();
        assertThat(test.warehouse().text("select town from mail.recipients where id = 2"))
                .isEqualTo("3290 Stavern");

        Path crosswalk = repository.resolve("crosswalks/towns.yaml");
        Files.writeString(crosswalk, Files.readString(crosswalk).replace("3290 Stavern", "Stavern by the sea"));
        assertThat(remitto("plan", "--effect").well().out())
                .contains("entries[Stavern].to: 3290 Stavern → Stavern by the sea")
                .contains("route Customers to mail: 20 of 40 records differ");
        remitto("apply", "--in-service", "--yes").well();
        assertThat(remitto("plan", "-i", "live", "--check", "--in-service").exit())
                .isEqualTo(3);
        remitto("apply", "-i", "live", "--in-service", "--yes").well();

        Outcome sent =
                remitto("run", "Customers to mail", "-i", "live", "--send").well();
        assertThat(sent.out()).contains("sent; +0 ~20 -0 =20");
        assertThat(remitto("explain", "customers-to-mail", "2", "town", "-i", "live")
                        .well()
                        .out())
                .contains("field town holds there: Stavern by the sea")
                .contains("from town: Stavern");
        assertThat(remitto("status", "-i", "live").well().out())
                .contains("Customers to mail to Tables")
                .contains("in service, version 1, departs only when it is started");
        String number = sent.out().replaceAll("(?s)^run (\\d+) .*", "$1");
        assertThat(remitto("logs", number, "-i", "live").well().out())
                .contains("prepared")
                .contains("finished");
        assertThat(remitto("wait", number, "-i", "live").exit()).isZero();
    }
}

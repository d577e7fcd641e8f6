package remitto.e2e;

import static org.assertj.core.api.Assertions.assertThat;

import java.io.IOException;
import java.net.ServerSocket;
import java.net.URI;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.concurrent.TimeUnit;
import java.util.regex.Matcher;
import java.util.regex.Pattern;
import java.util.stream.Stream;
import org.junit.jupiter.api.AfterEach;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import remitto.demo.history.Api;
import remitto.demo.history.Scenario;
import remitto.standins.fault.Testimony;
import tools.jackson.databind.JsonNode;

/** A real installation by the launcher's commands: made, started, backed up, and restored beside itself. */
class InstallationTest {
    private static final String EMAIL = "anna@company.example";
    private static final String PASSWORD = "quay-lantern-77-otter";
    private static final Pattern LINK = Pattern.compile("(http://127\\.0\\.0\\.1:\\d+)(/welcome/\\S+)");

    @TempDir
    Path folder;

    private final List<Path> homes = new ArrayList<>();

    private record Said(int code, String words) {}

    /** A command of the launcher; the jars are those that the tests were built with. */
    private Said remitto(Path home, String... command) throws IOException, InterruptedException {
        List<String> all = new ArrayList<>(List.of("../remitto"));
        all.addAll(List.of(command));
        ProcessBuilder program = new ProcessBuilder(all).redirectErrorStream(true);
        program.environment().put("REMITTO_HOME", home.toString());
        program.environment().put("REMITTO_BUILT", "1");
        Path said = Files.createTempFile(folder, "said", ".txt");
        Process running = program.redirectOutput(said.toFile()).start();
        assertThat(running.waitFor(420, TimeUnit.SECONDS)).as("it ended").isTrue();
        return new Said(running.exitValue(), Files.readString(said));
    }

    private Path home(String name) throws IOException {
        Path home = folder.resolve(name);
        homes.add(home);
        return home;
    }

    private static int freePort() throws IOException {
        try (ServerSocket socket = new ServerSocket(0)) {
            return socket.getLocalPort();
        }
    }

    /** One setting another, in the file as somebody would edit it. */
    private static void set(Path home, String line, String other) throws IOException {
        Path file = home.resolve("remitto.yaml");
        String text = Files.readString(file);
        assertThat(Pattern.compile("(?m)^" + line + "$").matcher(text).find())
                .as(line)
                .isTrue();
        Files.writeString(file, text.replaceAll("(?m)^" + line + "$", Matcher.quoteReplacement(other)));
    }

    /** Ends what a test started, and nothing beside it. */
    @AfterEach
    void stop() throws Exception {
        for (Path home : homes) {
            Process stopping = new ProcessBuilder(
                            "bash",
                            "-c",
                            "for f in '" + home + "'/run/*.pid; do [ -e \"$f\" ] && kill -9 -- -$(cat \"$f\"); done;"
                                    + " p=$(cat '" + home + "/pg.place' 2>/dev/null) || exit 0;"
                                    + " kill -INT $(head -1 \"$p/data/postmaster.pid\"); sleep 2; rm -rf \"$p\"")
                    .redirectErrorStream(true)
                    .redirectOutput(ProcessBuilder.Redirect.DISCARD)
                    .start();
            stopping.waitFor(30, TimeUnit.SECONDS);
        }
    }

    @Test
    void whatIsWrongIsToldAndNothingIsStarted() throws Exception {
        Path home = home("wrong");
        Said none = remitto(home, "start");
        assertThat(none.code()).isEqualTo(1);
        assertThat(none.words()).contains("make one with './remitto init'");
        assertThat(remitto(home, "init").words()).contains("Start it with ./remitto start");
        assertThat(remitto(home, "init").words()).contains("is there already");
        set(home, "  port: \\d+", "  prot: 1");
        Said unknown = remitto(home, "start");
        assertThat(unknown.code()).isEqualTo(1);
        assertThat(unknown.words()).contains("there is no setting listen.prot. Did you mean listen.port?");
        try (ServerSocket taken = new ServerSocket(0)) {
            set(home, "  prot: 1", "  port: " + taken.getLocalPort());
            assertThat(remitto(home, "start").words())
                    .contains("port " + taken.getLocalPort() + " is taken by another program");
        }
        assertThat(remitto(home, "status").code()).isEqualTo(3);
        assertThat(remitto(home, "restore", folder.resolve("none.dump").toString())
                        .words())
                .contains("there is no backup");
    }

    @Test
    void aRestoreEndsWithTheSameManifestsAndNoCallToAnyDestination() throws Exception {
        Path home = home("first");
        remitto(home, "init");
        set(home, "  port: \\d+", "  port: " + freePort());
        set(home, "stand_ins: false", "stand_ins: true");
        set(home, "outgoing_allowed: \\[\\]", "outgoing_allowed: [127.0.0.1, localhost]");
        set(home, "let_in_origins: \\[\\]", "let_in_origins: ['http://127.0.0.1:*', 'postgresql://127.0.0.1:*']");
        Said started = remitto(home, "start");
        Matcher link = LINK.matcher(started.words());
        assertThat(link.find()).as(started.words()).isTrue();
        URI address = URI.create(link.group(1));
        Api anna = new Api(address);
        anna.get("/api/session");
        anna.post("/api" + link.group(2), Map.of("email", EMAIL, "name", "Anna Berg", "password", PASSWORD));
        anna.signIn(EMAIL, PASSWORD);

        try (Stack world = Stack.withoutServer(60)) {
            Scenario.Ids ids = new Scenario(anna).setUp(world.places());
            long run = anna.post("/api/routes/" + ids.passes() + "/runs", Map.of())
                    .get("runId")
                    .asLong();
            anna.await(run);
            anna.post("/api/runs/" + run + "/send", Map.of());
            JsonNode sent = anna.await(run);
            assertThat(sent.get("outcomes").get("ACKNOWLEDGED").asLong()).isPositive();
            String lines = anna.text("/api/runs/" + run + "/manifest.jsonl");
            int calls = received(world);

            Path backup = folder.resolve("remitto.dump");
            assertThat(remitto(home, "backup", backup.toString()).words()).contains("It does not hold");
            assertThat(remitto(home, "restore", backup.toString()).words()).contains("stop it first");

            Path second = home("second");
            remitto(second, "init");
            int port = freePort();
            set(second, "  port: \\d+", "  port: " + port);
            set(second, "outgoing_allowed: \\[\\]", "outgoing_allowed: [127.0.0.1, localhost]");
            assertThat(remitto(second, "restore", backup.toString()).words()).contains("Restored.");
            assertThat(remitto(second, "restore", backup.toString()).words()).contains("is in use");
            Files.copy(home.resolve("secret.key"), second.resolve("secret.key"));
            assertThat(remitto(second, "start").words())
                    .contains("Remitto runs at")
                    .doesNotContain("Nobody can sign in yet");
            Api restored = new Api(URI.create("http://127.0.0.1:" + port)).signIn(EMAIL, PASSWORD);
            assertThat(restored.text("/api/runs/" + run + "/manifest.jsonl")).isEqualTo(lines);
            assertThat(restored.get("/api/runs/" + run)).isEqualTo(anna.get("/api/runs/" + run));
            assertThat(received(world)).as("calls that wrote").isEqualTo(calls);
            assertThat(Files.readString(second.resolve("remitto.yaml"), StandardCharsets.UTF_8))
                    .contains("\ndepartures: false\n");
            aBundleForSupportHoldsNoSecretAndNobody(home, world);
            anotherKeyOpensWhatWasSealed(second, ids, port);
        }
    }

    private void aBundleForSupportHoldsNoSecretAndNobody(Path home, Stack world) throws Exception {
        Path bundle = folder.resolve("support.tar.gz");
        assertThat(remitto(home, "support-bundle", bundle.toString()).words()).contains("Look through it");
        Path opened = Files.createDirectory(folder.resolve("opened"));
        assertThat(new ProcessBuilder("tar", "-xzf", bundle.toString(), "-C", opened.toString())
                        .start()
                        .waitFor())
                .isZero();
        StringBuilder all = new StringBuilder();
        try (Stream<Path> files = Files.walk(opened)) {
            for (Path file : files.filter(Files::isRegularFile).toList()) {
                all.append(Files.readString(file));
            }
        }
        assertThat(all.toString())
                .contains("listen:", "PostgreSQL 1", "app_user", "Remitto runs at")
                .doesNotContain(
                        Files.readString(home.resolve("database.password")).strip(),
                        Files.readString(home.resolve("people.password")).strip(),
                        EMAIL,
                        "Anna Berg");
        String people = world.text("select string_agg(email, ' ') from ferry.pass_holders where email <> ''");
        assertThat(people.split(" ")).hasSizeGreaterThan(20).noneMatch(all.toString()::contains);
        assertThat(remitto(home, "support-bundle", bundle.toString()).words()).contains("is there already");
    }

    private void anotherKeyOpensWhatWasSealed(Path home, Scenario.Ids ids, int port) throws Exception {
        assertThat(remitto(home, "rotate-key").words()).contains("stop it first");
        remitto(home, "stop");
        byte[] before = Files.readAllBytes(home.resolve("secret.key"));
        assertThat(remitto(home, "rotate-key").words()).contains("sealed values are under a new key");
        assertThat(Files.readAllBytes(home.resolve("secret.key"))).isNotEqualTo(before);
        remitto(home, "start");
        Api again = new Api(URI.create("http://127.0.0.1:" + port)).signIn(EMAIL, PASSWORD);
        JsonNode prepared = again.await(again.post("/api/routes/" + ids.passes() + "/runs", Map.of())
                .get("runId")
                .asLong());
        assertThat(prepared.get("message").asString())
                .as("the source was signed in to with what was sealed")
                .isEqualTo("Nothing to send");
    }

    private static int received(Stack world) {
        return Testimony.of(world.folder.resolve("purser.jsonl")).receipts().size();
    }
}

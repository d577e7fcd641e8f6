package remitto.e2e;

import static com.microsoft.playwright.assertions.PlaywrightAssertions.assertThat;
import static org.assertj.core.api.Assertions.assertThat;

import com.microsoft.playwright.Page;
import com.microsoft.playwright.options.AriaRole;
import java.io.IOException;
import java.net.URI;
import java.net.http.HttpClient;
import java.net.http.HttpRequest;
import java.net.http.HttpResponse;
import java.nio.charset.StandardCharsets;
import java.sql.SQLException;
import java.time.Instant;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.TreeMap;
import java.util.TreeSet;
import java.util.zip.GZIPInputStream;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;
import remitto.core.file.FileContent;
import remitto.core.file.FileForm;
import remitto.core.file.FileLayout;
import remitto.core.file.FileName;
import remitto.demo.history.Api;
import remitto.demo.history.HandOver;
import tools.jackson.databind.JsonNode;
import tools.jackson.databind.json.JsonMapper;

/** An audience handed over as files, to a real SFTP server. */
class FilesTest extends AudienceFixture {
    private HandOver guide;
    private long destination;
    private long members;

    @BeforeEach
    void connect() {
        guide = new HandOver(editor, scenario);
        destination = guide.connect(server());
        members = audience.get("Frequent crossers");
    }

    private HandOver.Server server() {
        return new HandOver.Server(stack.slipway.sshPort(), stack.slipway.hostKey());
    }

    private Api slipway() {
        return new Api(URI.create(address(stack.slipway.port())));
    }

    private List<String> left() {
        List<String> names = new ArrayList<>();
        slipway().get("/control/files").forEach(name -> names.add(name.asString()));
        return names;
    }

    private byte[] content(String path) throws IOException, InterruptedException {
        return HttpClient.newHttpClient()
                .send(
                        HttpRequest.newBuilder(URI.create(address(stack.slipway.port()) + "/control/file?path=" + path))
                                .build(),
                        HttpResponse.BodyHandlers.ofByteArray())
                .body();
    }

    /** By key, the rows of a CSV file with semicolons whose values need no quotes. */
    private Map<String, List<String>> rows(String path) throws IOException, InterruptedException {
        Map<String, List<String>> rows = new TreeMap<>();
        new String(content(path), StandardCharsets.UTF_8).lines().skip(1).forEach(line -> {
            List<String> cells = List.of(line.split(";", -1));
            rows.put(cells.get(0), cells);
        });
        return rows;
    }

    private String agreed() {
        return "select p.person_id from people.person p join audience.member m on m.person_id = p.person_id and m.audience_id = "
                + members + " where p.may_newsletter_email = 'yes'";
    }

    @Test
    void everybodyIsInTheFileAndWhoeverLeftIsNotInTheNextOne() throws Exception {
        long route = guide.route("Island guide", members, destination, HandOver.everybody());
        JsonNode sent = run(route);
        assertThat(sent.get("state").asString()).isEqualTo("SENT");
        String first = "from-halvorn/islanders-20261120-" + sent.get("id").asLong() + ".csv";
        assertThat(left()).containsExactly(first);
        assertThat(new String(content(first), StandardCharsets.UTF_8))
                .startsWith("Member;E-mail;First name;Home port;Crossings\r\n");
        Map<String, List<String>> rows = rows(first);
        assertThat(rows).hasSize((int) sum(sent, "added"));
        assertThat((long) rows.size()).isEqualTo(number("select count(*) from (" + agreed() + ") a"));
        String somebody = rows.keySet().iterator().next();
        assertThat(rows.get(somebody).get(2))
                .isEqualTo(text("select given_name from people.person where person_id = " + somebody));
        assertThat(rows.get(somebody).get(4))
                .isEqualTo(text("select crossings_90d from people.person where person_id = " + somebody));

        assertThat(run(route).get("message").asString()).isEqualTo("Nothing to send");
        assertThat(left()).as("nothing changed, so there is no file").hasSize(1);
        editor.post(
                "/api/consents/suppressions",
                Map.of("addresses", rows.get(somebody).get(1), "reason", "asked by letter"));
        JsonNode after = run(route);
        String second = "from-halvorn/islanders-20261120-" + after.get("id").asLong() + ".csv";
        assertThat(rows(second).keySet())
                .isEqualTo(new TreeSet<>(rows.keySet().stream()
                        .filter(key -> lines(after, "&verdict=REMOVED").stream()
                                .noneMatch(line -> line.get("key").asString().equals(key)))
                        .toList()))
                .doesNotContain(somebody);

        open("/destinations/" + destination);
        assertThat(page.getByRole(AriaRole.CELL, new Page.GetByRoleOptions().setName(second)))
                .isVisible();
        button("content: everybody").click();
        page.getByLabel("What the file holds").selectOption("changes");
        page.keyboard().press("Escape");
        assertThat(page.getByText("change;Member;E-mail")).isVisible();
        assertThat(Browser.axe(page)).isEmpty();
        String other = rows.keySet().stream().skip(1).findFirst().orElseThrow();
        open("/people/" + other);
        page.getByRole(AriaRole.LINK, new Page.GetByRoleOptions().setName("Island guide, islanders " + other))
                .click();
        assertThat(page.getByText("From the source row to the destination's answer"))
                .isVisible();
        assertThat(page.getByText(rows.get(other).get(1)).first()).isVisible();
        assertThat(browser.errors()).isEmpty();
    }

    @Test
    void aFileOfChangesTellsWhatBecameOfEachInJsonLines() throws Exception {
        FileLayout everybody = HandOver.everybody();
        FileLayout changes = new FileLayout(
                everybody.name(),
                true,
                new FileContent.Changes("op", "A", "C", "R"),
                "",
                new FileName("changes-{run}"),
                everybody.zone(),
                new FileForm.JsonLines(),
                true,
                everybody.key(),
                everybody.columns());
        long route = guide.route("Island guide", members, destination, changes);
        JsonNode first = run(route);
        assertThat(objects("changes-" + first.get("id").asLong() + ".jsonl.gz"))
                .hasSize((int) sum(first, "added"))
                .allSatisfy(one -> assertThat(one.get("op").asString()).isEqualTo("A"));
        JsonNode removed =
                objects("changes-" + first.get("id").asLong() + ".jsonl.gz").get(0);
        stack.change("update ferry.pass_holders set home_port = 'TAR'");
        people.join();
        audiences.refresh();
        editor.post(
                "/api/consents/suppressions",
                Map.of("addresses", removed.get("E-mail").asString(), "reason", "asked by letter"));
        JsonNode second = run(route);
        assertThat(sum(second, "changed")).isPositive();
        List<JsonNode> told = objects("changes-" + second.get("id").asLong() + ".jsonl.gz");
        assertThat(told).hasSize((int) (sum(second, "added") + sum(second, "changed") + sum(second, "removed")));
        assertThat(told.stream().filter(one -> one.get("op").asString().equals("R")))
                .anySatisfy(one -> {
                    assertThat(one.get("Member")).isEqualTo(removed.get("Member"));
                    assertThat(one.get("E-mail"))
                            .as("with the last values that were sent")
                            .isEqualTo(removed.get("E-mail"));
                });
        assertThat(told.stream().filter(one -> one.get("op").asString().equals("C")))
                .hasSize((int) sum(second, "changed"))
                .allSatisfy(one -> {
                    assertThat(one.get("Home port").asString()).isEqualTo("Tarva");
                    assertThat(one.get("E-mail").isNull())
                            .as("all columns, also those that stayed")
                            .isFalse();
                });
    }

    private List<JsonNode> objects(String path) throws IOException, InterruptedException {
        JsonMapper json = JsonMapper.builder().build();
        return new String(
                        new GZIPInputStream(new java.io.ByteArrayInputStream(content(path))).readAllBytes(),
                        StandardCharsets.UTF_8)
                .lines()
                .map(json::readTree)
                .toList();
    }

    @Test
    void aServerThatIsAnotherOrCutsTheLineGetsNothingOrAll() throws Exception {
        JsonNode stranger = editor.put(
                "/api/destinations/" + destination,
                HandOver.destination(
                        new HandOver.Server(
                                stack.slipway.sshPort(), "SHA256:AAAAAAAAAAAAAAAAAAAAAAAAAAAAAAAAAAAAAAAAAAA"),
                        ""));
        assertThat(stranger.get("problem").asString())
                .contains(stack.slipway.hostKey())
                .contains("nothing was sent");
        editor.put("/api/destinations/" + destination, HandOver.destination(server(), ""));
        long route = guide.route("Island guide", members, destination, HandOver.everybody());
        slipway().post("/control/faults", Map.of("refuse", 0, "cut", 1, "slowMillis", 0));
        JsonNode sent = run(route);
        assertThat(sent.get("state").asString()).as("tried again after the cut").isEqualTo("SENT");
        assertThat(left()).as("and nothing half is left").hasSize(1).noneMatch(name -> name.endsWith(".part"));
        assertThat(rows(left().get(0))).hasSize((int) sum(sent, "added"));

        stack.change("update ferry.pass_holders set home_port = 'TAR'");
        people.join();
        audiences.refresh();
        slipway().post("/control/faults", Map.of("refuse", 50, "cut", 0, "slowMillis", 0));
        JsonNode suspended = run(route);
        assertThat(suspended.get("state").asString()).isEqualTo("SUSPENDED");
        assertThat(suspended.get("message").asString()).contains("does not let halvorn in");
        assertThat(outcome(suspended, "ACKNOWLEDGED")).isZero();
        assertThat(left()).hasSize(1);
        slipway().post("/control/faults", Map.of("refuse", 0, "cut", 0, "slowMillis", 0));
        editor.post("/api/runs/" + suspended.get("id").asLong() + "/send", Map.of());
        assertThat(editor.await(suspended.get("id").asLong()).get("state").asString())
                .isEqualTo("SENT");
        assertThat(left()).hasSize(2);
    }

    @Test
    void whoSaidNoWhileAFileWaitedIsNotInIt() throws Exception {
        long route = guide.route("Island guide", members, destination, HandOver.everybody());
        run(route);
        Map<String, List<String>> before = rows(left().get(0));
        List<String> keys = List.copyOf(before.keySet());
        stack.change("update ferry.pass_holders set home_port = 'TAR'");
        people.join();
        audiences.refresh();
        JsonNode prepared = prepare(route);
        assertThat(sum(prepared, "changed")).isPositive();
        String changed = lines(prepared, "&verdict=CHANGED").get(0).get("key").asString();
        editor.post(
                "/api/consents/people/" + changed,
                Map.of("purpose", "newsletter", "channel", "email", "yes", false, "evidence", "by phone"));
        String same = keys.stream()
                .filter(key -> lines(prepared, "").stream()
                        .noneMatch(line -> line.get("key").asString().equals(key)))
                .findFirst()
                .orElse(keys.get(0));
        editor.post(
                "/api/consents/suppressions",
                Map.of("addresses", before.get(same).get(1), "reason", "by letter"));
        stack.server().clock().set(Instant.parse("2026-11-20T15:05:00Z"));
        JsonNode sent = send(prepared);
        assertThat(outcome(sent, "FORBIDDEN")).isPositive();
        String second = left().stream()
                .filter(name -> name.contains("-" + sent.get("id").asLong() + "."))
                .findFirst()
                .orElseThrow();
        assertThat(rows(second).keySet()).doesNotContain(changed, same);
        assertThat(rows(second)).hasSizeGreaterThan(before.size() / 2);
        JsonNode after = run(route);
        assertThat(lines(after, "&verdict=REMOVED"))
                .extracting(line -> line.get("key").asString())
                .contains(changed, same);
    }

    @Test
    void aServerThatIsKilledWhileItWritesAFileLeavesOneWholeFile() throws Exception {
        long route = guide.route("Island guide", members, destination, HandOver.everybody());
        long run = prepare(route).get("id").asLong();
        slipway().post("/control/faults", Map.of("refuse", 0, "cut", 0, "slowMillis", 2_000));
        editor.post("/api/runs/" + run + "/send", Map.of());
        slipway().until("/control/files", files -> !files.isEmpty());
        assertThat(left()).as("it is being written").allMatch(name -> name.endsWith(".part"));
        stack.killServer();
        slipway().post("/control/faults", Map.of("refuse", 0, "cut", 0, "slowMillis", 0));
        editor = stack.user("EDITOR");
        JsonNode sent = editor.await(run);
        assertThat(sent.get("state").asString()).isEqualTo("SENT");
        assertThat(left()).hasSize(1).noneMatch(name -> name.endsWith(".part"));
        assertThat(rows(left().get(0))).hasSize((int) sum(sent, "added"));
        assertThat(outcome(sent, "ACKNOWLEDGED")).isEqualTo(sum(sent, "added"));
    }

    @Test
    void whatTheEncodingHasNoLetterForIsRefusedAloneAndInAFolderAsWell() throws SQLException {
        long folder = editor.post(
                        "/api/destinations",
                        Map.of(
                                "name",
                                "Hand-over folder",
                                "profile",
                                "file-folder",
                                "limitsOff",
                                false,
                                "settings",
                                Map.of("base_address", "guide-" + System.nanoTime())))
                .get("id")
                .asLong();
        FileLayout everybody = HandOver.everybody();
        long route = guide.route(
                "Island guide",
                members,
                folder,
                new FileLayout(
                        "western",
                        true,
                        everybody.content(),
                        "",
                        everybody.fileName(),
                        "UTC",
                        new FileForm.Csv(
                                ",",
                                FileForm.Quoting.EVERY_VALUE,
                                FileForm.LineEnd.CRLF,
                                FileForm.Encoding.ISO_8859_1,
                                true,
                                ";",
                                Optional.empty()),
                        false,
                        everybody.key(),
                        everybody.columns()));
        stack.change("update ferry.ports set name = 'Τάρβα' where code = 'TAR'");
        people.join();
        audiences.refresh();
        long greek = number(
                "select count(*) from people.person where (home_port || coalesce(given_name, '') ~ '[^\\u0001-\\u00ff]')"
                        + " and person_id in (" + agreed() + ")");
        JsonNode sent = run(route);
        assertThat(greek).isPositive();
        assertThat(outcome(sent, "REFUSED")).isEqualTo(greek);
        assertThat(outcome(sent, "ACKNOWLEDGED")).isEqualTo(sum(sent, "added") - greek);
        assertThat(lines(sent, "&state=REFUSED"))
                .allSatisfy(line ->
                        assertThat(line.get("answer").asString()).contains("\" cannot be written in ISO-8859-1"));
        JsonNode delivered = editor.get("/api/destinations/" + folder + "/files")
                .get("delivered")
                .get(0);
        assertThat(delivered.get("rows").asLong()).isEqualTo(outcome(sent, "ACKNOWLEDGED"));
    }
}

package remitto.command;

import static org.assertj.core.api.Assertions.assertThat;

import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.List;
import org.junit.jupiter.api.AfterEach;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;

/** What somebody types, what the installation is asked, and what they read and end with. */
class RemittoCommandTest {
    private static final String PLAN = """
            {"changes": [
              {"path": "crosswalks/towns.yaml", "kind": "crosswalk", "name": "Towns", "act": "CHANGE", "atOnce": false,
               "differences": ["entries[Ness].to: Ness → Nes"],
               "effect": {"path": "/api/crosswalks/3/what-if", "body": {"entries": []}}},
              {"path": "sources/shop.yaml", "kind": "source", "name": "Shop", "act": "ADD", "atOnce": true, "differences": []},
              {"path": "routes/old.yaml", "kind": "route", "name": "Old", "act": "LEAVE", "atOnce": true, "differences": []}],
             "same": 4, "faults": [], "state": "abc123"}
            """;
    private static final String NOTHING = "{\"changes\": [], \"same\": 6, \"faults\": [], \"state\": \"abc123\"}";
    private static final String FAULTS = """
            {"changes": [], "same": 0, "state": "abc123", "faults": [
              {"path": "routes/mail.yaml", "line": 12, "message": "there is no dataset nobody"}]}
            """;

    @TempDir
    private Path folder;

    private StandInInstallation installation;
    private Terminal terminal;

    @BeforeEach
    void begin() throws IOException {
        installation = new StandInInstallation();
        terminal =
                new Terminal().with("REMITTO_URL", installation.url()).with("REMITTO_TOKEN", StandInInstallation.TOKEN);
        write("crosswalks/towns.yaml", "definition: crosswalk\n");
        write("sources/shop.yaml", "definition: source\n");
    }

    @AfterEach
    void end() {
        installation.close();
    }

    private void write(String path, String text) throws IOException {
        Path file = folder.resolve(path);
        Files.createDirectories(file.getParent());
        Files.writeString(file, text);
    }

    private Terminal.Outcome types(String... arguments) {
        List<String> all = new java.util.ArrayList<>(List.of(arguments));
        all.addAll(List.of("-C", folder.toString()));
        return terminal.types(all.toArray(String[]::new));
    }

    @Test
    void aPlanIsToldWithItsDifferences() {
        installation.answers("POST /api/definitions/plan", 200, PLAN);

        Terminal.Outcome plan = types("plan", "--in-service");

        assertThat(plan.exit()).isZero();
        assertThat(plan.out().lines())
                .containsExactly(
                        "~ crosswalks/towns.yaml  changes",
                        "    entries[Ness].to: Ness → Nes",
                        "+ sources/shop.yaml  is new, which counts at once",
                        "2 changes, 4 as they are, 1 without a file stay (see --remove).",
                        "  routes/old.yaml");
        assertThat(installation.asked().get(0).body().get("inService").asBoolean())
                .isTrue();
        assertThat(installation.asked().get(0).body().get("remove").asBoolean()).isFalse();
        assertThat(installation
                        .asked()
                        .get(0)
                        .body()
                        .get("files")
                        .get(0)
                        .get("path")
                        .asString())
                .isEqualTo("crosswalks/towns.yaml");
    }

    @Test
    void aCheckEndsDifferentlyWhereSomethingDiffers() {
        installation
                .answers("POST /api/definitions/plan", 200, PLAN)
                .answers("POST /api/definitions/plan", 200, NOTHING);

        assertThat(types("plan", "--check").exit()).isEqualTo(3);
        assertThat(types("plan", "--check").exit()).isZero();
    }

    @Test
    void theEffectOfAChangeIsAskedForAndTold() {
        installation
                .answers("POST /api/definitions/plan", 200, PLAN)
                .answers("POST /api/crosswalks/3/what-if", 200, "{\"id\": 8, \"state\": \"UNDER_WAY\"}")
                .answers("GET /api/what-if/8", 200, "{\"id\": 8, \"state\": \"UNDER_WAY\"}")
                .answers("GET /api/what-if/8", 200, """
                        {"id": 8, "state": "DONE", "problem": "", "effects": [
                          {"route": "Mail", "problem": "", "effect": {"rows": 40, "whole": true, "differ": 20,
                            "before": {"UNCHANGED": 40}, "after": {"CHANGED": 20, "LEFT_OUT": 20}}},
                          {"route": "Ads", "problem": "its dataset cannot be read"}]}
                        """);

        Terminal.Outcome plan = types("plan", "--effect");

        assertThat(plan.out())
                .contains("Effect of crosswalks/towns.yaml:")
                .contains("route Mail: 20 of 40 records differ")
                .contains("now  40 unchanged")
                .contains("then 20 changed, 20 left out")
                .contains("route Ads: its dataset cannot be read");
    }

    @Test
    void aRehearsalIsAskedForOnlyWhereNothingIsWrongYet() {
        installation
                .answers("POST /api/definitions/plan", 200, NOTHING)
                .answers(
                        "POST /api/definitions/rehearsal",
                        422,
                        "{\"detail\": \"routes/mail.yaml: no. Nothing was changed.\"}");

        Terminal.Outcome plan = types("plan", "--rehearse");

        assertThat(plan.exit()).isEqualTo(1);
        assertThat(plan.err()).contains("routes/mail.yaml: no.");
    }

    @Test
    void faultsAreToldAsCompilersTellThem() {
        installation.answers("POST /api/definitions/plan", 200, FAULTS);

        assertThat(types("plan").exit()).isEqualTo(1);
        Terminal.Outcome applied = types("apply", "--yes");

        assertThat(applied.exit()).isEqualTo(1);
        assertThat(applied.out()).contains("routes/mail.yaml:12: there is no dataset nobody");
        assertThat(applied.err()).contains("Nothing was changed.");
        assertThat(installation.lines()).doesNotContain("POST /api/definitions/apply");
    }

    @Test
    void whatIsAppliedIsThePlanThatWasSeen() {
        installation.answers("POST /api/definitions/plan", 200, PLAN).answers("POST /api/definitions/apply", 200, PLAN);

        Terminal.Outcome applied = types("apply", "--yes", "--note", "commit 12ab");

        assertThat(applied.exit()).isZero();
        assertThat(applied.out()).endsWith("Applied." + System.lineSeparator());
        StandInInstallation.Asked asked = installation.asked().get(1);
        assertThat(asked.line()).isEqualTo("POST /api/definitions/apply");
        assertThat(asked.body().get("state").asString()).isEqualTo("abc123");
        assertThat(asked.body().get("note").asString()).isEqualTo("commit 12ab");
    }

    @Test
    void nothingIsAppliedUnlessSomebodyAgrees() {
        installation.answers("POST /api/definitions/plan", 200, PLAN).answers("POST /api/definitions/apply", 200, PLAN);

        Terminal.Outcome alone = types("apply");
        assertThat(alone.exit()).isEqualTo(1);
        assertThat(alone.err()).contains("--yes applies without asking");

        terminal.answering("no");
        assertThat(types("apply").exit()).isEqualTo(1);
        assertThat(installation.lines()).doesNotContain("POST /api/definitions/apply");

        terminal.answering("yes");
        assertThat(types("apply").exit()).isZero();
        assertThat(installation.lines()).contains("POST /api/definitions/apply");
    }

    @Test
    void nothingIsAskedWhereNothingDiffers() {
        installation.answers("POST /api/definitions/plan", 200, NOTHING);

        Terminal.Outcome applied = types("apply");

        assertThat(applied.exit()).isZero();
        assertThat(applied.out()).contains("0 changes, 6 as they are.");
    }

    @Test
    void whatIsPulledIsWrittenOnceAndTheRestIsLeftAlone() throws IOException {
        write("crosswalks/gone.yaml", "definition: crosswalk\n");
        write("docs/notes.yaml", "mine: true\n");
        write("README.md", "mine\n");
        installation.answers("GET /api/definitions?inService=false", 200, """
                [{"path": "crosswalks/towns.yaml", "text": "definition: crosswalk\\n"},
                 {"path": "sources/shop.yaml", "text": "definition: source\\nname: Shop\\n"}]
                """);

        Terminal.Outcome pulled = types("pull");

        assertThat(pulled.exit()).isZero();
        assertThat(pulled.out().lines())
                .containsExactly(
                        "wrote sources/shop.yaml",
                        "crosswalks/gone.yaml is not there any more; --prune deletes such files",
                        "1 written, 1 as they were.");
        assertThat(folder.resolve("sources/shop.yaml")).hasContent("definition: source\nname: Shop");

        assertThat(types("pull", "--prune").out()).contains("deleted crosswalks/gone.yaml");
        assertThat(folder.resolve("crosswalks/gone.yaml")).doesNotExist();
        assertThat(folder.resolve("docs/notes.yaml")).exists();
        assertThat(folder.resolve("README.md")).exists();
    }

    @Test
    void anInstallationCannotHaveFilesWrittenElsewhere() {
        installation.answers("GET /api/definitions?inService=false", 200, """
                [{"path": "../../elsewhere.yaml", "text": "x"}]
                """);

        Terminal.Outcome pulled = types("pull");

        assertThat(pulled.exit()).isEqualTo(1);
        assertThat(pulled.err()).contains("no place for one");
        assertThat(folder.getParent().getParent().resolve("elsewhere.yaml")).doesNotExist();
    }

    @Test
    void secretsAreTakenFromWhereTheyStand() throws IOException {
        Files.writeString(folder.resolve("password.txt"), "from a file\n");
        Files.writeString(
                folder.resolve("remitto.yaml"), """
                usual: live
                installations:
                  live:
                    url: %s
                    token: {env: LIVE_TOKEN}
                    leave: [destination]
                    names: {crosswalk: {towns: places}}
                    secrets:
                      sources/shop.yaml: {password: {env: SHOP_PASSWORD}}
                      sources/other.yaml: {password: {file: "%s"}}
                """.formatted(installation.url(), folder.resolve("password.txt")));
        terminal = new Terminal()
                .with("LIVE_TOKEN", StandInInstallation.TOKEN)
                .with("SHOP_PASSWORD", "from the environment");
        installation.answers("POST /api/definitions/plan", 200, NOTHING);

        assertThat(types("plan").exit()).isZero();

        var body = installation.asked().get(0).body();
        assertThat(body.at("/secrets/sources~1shop.yaml/password").asString()).isEqualTo("from the environment");
        assertThat(body.at("/secrets/sources~1other.yaml/password").asString()).isEqualTo("from a file");
        assertThat(body.at("/leave/0").asString()).isEqualTo("destination");
        assertThat(body.at("/names/crosswalk/towns").asString()).isEqualTo("places");

        terminal = new Terminal().with("LIVE_TOKEN", StandInInstallation.TOKEN);
        assertThat(types("plan").err())
                .contains(
                        "password of sources/shop.yaml is taken from the environment variable SHOP_PASSWORD, which is not set");
    }

    @Test
    void aWrongWorkspaceIsToldWithItsLine() throws IOException {
        Files.writeString(folder.resolve("remitto.yaml"), "installations:\n  live:\n    adress: x\n");

        Terminal.Outcome plan = types("plan");

        assertThat(plan.exit()).isEqualTo(1);
        assertThat(plan.err()).contains("remitto.yaml, line 3").contains("adress");
    }

    @Test
    void whichInstallationIsMeantIsAskedWhereThereAreSeveral() throws IOException {
        Files.writeString(folder.resolve("remitto.yaml"), """
                installations:
                  live: {url: "https://live.example"}
                  test: {url: "https://test.example"}
                """);
        terminal = new Terminal().with("REMITTO_TOKEN", StandInInstallation.TOKEN);

        assertThat(types("plan").err()).contains("Say with --installation which one is meant: live, test.");
        assertThat(types("plan", "-i", "lvie").err()).contains("knows no installation lvie; it knows live, test.");
    }

    @Test
    void whoIsNotLetInOrReachesNobodyIsTold() {
        terminal.with("REMITTO_TOKEN", "another");
        Terminal.Outcome stranger = types("status");
        assertThat(stranger.exit()).isEqualTo(4);
        assertThat(stranger.err()).contains("This token is not known here.");

        installation.close();
        terminal.with("REMITTO_TOKEN", StandInInstallation.TOKEN);
        Terminal.Outcome nobody = types("status");
        assertThat(nobody.exit()).isEqualTo(4);
        assertThat(nobody.err()).contains("does not answer");

        assertThat(new Terminal()
                        .types("status", "--url", "https://somewhere.example")
                        .err())
                .contains("There is no token.");
        assertThat(new Terminal()
                        .with("REMITTO_TOKEN", "x")
                        .types("status", "--url", "somewhere")
                        .err())
                .contains("is no address of an installation");
    }

    @Test
    void aFileThatIsNoneOfOursToReadIsRefusedBeforeItIsSent() throws IOException {
        write("crosswalks/large.yaml", "x".repeat(8_000_001));
        assertThat(types("plan").err()).contains("crosswalks/large.yaml has 8000001 bytes");

        Files.delete(folder.resolve("crosswalks/large.yaml"));
        Files.write(folder.resolve("crosswalks/odd.yaml"), new byte[] {(byte) 0xff, (byte) 0xfe});
        assertThat(types("plan").err()).contains("crosswalks/odd.yaml is not UTF-8 text.");
        assertThat(installation.asked()).isEmpty();
    }

    @Test
    void aRouteIsRunByTheNameOfItsFileAndSentWhereThatIsAsked() {
        names().answers("POST /api/routes/7/runs", 200, "{\"runId\": 21}")
                .answers("GET /api/runs/21", 200, run("PREPARING"))
                .answers("GET /api/runs/21", 200, run("READY"))
                .answers("GET /api/runs/21", 200, run("SENDING"))
                .answers("GET /api/runs/21", 200, run("SENT"))
                .answers("POST /api/runs/21/send", 200, run("SENDING"));

        Terminal.Outcome sent = types("run", "mail", "--send");

        assertThat(sent.exit()).isZero();
        assertThat(sent.out().strip()).isEqualTo("run 21 of Mail: sent; +1 ~2 -3 =4, 5 held, 6 left out");
        assertThat(types("run", "nobody").err()).contains("There is no route nobody.");
    }

    @Test
    void aManifestThatWaitsForSomebodyEndsSo() {
        names().answers("POST /api/routes/7/runs", 200, "{\"runId\": 21}")
                .answers("GET /api/runs/21", 200, run("AWAITING_APPROVAL"));

        assertThat(types("run", "Mail", "--send").exit()).isEqualTo(5);
        assertThat(installation.lines()).doesNotContain("POST /api/runs/21/send");
        assertThat(types("wait", "21").exit()).isEqualTo(5);
    }

    @Test
    void aRunThatFailedEndsSoAndWaitingEndsInTime() {
        installation.answers("GET /api/runs/21", 200, run("FAILED")).answers("GET /api/runs/22", 200, run("SENDING"));

        assertThat(types("wait", "21").exit()).isEqualTo(1);
        assertThat(types("wait", "22", "--longest", "2").out()).contains("sending");
        assertThat(installation.lines().stream().filter("GET /api/runs/22"::equals))
                .as("looked at once a second for two minutes")
                .hasSize(121);
    }

    @Test
    void aFieldIsExplainedStepByStep() {
        names().answers("GET /api/routes/7/explain?key=a+b%26c&field=town", 200, """
                {"field": "town", "there": "Nes", "problem": "", "made": {"runId": 21, "route": "Mail", "routeVersion": 3,
                 "sentence": "From town, by the crosswalk Towns", "inputs": {"town": "Ness"},
                 "steps": [{"step": "crosswalk Towns", "detail": "", "value": "Nes"}],
                 "answer": "accepted", "answeredAt": "2026-12-01T07:00:00Z"}}
                """);

        assertThat(types("explain", "mail", "a b&c", "town").out().lines())
                .containsExactly(
                        "field town holds there: Nes",
                        "made by run 21 of route Mail, version 3: From town, by the crosswalk Towns",
                        "  from town: Ness",
                        "  crosswalk Towns: Nes",
                        "  answered 2026-12-01T07:00:00Z: accepted");
    }

    @Test
    void programsReadTheJsonOfTheApi() {
        installation.answers("POST /api/definitions/plan", 200, PLAN).answers("GET /api/runs/21", 200, run("SENT"));

        assertThat(tools.jackson.databind.json.JsonMapper.shared()
                        .readTree(types("plan", "-o", "json").out())
                        .get("state")
                        .asString())
                .isEqualTo("abc123");
        assertThat(tools.jackson.databind.json.JsonMapper.shared()
                        .readTree(types("logs", "21", "--output", "json").out())
                        .get("state")
                        .asString())
                .isEqualTo("SENT");
    }

    @Test
    void wrongUsageEndsAsIsCommonAndCompletionIsMade() {
        assertThat(new Terminal().types("plan", "--nonsense").exit()).isEqualTo(2);
        assertThat(new Terminal().types("explain").exit()).isEqualTo(2);
        assertThat(new Terminal().types("generate-completion").out())
                .contains("_complete_remitto")
                .contains("--in-service");
    }

    private StandInInstallation names() {
        return installation.answers("GET /api/definitions/names", 200, """
                [{"kind": "route", "slug": "mail", "id": "7", "name": "Mail"},
                 {"kind": "dataset", "slug": "nobody", "id": "8", "name": "nobody"}]
                """);
    }

    private static String run(String state) {
        return """
                {"id": 21, "route": "Mail", "state": "%s", "message": "", "counts": {"added": 1, "changed": 2,
                 "removed": 3, "unchanged": 4, "held": 5, "leftOut": 6}}
                """.formatted(state);
    }
}

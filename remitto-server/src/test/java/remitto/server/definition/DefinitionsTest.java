package remitto.server.definition;

import static org.assertj.core.api.Assertions.assertThat;

import java.time.Duration;
import java.util.ArrayList;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import org.junit.jupiter.api.AfterAll;
import org.junit.jupiter.api.AfterEach;
import org.junit.jupiter.api.BeforeAll;
import org.junit.jupiter.api.Test;
import remitto.server.harness.Awaited;
import remitto.server.harness.TestProgram;
import remitto.server.harness.TestServer;
import remitto.server.harness.TestUser;
import tools.jackson.databind.JsonNode;

/** Two installations and one repository: what one pulls, the other is given. */
class DefinitionsTest {
    private static TestServer first;
    private static TestServer second;
    private static TestUser editor;
    private static Pulled shop;
    private static Map<String, Map<String, String>> secrets;

    @BeforeAll
    static void start() {
        first = TestServer.start();
        shop = Pulled.pulledBy(new FilledShop(first).editor());
        second = TestServer.start();
        editor = second.user("EDITOR");
        secrets = Map.of(
                "sources/shop.yaml",
                Map.of("password", second.cluster().password()),
                shop.path("destinations/"),
                Map.of("password", second.cluster().password()));
        // An administrator's files let the new addresses in; an editor's would wait for one.
        shop.inService().asking("secrets", secrets).applied(second.admin()).ok();
    }

    @AfterAll
    static void stop() {
        first.close();
        second.close();
    }

    /** The next test begins as this one did. */
    @AfterEach
    void back() {
        shop.inService().removing().applied(second.admin()).ok();
    }

    @Test
    void whatIsPulledAndAppliedElsewhereIsPulledThereInTheSameBytes() {
        assertThat(shop.texts().keySet().stream().map(path -> path.replaceAll("/.*", "")))
                .as("a file of every kind")
                .contains(
                        "profiles",
                        "sources",
                        "destinations",
                        "crosswalks",
                        "datasets",
                        "people-sources",
                        "match-rules",
                        "event-sets",
                        "measures",
                        "audiences",
                        "routes",
                        "field-books",
                        "audience-timetables");
        assertThat(Pulled.pulledBy(editor).texts()).isEqualTo(shop.texts());
        assertThat(Pulled.pulledBy(editor, "/api/definitions?inService=true").texts())
                .as("what was put in service there")
                .containsAllEntriesOf(shop.texts());
    }

    @Test
    void whatIsAppliedTwiceChangesNothingTheSecondTime() {
        String journal = second.admin().get("/api/journal").text();

        JsonNode again = shop.inService()
                .removing()
                .asking("secrets", secrets)
                .applied(editor)
                .ok();

        assertThat(Pulled.acts(again)).isEmpty();
        assertThat(again.get("same").asInt()).isEqualTo(shop.texts().size());
        assertThat(second.admin().get("/api/journal").text()).isEqualTo(journal);
    }

    @Test
    void aChangeIsSavedFirstAndPutInServiceWhenThatIsAsked() {
        Pulled changed = shop.changed("crosswalks/towns.yaml", "3290 Stavern", "Stavern town");

        JsonNode saved = changed.applied(editor).ok();

        assertThat(Pulled.acts(saved)).containsExactly("CHANGE crosswalks/towns.yaml");
        assertThat(saved.get("changes").get(0).get("differences").get(0).asString())
                .isEqualTo("entries[Stavern].to: 3290 Stavern → Stavern town");
        JsonNode crosswalk = editor.get("/api/crosswalks").ok().get(0);
        assertThat(crosswalk.get("latestVersion").asInt())
                .isEqualTo(crosswalk.get("liveVersion").asInt() + 1);
        assertThat(Pulled.acts(changed.planned(editor))).isEmpty();

        JsonNode put = changed.inService().applied(editor).ok();

        assertThat(Pulled.acts(put)).containsExactly("PUT_IN_SERVICE crosswalks/towns.yaml");
        JsonNode now = editor.get("/api/crosswalks").ok().get(0);
        assertThat(now.get("liveVersion")).isEqualTo(now.get("latestVersion"));
        assertThat(second.journal("put crosswalk in service")
                        .get(0)
                        .get("actor")
                        .asString())
                .isEqualTo("editor tester");
    }

    @Test
    void everyFaultOfEveryFileIsToldWithItsLine() {
        Pulled wrong = shop.changed("crosswalks/towns.yaml", "description:", "descripton:")
                .changed("routes/later-on.yaml", "dataset: customers", "dataset: nobody")
                .changed("audiences/stavern-regulars.yaml", "entity_type: person", "entity_type: boat")
                .changed("routes/customers-to-mail.yaml", "mode: keep_equal", "mode: keep_equal\nmode: add_only")
                .changed("measures/visits_30d.yaml", "  - 5", "  - 0")
                .changed("datasets/visits.yaml", "name: Visits", "name: 2026")
                .with("datasets/customers.yml", shop.text("datasets/customers.yaml"))
                .with("boats/mary.yaml", "definition: boat")
                .with("datasets/Mary Celeste.yaml", "definition: dataset");

        List<String> faults = Pulled.faults(wrong.planned(editor));

        assertThat(faults)
                .anySatisfy(fault -> assertThat(fault)
                        .startsWith("crosswalks/towns.yaml:4 ")
                        .contains("there is no \"descripton\" here"))
                .anySatisfy(fault -> assertThat(fault).contains("\"description\" is missing"))
                .anySatisfy(fault -> assertThat(fault)
                        .startsWith("datasets/visits.yaml:3 ")
                        .contains("name: is a number where a text is expected; write it in quotes"))
                .anySatisfy(fault -> assertThat(fault)
                        .startsWith("routes/later-on.yaml:4 ")
                        .contains("there is no dataset nobody, neither here nor among the files"))
                .anySatisfy(fault -> assertThat(fault)
                        .startsWith("audiences/stavern-regulars.yaml:5 ")
                        .contains("entity_type"))
                .anySatisfy(fault -> assertThat(fault)
                        .startsWith("routes/customers-to-mail.yaml:8 ")
                        .contains("mode"))
                .anySatisfy(fault -> assertThat(fault)
                        .startsWith("measures/visits_30d.yaml:")
                        .contains("Bounds go up: 1 is not below 0."))
                .anySatisfy(fault -> assertThat(fault).contains("is the same definition as"))
                .anySatisfy(fault -> assertThat(fault)
                        .startsWith("boats/mary.yaml:1 ")
                        .contains("a folder that no kind of definition has"))
                .anySatisfy(fault -> assertThat(fault).startsWith("datasets/Mary Celeste.yaml:1 "));

        TestUser.Answer refused = wrong.applied(editor);
        assertThat(refused.status()).isEqualTo(422);
        assertThat(refused.detail()).contains("Nothing was changed.");
    }

    @Test
    void aTextThatStandsForMoreThanItSaysIsNotRead() {
        StringBuilder bomb = new StringBuilder("a0: &a0 [x, x, x, x, x, x, x, x, x, x]\n");
        for (int i = 1; i < 12; i++) {
            bomb.append("a").append(i).append(": &a").append(i).append(" [");
            bomb.append(String.join(", ", java.util.Collections.nCopies(10, "*a" + (i - 1))))
                    .append("]\n");
        }
        Pulled bombs = shop.with("crosswalks/bomb.yaml", bomb.toString())
                .with("crosswalks/deep.yaml", "entries: " + "[".repeat(90_000))
                .with("crosswalks/long.yaml", "name: " + "x".repeat(8_100_000));

        assertThat(Pulled.faults(bombs.planned(editor)))
                .anySatisfy(fault ->
                        assertThat(fault).startsWith("crosswalks/bomb.yaml:2 ").contains("aliases"))
                .anySatisfy(fault -> assertThat(fault)
                        .startsWith("crosswalks/deep.yaml:1 ")
                        .contains("nested deeper than 60 levels"))
                .anySatisfy(fault ->
                        assertThat(fault).startsWith("crosswalks/long.yaml:1 ").contains("longer than"));
    }

    @Test
    void aCrosswalkOfTheMostRowsIsAFileToo() {
        StringBuilder large =
                new StringBuilder("definition: crosswalk\nformat: 1\nname: Large\ndescription: \"\"\nentries:\n");
        for (int i = 0; i < 100_000; i++) {
            large.append("- from: \"our word ")
                    .append(i)
                    .append("\"\n  to: their word ")
                    .append(i)
                    .append('\n');
        }
        Pulled files = shop.with("crosswalks/large.yaml", large.toString());

        assertThat(Pulled.acts(files.applied(editor).ok())).containsExactly("ADD crosswalks/large.yaml");
        assertThat(Pulled.acts(files.planned(editor))).isEmpty();
    }

    @Test
    void filesLargerThanAllDefinitionsAreRefusedAtTheDoor() {
        List<Map<String, String>> files = new ArrayList<>();
        for (int i = 0; i < 25; i++) {
            files.add(Map.of("path", "crosswalks/c" + i + ".yaml", "text", "x".repeat(2_000_000)));
        }
        Map<String, Object> body = shop.body();
        body.put("files", files);

        assertThat(editor.post("/api/definitions/plan", body).status()).isEqualTo(413);
    }

    @Test
    void whereOneFileIsRefusedNothingOfTheOthersIsDone() {
        Pulled mixed = shop.changed("crosswalks/towns.yaml", "3290 Stavern", "somewhere")
                .changed("routes/later-on.yaml", "column: id", "column: no_such_column")
                .inService();

        TestUser.Answer refused = mixed.applied(editor);

        assertThat(refused.status()).isEqualTo(422);
        assertThat(refused.detail())
                .startsWith("routes/later-on.yaml: The route cannot be used: id:")
                .contains("no_such_column")
                .endsWith("Nothing was changed.");
        assertThat(Pulled.pulledBy(editor).texts()).isEqualTo(shop.texts());
        assertThat(editor.post("/api/definitions/rehearsal", mixed.body()).detail())
                .isEqualTo(refused.detail());
    }

    @Test
    void aRehearsalLeavesNothingBehind() {
        Pulled changed = shop.changed("crosswalks/towns.yaml", "3290 Stavern", "somewhere")
                .with(
                        "crosswalks/new-one.yaml",
                        shop.text("crosswalks/towns.yaml").replace("name: Towns", "name: New"))
                .inService();

        JsonNode rehearsed =
                editor.post("/api/definitions/rehearsal", changed.body()).ok();

        assertThat(Pulled.acts(rehearsed))
                .containsExactly("ADD crosswalks/new-one.yaml", "CHANGE crosswalks/towns.yaml");
        assertThat(Pulled.pulledBy(editor).texts()).isEqualTo(shop.texts());
    }

    @Test
    void aPlanThatIsNoLongerSoIsNotCarriedOut() {
        Pulled changed = shop.changed("crosswalks/towns.yaml", "3290 Stavern", "by the plan");
        String seen = changed.planned(editor).get("state").asString();
        shop.changed("crosswalks/towns.yaml", "3290 Stavern", "by somebody else")
                .applied(editor)
                .ok();

        TestUser.Answer late = changed.asking("state", seen).applied(editor);

        assertThat(late.status()).isEqualTo(409);
        assertThat(late.detail()).contains("make the plan again");
    }

    @Test
    void whatHasNoFileStaysUnlessRemovalIsAskedForAndIsNotRemovedWhileItIsUsed() {
        Pulled fewer = shop.without("routes/later-on.yaml");
        assertThat(Pulled.acts(fewer.planned(editor))).containsExactly("LEAVE routes/later-on.yaml");

        JsonNode removed = fewer.removing().applied(editor).ok();

        assertThat(Pulled.acts(removed)).containsExactly("REMOVE routes/later-on.yaml");
        assertThat(Pulled.pulledBy(editor).texts()).doesNotContainKey("routes/later-on.yaml");
        assertThat(second.journal("archived route")).isNotEmpty();

        TestUser.Answer used = shop.without("crosswalks/towns.yaml").removing().applied(editor);
        assertThat(used.detail())
                .isEqualTo("crosswalks/towns.yaml: Towns is used by route Customers to mail. Nothing was changed.");
    }

    @Test
    void aRenamedDefinitionKeepsItsFile() {
        Pulled renamed = shop.changed("crosswalks/towns.yaml", "name: Towns", "name: Places");
        renamed.inService().applied(editor).ok();

        assertThat(Pulled.pulledBy(editor).texts()).isEqualTo(renamed.texts());
        assertThat(editor.get("/api/definitions/names").text())
                .contains("\"slug\":\"towns\"")
                .contains("\"name\":\"Places\"");
    }

    @Test
    void whatIsCalledOtherwiseHereIsFoundByItsNameHere() {
        Pulled elsewhere = shop.without("crosswalks/towns.yaml")
                .with("crosswalks/test-towns.yaml", shop.text("crosswalks/towns.yaml"))
                .changed("routes/customers-to-mail.yaml", "crosswalk: towns", "crosswalk: test-towns");
        assertThat(Pulled.acts(elsewhere.planned(editor))).contains("ADD crosswalks/test-towns.yaml");

        JsonNode mapped = elsewhere
                .asking("names", Map.of("crosswalk", Map.of("test-towns", "towns")))
                .planned(editor);

        assertThat(Pulled.acts(mapped)).isEmpty();
    }

    @Test
    void kindsThatAreLookedAfterHereArePassedOver() {
        String destination = shop.path("destinations/");
        Pulled other = shop.changed("sources/shop.yaml", "user: shop_reader", "user: somebody_else")
                .changed(destination, "user: shop_writer", "user: somebody_else")
                .asking("leave", List.of("source", "destination"))
                .removing();

        assertThat(Pulled.acts(other.planned(editor))).isEmpty();
        assertThat(editor.post(
                                "/api/definitions/plan",
                                other.asking("leave", List.of("boat")).body())
                        .detail())
                .contains("There is no kind of definition boat");
    }

    @Test
    void aSecretIsNeverPulledAndAnotherOneIsAChange() {
        assertThat(shop.texts().values())
                .noneMatch(text -> text.contains(second.cluster().password()));
        JsonNode plan = shop.asking("secrets", Map.of("sources/shop.yaml", Map.of("password", "quite-another")))
                .planned(editor);

        assertThat(Pulled.acts(plan)).containsExactly("CHANGE sources/shop.yaml");
        assertThat(plan.get("changes").get(0).get("differences").get(0).asString())
                .isEqualTo("another secret");
        assertThat(plan.toString()).doesNotContain("quite-another");
    }

    @Test
    void aPasswordIsGivenAgainWhereTheAddressIsAnother() {
        TestUser.Answer refused = shop.changed("sources/shop.yaml", "user: shop_reader", "user: shop_writer")
                .applied(editor);

        assertThat(refused.status()).isEqualTo(422);
        assertThat(refused.detail()).startsWith("sources/shop.yaml: The stored password was given for");
    }

    @Test
    void guardsAreLoosenedByTwoAlsoFromFiles() {
        Pulled guarded = shop.changed("routes/later-on.yaml", "  removed: {}", "  removed:\n    percent: 5");
        guarded.inService().applied(editor).ok();

        TestUser.Answer alone = shop.inService().applied(editor);
        assertThat(alone.status()).isEqualTo(403);
        assertThat(alone.detail()).contains("loosens the guards of").contains("An approver puts it in service.");

        shop.applied(editor).ok();
        JsonNode approved = shop.inService().applied(second.user("APPROVER")).ok();
        assertThat(Pulled.acts(approved)).containsExactly("PUT_IN_SERVICE routes/later-on.yaml");
    }

    @Test
    void whoWritesAFieldIsSettledByAFileAndFreedByAnother() {
        String book = shop.path("field-books/");
        assertThat(shop.text(book))
                .contains("- field: email\n  routes_in_order:\n  - later-on\n  - customers-to-mail\n")
                .contains("- field: town\n  route: customers-to-mail\n");

        shop.changed(book, "- field: town\n  route: customers-to-mail\n", "")
                .changed(book, "  - later-on\n  - customers-to-mail\n", "  - customers-to-mail\n  - later-on\n")
                .applied(editor)
                .ok();

        assertThat(Pulled.pulledBy(editor).text(book))
                .doesNotContain("town")
                .contains("  - customers-to-mail\n  - later-on\n");
        assertThat(shop.changed(
                                book,
                                "route: customers-to-mail",
                                "route: customers-to-mail\n  routes_in_order:\n  - later-on")
                        .applied(editor)
                        .detail())
                .contains("has either a route that owns it or routes in order");
    }

    @Test
    void viewersReadAndChangeNothing() {
        TestUser viewer = second.user("VIEWER");

        assertThat(Pulled.pulledBy(viewer).texts()).isEqualTo(shop.texts());
        assertThat(shop.applied(viewer).status()).isEqualTo(403);
        assertThat(viewer.post("/api/definitions/rehearsal", shop.body()).status())
                .isEqualTo(403);
    }

    @Test
    void aPlanSaysWhatToAskToSeeWhatAChangeMakesOfTheRows() {
        JsonNode change = shop.changed("crosswalks/towns.yaml", "3290 Stavern", "Elsewhere")
                .planned(editor)
                .get("changes")
                .get(0);

        long job = editor.post(
                        change.get("effect").get("path").asString(),
                        change.get("effect").get("body"))
                .ok()
                .get("id")
                .asLong();
        JsonNode done = Awaited.value(
                "the rows are judged",
                () -> editor.get("/api/what-if/" + job).ok(),
                seen -> !seen.get("state").asString().equals("UNDER_WAY"));

        assertThat(done.get("effects").get(0).get("route").asString()).isEqualTo("Customers to mail");
        assertThat(done.get("effects").get(0).get("effect").get("differ").asLong())
                .as("every second customer lives in Stavern")
                .isEqualTo(20);
    }

    @Test
    void aTokenNeedsTheScopeAndNotOnlySomeRoutes() {
        TestProgram reads = program("read", List.of());
        TestProgram defines = program("define", List.of());
        long route = editor.get("/api/routes").ok().get(0).get("id").asLong();
        TestProgram narrowed = program("define", List.of(route));
        Pulled changed = shop.changed("crosswalks/towns.yaml", "3290 Stavern", "by a program");

        assertThat(reads.get("/api/definitions").status()).isEqualTo(200);
        assertThat(reads.post("/api/definitions/apply", changed.body()).status())
                .isEqualTo(403);
        assertThat(narrowed.post("/api/definitions/apply", changed.body()).status())
                .isEqualTo(403);
        assertThat(Pulled.acts(
                        defines.post("/api/definitions/apply", changed.body()).ok()))
                .containsExactly("CHANGE crosswalks/towns.yaml");
        assertThat(second.journal("saved crosswalk").get(0).get("actor").asString())
                .isEqualTo("Repository");
    }

    private static TestProgram program(String scope, List<Long> routes) {
        TestUser admin = second.admin();
        long account = admin.get("/api/service-accounts")
                .ok()
                .valueStream()
                .filter(one -> one.get("name").asString().equals("Repository"))
                .map(one -> one.get("id").asLong())
                .findFirst()
                .orElseGet(() -> admin.post(
                                "/api/service-accounts",
                                Map.of("name", "Repository", "rights", List.of("SEE_PERSONAL_VALUES"), "active", true))
                        .ok()
                        .get("id")
                        .asLong());
        return second.program(admin.post(
                        "/api/service-accounts/" + account + "/tokens",
                        Map.of(
                                "name",
                                scope,
                                "scopes",
                                List.of(scope.toUpperCase(Locale.ROOT)),
                                "narrowing",
                                Map.of("routeIds", routes, "destinationIds", List.of()),
                                "expiresAt",
                                second.clock()
                                        .instant()
                                        .plus(Duration.ofDays(30))
                                        .toString()))
                .ok()
                .get("token")
                .asString());
    }

    @Test
    void theSchemaIsPublishedAndAllowsWhatIsPulled() {
        String schema = editor.get("/api/definitions/schema").text();
        var compiled = com.networknt.schema.SchemaRegistry.withDefaultDialect(
                        com.networknt.schema.SpecificationVersion.DRAFT_2020_12)
                .getSchema(schema);
        var yaml = tools.jackson.dataformat.yaml.YAMLMapper.builder().build();

        shop.texts().forEach((path, text) -> {
            if (!path.startsWith("profiles/")) {
                assertThat(compiled.validate(yaml.readTree(text))).as(path).isEmpty();
            }
        });
        assertThat(compiled.validate(
                        yaml.readTree(shop.text("crosswalks/towns.yaml").replace("entries:", "entrys:"))))
                .isNotEmpty();
    }
}

package remitto.server.rights;

import static org.assertj.core.api.Assertions.assertThat;

import java.sql.Connection;
import java.sql.Statement;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.concurrent.TimeUnit;
import org.junit.jupiter.api.AfterAll;
import org.junit.jupiter.api.BeforeAll;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.TestInstance;
import remitto.core.fieldrule.FieldRule;
import remitto.core.fieldrule.Receives;
import remitto.core.guard.Guards;
import remitto.core.route.Basis;
import remitto.core.route.FirstRun;
import remitto.core.route.Mode;
import remitto.core.route.RouteSpec;
import remitto.core.timetable.Schedule;
import remitto.server.harness.Awaited;
import remitto.server.harness.TestRoute;
import remitto.server.harness.TestServer;
import remitto.server.harness.TestUser;
import remitto.server.trace.AddressTraces;
import tools.jackson.databind.JsonNode;

/**
 * What a file or an erasure gathers is gathered by addresses, and by nothing that merely looks the same: a company's town is the town of
 * many people, its port their number, its name a word.
 */
@TestInstance(TestInstance.Lifecycle.PER_CLASS)
class WhatIsGatheredTest {
    private TestServer server;
    private TestUser admin;
    private long company;
    private long person;

    @BeforeAll
    void customersWhoAreSentAndACompanyInTheirTown() {
        server = TestServer.start();
        admin = server.admin();
        TestRoute shop = new TestRoute(server, admin);
        server.warehouse().run("""
                create table shop.companies (id int, title text, register text, town text, port text, mail text);
                insert into shop.companies values (1, 'Lervik', '40', 'Stavern', '7', 'office@rope.example');
                grant select on shop.companies to shop_reader;
                update shop.customers set email = 'PERSON7@mail.example' where id = 7;
                """);
        long companies = shop.dataset(
                admin,
                "Companies",
                "select id, title, register, town, port, mail from shop.companies",
                Map.of(
                        "id", "KEY",
                        "title", "ATTRIBUTE",
                        "register", "ATTRIBUTE",
                        "town", "ATTRIBUTE",
                        "port", "ATTRIBUTE",
                        "mail", "IDENTIFIER"));
        describes(
                companies,
                "COMPANY",
                List.of(
                        tied("title", "COMPANY"),
                        tied("register", "TEXT"),
                        tied("town", "TEXT"),
                        tied("port", "TEXT"),
                        tied("mail", "EMAIL")));
        long people = shop.dataset(
                admin,
                "People",
                "select id, given_name, family_name, email, phone from shop.customers",
                Map.of(
                        "id", "KEY",
                        "given_name", "ATTRIBUTE",
                        "family_name", "ATTRIBUTE",
                        "email", "IDENTIFIER",
                        "phone", "IDENTIFIER"));
        describes(
                people,
                "PERSON",
                List.of(
                        tied("given_name", "GIVEN_NAME"),
                        tied("family_name", "FAMILY_NAME"),
                        tied("email", "EMAIL"),
                        tied("phone", "PHONE")));
        join("COMPANY");
        join("PERSON");
        company = admin.get("/api/people?entityType=COMPANY&find=lervik")
                .ok()
                .get(0)
                .get("id")
                .asLong();
        person = admin.get("/api/people?entityType=PERSON&find=familyname7")
                .ok()
                .get(0)
                .get("id")
                .asLong();
        // A dataset that says nothing of people: its rows are told to be somebody's by their addresses alone.
        long sent = shop.add(
                admin,
                "Recipients",
                TestRoute.spec(Optional.empty())
                        .rules(List.of(
                                FieldRule.of("id", new Receives.FromColumn("id")),
                                FieldRule.of("town", new Receives.FromColumn("town")),
                                FieldRule.of("email", new Receives.FromColumn("email")))));
        shop.run(sent);
        over(shop, "Same towns", "select id, town, null::text as email from shop.customers where id <= 20");
        over(shop, "Numbers", "select 1000 + id as id, 'x' as town, null::text as email from shop.customers");
        server.bean(AddressTraces.class).complete();
    }

    /** A route over rows that carry no address, from a dataset that describes nobody. */
    private void over(TestRoute shop, String name, String sql) {
        long dataset = shop.dataset(admin, name, sql, Map.of("id", "KEY", "town", "ATTRIBUTE", "email", "ATTRIBUTE"));
        long route = shop.add(
                admin,
                name,
                dataset,
                RouteSpec.of(
                                Mode.ADD_OR_UPDATE,
                                List.of("id"),
                                List.of(
                                        FieldRule.of("id", new Receives.FromColumn("id")),
                                        FieldRule.of("town", new Receives.FromColumn("town"))),
                                new Basis.NotStated(),
                                Guards.none(),
                                new Schedule.ByHand("UTC"))
                        .firstRun(FirstRun.AlreadyThere.ADOPT, FirstRun.OlderRows.SEND));
        assertThat(shop.run(route).get("state").asString()).isEqualTo("SENT");
    }

    @AfterAll
    void stop() {
        server.close();
    }

    private static Map<String, Object> tied(String column, String kind) {
        return Map.of("column", column, "attribute", column, "kind", kind, "beside", Map.of());
    }

    private void describes(long dataset, String about, List<Map<String, Object>> columns) {
        admin.put(
                        "/api/people/sources/" + dataset,
                        Map.of("entityType", about, "columns", columns, "country", "NO", "countryColumn", ""))
                .ok();
    }

    private void join(String about) {
        admin.post("/api/people/runs?entityType=" + about, Map.of()).ok();
        Awaited.until("matching is over", () -> admin.get("/api/people/overview?entityType=" + about)
                .ok()
                .get("latest")
                .has("finishedAt"));
    }

    private List<List<String>> table(long whose, String title) {
        List<List<String>> rows = new ArrayList<>();
        admin.get("/api/people/" + whose + "/file").ok().get("tables").forEach(table -> {
            if (table.get("title").asString().equals(title)) {
                table.get("rows")
                        .forEach(row -> rows.add(
                                row.valueStream().map(JsonNode::asString).toList()));
            }
        });
        return rows;
    }

    @Test
    void aCompanysFileHoldsNothingOfPeopleInItsTown() {
        assertThat(table(company, "Records in sources")).isNotEmpty();
        assertThat(table(company, "At destinations")).isEmpty();
        assertThat(table(company, "Sent")).isEmpty();
    }

    @Test
    void aPersonsFileHoldsWhatWasSentToTheirAddressHoweverItIsSpelled() {
        assertThat(table(person, "At destinations"))
                .extracting(row -> row.get(3) + " " + row.get(4))
                .containsExactlyInAnyOrder("email PERSON7@mail.example", "id 7", "town Lervik");
        assertThat(table(person, "Sent")).hasSize(3).allSatisfy(row -> assertThat(row.get(4))
                .isEqualTo("acknowledged"));
    }

    @Test
    void aPersonsPageKnowsEveryToolAndSaysHow() {
        JsonNode seen = admin.get("/api/people/" + person).ok();
        assertThat(seen.get("sent"))
                .extracting(one ->
                        one.get("route").asString() + " " + one.get("remoteId").asString() + " "
                                + one.get("linkedBy").asString())
                .containsExactlyInAnyOrder("Recipients 7 ADDRESS", "Same towns 7 SAME_RECORD");
        assertThat(seen.get("unlinked"))
                .extracting(one -> one.get("route").asString())
                .containsExactly("Numbers");
        assertThat(admin.get("/api/people/" + company).ok().get("sent")).isEmpty();
    }

    @Test
    void aFileSaysWhichRoutesItCouldNotSearch() {
        assertThat(table(person, "Not searched")).extracting(row -> row.get(0)).containsExactly("Numbers");
        assertThat(table(company, "Not searched")).hasSize(1);
    }

    @Test
    void anErasureSaysWhatItCouldNotReach() {
        JsonNode outlook =
                admin.post("/api/erasures/outlook/" + person, Map.of()).ok();
        assertThat(outlook.get("unreached")).extracting(JsonNode::asString).anySatisfy(sentence -> assertThat(sentence)
                .startsWith("Records of route Numbers in "));
    }

    @Test
    void anErasureWouldTakeThePersonsLineAndNoOther() {
        JsonNode outlook =
                admin.post("/api/erasures/outlook/" + person, Map.of()).ok();
        assertThat(outlook.get("counts").get("lines of manifests").asLong()).isEqualTo(1);
        assertThat(outlook.get("removals")).hasSize(1);
        assertThat(outlook.get("removals").get(0).get("remoteId").asString()).isEqualTo("7");
    }

    /** By index: neither lines nor known records are read from one end to the other. */
    @Test
    void whatIsTracedIsOneEntryForEachAddressOfEachRecord() {
        assertThat(server.cluster().text(server.database(), "select count(*) from address_trace"))
                .isEqualTo("40");
        assertThat(server.cluster().text(server.database(), "select count(*) from run where traced_at is null"))
                .isEqualTo("0");
    }

    /** A run's lease is renewed in the run's own row, however long its lines are looked through. */
    @Test
    void nobodyWaitsForARunWhoseLinesAreLookedThrough() throws Exception {
        String run = server.cluster().text(server.database(), "select max(id) from run");
        try (Connection blocking = server.cluster().superuser(server.database());
                Statement lock = blocking.createStatement()) {
            blocking.setAutoCommit(false);
            lock.execute("lock table address_trace in access exclusive mode");
            // Only now: what looks by itself would be through with it before anything holds it up.
            server.cluster().run(server.database(), "update run set traced_at = null where id = " + run);
            Thread looking = new Thread(() -> server.bean(AddressTraces.class).complete());
            looking.start();
            while (!server.cluster()
                    .text(
                            server.database(),
                            "select count(*) > 0 from pg_locks where not granted and relation = 'address_trace'::regclass")
                    .equals("t")) {
                assertThat(looking.isAlive())
                        .as("it waits, or is on its way there")
                        .isTrue();
                TimeUnit.MILLISECONDS.sleep(20);
            }
            server.cluster()
                    .run(
                            server.database(),
                            "set lock_timeout = '1s'; update run set beat_at = now() where id = " + run);
            blocking.rollback();
            looking.join();
        }
        assertThat(server.cluster().text(server.database(), "select traced_at is not null from run where id = " + run))
                .isEqualTo("t");
    }
}

package remitto.server.retention;

import static org.assertj.core.api.Assertions.assertThat;

import java.time.Duration;
import java.util.Map;
import java.util.Optional;
import org.junit.jupiter.api.AfterAll;
import org.junit.jupiter.api.BeforeAll;
import org.junit.jupiter.api.MethodOrderer;
import org.junit.jupiter.api.Order;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.TestInstance;
import org.junit.jupiter.api.TestMethodOrder;
import remitto.server.harness.Awaited;
import remitto.server.harness.TestRoute;
import remitto.server.harness.TestServer;
import remitto.server.harness.TestUser;
import tools.jackson.databind.JsonNode;

/** What is after the retention period is removed, and only that; what stays of it tells what it was. */
@TestInstance(TestInstance.Lifecycle.PER_CLASS)
@TestMethodOrder(MethodOrderer.OrderAnnotation.class)
class RetentionTest {
    private TestServer server;
    private TestUser admin;
    private TestRoute shop;
    private long route;
    private long old;
    private long fresh;

    @BeforeAll
    void anOldRunAndAFreshOne() {
        server = TestServer.start(Map.of("remitto.session.longest", "9999d"));
        admin = server.admin();
        shop = new TestRoute(server, admin);
        route = shop.add(admin, "Recipients", TestRoute.spec(Optional.empty()));
        old = shop.run(route).get("id").asLong();
        server.clock().forward(Duration.ofDays(20));
        server.warehouse().run("update shop.customers set town = 'Nesodden' where id <= 5");
        fresh = shop.run(route).get("id").asLong();
    }

    @AfterAll
    void stop() {
        server.close();
    }

    private long count(String table, long run) {
        return Long.parseLong(
                server.cluster().text(server.database(), "select count(*) from " + table + " where run_id = " + run));
    }

    private void keep(RetentionKind kind, int days) {
        admin.put("/api/retention/" + kind, Map.of("days", days)).ok();
        server.bean(Removal.class).removeDue();
    }

    @Test
    @Order(1)
    void onlyAnAdministratorSetsItAndTheJournalTells() {
        assertThat(server.user("APPROVER")
                        .put("/api/retention/MANIFEST_LINES", Map.of("days", 30))
                        .status())
                .isEqualTo(403);
        assertThat(server.user("VIEWER").get("/api/retention").ok()).hasSize(3);
        for (int days : new int[] {-1, 0, 6, 36_501}) {
            assertThat(admin.put("/api/retention/MANIFEST_LINES", Map.of("days", days))
                            .status())
                    .isEqualTo(422);
        }
        assertThat(admin.put("/api/retention/EVERYTHING", Map.of("days", 30)).status())
                .isEqualTo(400);
        admin.put("/api/retention/STOCKTAKE_FINDINGS", Map.of("days", 400)).ok();
        assertThat(server.journal("changed retention").get(0).get("detail").asString())
                .isEqualTo("400 days");
    }

    @Test
    @Order(2)
    void whileNothingIsSetNothingIsRemoved() {
        server.bean(Removal.class).removeDue();
        assertThat(count("manifest_line", old)).isEqualTo(40);
        assertThat(count("line_outcome", old)).isEqualTo(40);
    }

    @Test
    @Order(3)
    void linesOfOldRunsGoAndTheirSumsStay() {
        keep(RetentionKind.MANIFEST_LINES, 10);
        assertThat(count("manifest_line", old)).isZero();
        assertThat(count("line_outcome", old)).isZero();
        assertThat(count("manifest_line", fresh)).as("younger than that").isEqualTo(5);
        JsonNode run = admin.get("/api/runs/" + old).ok();
        assertThat(run.get("outcomes").get("ACKNOWLEDGED").asLong()).isEqualTo(40);
        assertThat(run.get("counts").get("added").asLong()).isEqualTo(40);
        assertThat(run.has("linesRemovedAt")).isTrue();
        assertThat(admin.get("/api/runs/" + fresh).ok().has("linesRemovedAt")).isFalse();
        assertThat(admin.post("/api/runs/" + old + "/undo", Map.of()).text()).contains("after the retention period");
        long undo = admin.post("/api/runs/" + fresh + "/undo", Map.of())
                .ok()
                .get("runId")
                .asLong();
        Awaited.until("the undo is prepared", () -> admin.get("/api/runs/" + undo)
                .ok()
                .get("state")
                .asString()
                .equals("READY"));
        admin.post("/api/runs/" + undo + "/discard", Map.of()).ok();
    }

    /** The known state is not history: the next run sends what changed, and nothing twice. */
    @Test
    @Order(4)
    void whatIsKnownThereStays() {
        server.warehouse().run("update shop.customers set town = 'Svelvik' where id = 30");
        JsonNode next = shop.run(route);
        assertThat(next.get("counts").get("changed").asLong()).isEqualTo(1);
        assertThat(next.get("counts").get("unchanged").asLong()).isEqualTo(39);
    }

    @Test
    @Order(5)
    void aPartitionWhoseRunsAllEndedLongAgoIsDroppedWhole() {
        server.cluster().run(server.database(), "select setval(pg_get_serial_sequence('run', 'id'), 1200)");
        shop.run(route);
        assertThat(partitions()).contains("manifest_line_0").contains("manifest_line_1000");
        keep(RetentionKind.MANIFEST_LINES, 10);
        assertThat(partitions()).as("its younger runs are there").contains("manifest_line_0 ");
        server.clock().forward(Duration.ofDays(15));
        shop.run(route);
        server.bean(Removal.class).removeDue();
        assertThat(partitions()).doesNotContain("manifest_line_0 ").contains("manifest_line_1000 ");
        assertThat(admin.get("/api/runs/" + fresh)
                        .ok()
                        .get("outcomes")
                        .get("ACKNOWLEDGED")
                        .asLong())
                .isEqualTo(5);
        assertThat(admin.get("/api/runs/" + fresh + "/lines").ok().get("lines")).isEmpty();
    }

    private String partitions() {
        return server.cluster()
                .text(
                        server.database(),
                        "select string_agg(inhrelid::regclass::text || ' ', ' ' order by 1) from pg_inherits");
    }

    @Test
    @Order(6)
    void wordsOfTheJournalGoAndItsEntriesStay() {
        String entries = "select count(*) from ledger.journal";
        String before = server.cluster().text(server.database(), entries);
        assertThat(server.cluster().text(server.database(), "select count(*) from journal_words"))
                .isEqualTo(before);
        keep(RetentionKind.JOURNAL_WORDS, 7);
        assertThat(server.cluster()
                        .text(
                                server.database(),
                                "select count(*) from journal_words w join ledger.journal j on j.id = w.journal_id where j.at < '"
                                        + server.clock().instant().minus(Duration.ofDays(7)) + "'"))
                .isEqualTo("0");
        assertThat(Long.parseLong(server.cluster().text(server.database(), entries)))
                .isGreaterThanOrEqualTo(Long.parseLong(before));
    }
}

package remitto.server.rehearsal;

import static org.assertj.core.api.Assertions.assertThat;

import java.util.List;
import java.util.Map;
import org.junit.jupiter.api.Test;
import remitto.server.harness.TestRoute;
import remitto.server.harness.TestServer;
import remitto.server.harness.TestUser;

/** A what-if question about a dataset runs SQL of one's own, so that it has the locks of every other. */
class WhatIfSqlTest {
    @Test
    void itIsForThoseWhoMayRunSqlAndStandsInTheJournal() {
        try (TestServer server = TestServer.start()) {
            TestUser editor = server.user("EDITOR");
            long dataset = new TestRoute(server, editor).dataset(editor, "Shop", "select id from shop.customers");
            Map<String, Object> unsaved = Map.of(
                    "query", Map.of("kind", "sql", "text", "select id from shop.customers where id > 7"),
                    "columns", List.of(Map.of("name", "id", "type", "INTEGER", "role", "KEY")));
            String path = "/api/datasets/" + dataset + "/what-if";
            TestUser blind = server.user("EDITOR", "blind");
            server.admin()
                    .put(
                            "/api/users/" + server.idOf("blind"),
                            Map.of(
                                    "email", "blind@quay.example",
                                    "name", "blind tester",
                                    "role", "EDITOR",
                                    "rights", Map.of("SEE_PERSONAL_VALUES", false)))
                    .ok();
            assertThat(blind.post(path, unsaved).status()).isEqualTo(403);
            assertThat(server.user("VIEWER").post(path, unsaved).status()).isEqualTo(403);
            assertThat(editor.post(path, unsaved).status()).isEqualTo(200);
            assertThat(server.journal("ran SQL"))
                    .anyMatch(entry -> entry.get("detail").asString().contains("where id > 7"));
        }
    }
}

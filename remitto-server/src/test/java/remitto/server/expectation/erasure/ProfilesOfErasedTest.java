package remitto.server.expectation.erasure;

import static org.assertj.core.api.Assertions.assertThat;

import java.util.HashMap;
import java.util.Map;
import java.util.Optional;
import org.junit.jupiter.api.AfterEach;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;
import org.springframework.jdbc.core.JdbcTemplate;
import org.springframework.transaction.support.TransactionTemplate;
import remitto.server.harness.TestRoute;
import remitto.server.harness.TestServer;
import remitto.server.harness.TestUser;

class ProfilesOfErasedTest {
    private TestServer server;
    private TestUser editor;

    @BeforeEach
    void start() {
        server = TestServer.start();
        editor = server.user("EDITOR");
    }

    @AfterEach
    void stop() {
        server.close();
    }

    private Map<String, Long> forget(long dataset) {
        JdbcTemplate template = server.bean(JdbcTemplate.class);
        Map<String, Long> counts = new HashMap<>();
        server.bean(TransactionTemplate.class).executeWithoutResult(status -> {
            template.execute("create temp table gone_key (dataset_id bigint, key text) on commit drop");
            template.update("insert into gone_key values (?, '1')", dataset);
            counts.putAll(server.bean(ProfilesOfErased.class).forget());
        });
        return counts;
    }

    private String profiles(long dataset) {
        return editor.get("/api/datasets/" + dataset + "/column-profiles").ok().toString();
    }

    @Test
    void valuesThatMayBeOnePersonsGoAndCountsStay() {
        TestRoute routes = new TestRoute(server, editor);
        server.warehouse()
                .run("create table shop.scores as select i as id, 'Brevik' as town, (i * 1000 + 7)::text as email,"
                        + " i from generate_series(1, 30) i; grant select on shop.scores to shop_reader");
        String sql = "select id, town, email from shop.scores";
        long mine = routes.dataset(editor, "Scores", sql);
        long other = routes.dataset(editor, "Other scores", sql);
        routes.prepare(routes.add(editor, "Scores", mine, TestRoute.spec(Optional.empty())));
        routes.prepare(routes.add(editor, "Other scores", other, TestRoute.spec(Optional.empty())));
        server.bean(JdbcTemplate.class).update("""
                update dataset_read set profile = jsonb_set(profile, '{columns,1}',
                  profile #> '{columns,1}' || '{"least": "11", "greatest": "98765", "histogram": [{"from": "11", "to": "98765", "rows": 30}]}')
                """);
        assertThat(profiles(mine)).contains("98765").contains("Brevik");

        assertThat(forget(mine)).containsEntry("profiles of columns", 1L);

        assertThat(profiles(mine)).doesNotContain("98765").contains("Brevik").contains("\"distinct\":30");
        assertThat(profiles(other)).contains("98765");
    }
}

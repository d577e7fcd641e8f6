package remitto.server.source;

import static org.assertj.core.api.Assertions.assertThat;

import java.nio.file.Files;
import java.nio.file.Path;
import java.util.List;
import java.util.Map;
import org.junit.jupiter.api.AfterAll;
import org.junit.jupiter.api.BeforeAll;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.TestInstance;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.ValueSource;
import remitto.server.harness.TestServer;
import remitto.server.harness.TestUser;

/**
 * Invariant 10: reading never writes. The attacks run with a login that may write, accepted by an administrator, so that only what Remitto
 * does itself stands between the text and the rows.
 */
@TestInstance(TestInstance.Lifecycle.PER_CLASS)
class ReadingNeverWritesTest {
    private TestServer server;
    private TestUser editor;
    private TestUser admin;
    private long source;

    @BeforeAll
    void start() {
        server = TestServer.start();
        editor = server.user("EDITOR");
        admin = server.admin();
        source = server.warehouse().connect(editor, "Shop, writing login", "shop_writer");
        admin.post("/api/sources/" + source + "/accept-login", Map.of("reason", "tests of reading"))
                .ok();
    }

    @AfterAll
    void stop() {
        server.close();
    }

    private TestUser.Answer preview(String sql) {
        return editor.post(
                "/api/datasets/preview", Map.of("sourceId", source, "query", Map.of("kind", "sql", "text", sql)));
    }

    private TestUser.Answer checkKey(String sql) {
        return editor.post(
                "/api/datasets/check-key",
                Map.of("sourceId", source, "query", Map.of("kind", "sql", "text", sql), "keys", List.of("a")));
    }

    private String rows() {
        return server.warehouse()
                .text("select count(*) || ' ' || (select last_value from shop.counter) from shop.customers");
    }

    @ParameterizedTest
    @ValueSource(
            strings = {
                "select 1 as a) as x; commit; begin read write; delete from shop.customers; select (select 1 as a",
                "select 1 as a) as x; commit; set session characteristics as transaction read write; delete from shop.customers; --",
                "select 1 as a; delete from shop.customers",
                "delete from shop.customers returning id as a",
                "update shop.customers set town = 'X' returning id as a",
                "with gone as (delete from shop.customers returning id) select id as a from gone",
                "select nextval('shop.counter') as a",
                "select setval('shop.counter', 99) as a",
                "select set_config('transaction_read_only', 'off', false) as a, nextval('shop.counter')",
                "copy shop.customers to program 'touch /tmp/remitto-was-here'",
                "(((select 1 as a",
                "select 'open as a",
                "select $x$ open as a",
                "select /* open 1 as a",
                "explain analyze delete from shop.customers",
                "do $$ begin delete from shop.customers; end $$",
                "call shop.anything()",
                "set transaction read write",
                "table shop.customers; drop table shop.customers"
            })
    void nothingThatWritesGetsThrough(String sql) {
        String before = rows();
        assertThat(preview(sql).status()).as("preview").isEqualTo(422);
        assertThat(checkKey(sql).status()).as("check of keys").isEqualTo(422);
        assertThat(rows()).isEqualTo(before);
        assertThat(Files.exists(Path.of("/tmp/remitto-was-here"))).isFalse();
    }

    /** PostgreSQL 15 lets a read-only transaction make large objects; every reading is rolled back. */
    @Test
    void aLargeObjectIsGoneWithTheReading() {
        preview("select lo_create(4711) as a");
        assertThat(server.warehouse().text("select count(*) from pg_largeobject_metadata"))
                .isEqualTo("0");
    }

    @ParameterizedTest
    @ValueSource(
            strings = {
                "select 1 as a",
                "  select 1 as a ; ",
                "with x as (select 1 as a) select a from x",
                "values (1)",
                "table shop.customers",
                "(select 1 as a) union all (select 2)",
                "select ')' as a -- a comment ) with brackets",
                "select /* ( nested /* ) */ */ 1 as a",
                "select $$ ); delete from shop.customers; $$ as a",
                "select E'it\\'s ) a quote' as a",
                "select \"id\" as a from shop.customers where town = 'it''s )'",
                "select '{\"b\": 1}'::jsonb ? 'b' as a",
                "select '{\"b\": 1}'::jsonb ?| array['b', 'c'] as a"
            })
    void queriesOfEveryKindAreRead(String sql) {
        assertThat(preview(sql).ok().get("preview").get("columns")).isNotEmpty();
    }

    /** A question mark is an operator of PostgreSQL, also where Remitto puts arguments of its own behind the text. */
    @Test
    void aQuestionMarkIsNoPlace() {
        long dataset = editor.post(
                        "/api/datasets",
                        Map.of(
                                "name",
                                "Marks",
                                "description",
                                "",
                                "sourceId",
                                source,
                                "basedOn",
                                0,
                                "definition",
                                Map.of(
                                        "query",
                                        Map.of(
                                                "kind",
                                                "sql",
                                                "text",
                                                "select id, town from shop.customers where '{\"b\": 1}'::jsonb ? 'b'"),
                                        "columns",
                                        List.of(
                                                Map.of("name", "id", "type", "INTEGER", "role", "KEY"),
                                                Map.of("name", "town", "type", "TEXT", "role", "ATTRIBUTE")))))
                .ok()
                .get("id")
                .asLong();
        editor.post("/api/datasets/" + dataset + "/in-service", Map.of("version", 1))
                .ok();
        assertThat(editor.post("/api/datasets/" + dataset + "/freshness", Map.of())
                        .ok()
                        .get("freshness")
                        .get("rows")
                        .asInt())
                .isEqualTo(40);
    }

    @Test
    void aFilterOfATableStaysWithinItsBrackets() {
        Map<String, Object> query = Map.of(
                "kind",
                "table",
                "schema",
                "shop",
                "table",
                "customers",
                "columns",
                List.of("id"),
                "filter",
                "true); delete from shop.customers; --");
        TestUser.Answer answer = editor.post("/api/datasets/preview", Map.of("sourceId", source, "query", query));
        assertThat(answer.status()).isEqualTo(422);
        assertThat(rows()).startsWith("40 ");
    }

    @Test
    void aWritingLoginIsRefusedUntilAnAdministratorAcceptsItWithAReason() {
        long fresh = server.warehouse().connect(editor, "Shop, not accepted", "shop_writer");
        Map<String, Object> ask = Map.of("sourceId", fresh, "query", Map.of("kind", "sql", "text", "select 1 as a"));
        TestUser.Answer refused = editor.post("/api/datasets/preview", ask);
        assertThat(refused.status()).isEqualTo(422);
        assertThat(refused.detail()).contains("may do more than read: it may write to shop.customers");
        assertThat(editor.get("/api/sources/" + fresh)
                        .ok()
                        .get("report")
                        .get("grants")
                        .toString())
                .contains("nosuperuser")
                .contains("grant select on all tables in schema shop to shop_writer");
        String accept = "/api/sources/" + fresh + "/accept-login";
        assertThat(editor.post(accept, Map.of("reason", "I say so")).status()).isEqualTo(403);
        assertThat(admin.post(accept, Map.of("reason", " ")).status()).isEqualTo(422);
        admin.post(accept, Map.of("reason", "the only login there is")).ok();
        editor.post("/api/datasets/preview", ask).ok();
        assertThat(server.journal("accepted a login that may do more than read")
                        .get(0)
                        .get("detail")
                        .asString())
                .contains("may write to shop.customers")
                .contains("the only login there is");
    }

    @Test
    void aSuperuserIsNeverAccepted() {
        TestUser.Answer made = editor.post(
                "/api/sources",
                Map.of(
                        "name",
                        "Shop, superuser",
                        "address",
                        server.warehouse().address("postgres"),
                        "password",
                        server.cluster().password()));
        assertThat(made.ok().get("problem").asString())
                .contains("is a superuser")
                .contains("create role postgres login");
        String path = "/api/sources/" + made.json().get("id").asLong();
        assertThat(admin.post(path + "/accept-login", Map.of("reason", "in a hurry"))
                        .status())
                .isEqualTo(409);
        assertThat(editor.post(
                                "/api/datasets/preview",
                                Map.of(
                                        "sourceId",
                                        made.json().get("id").asLong(),
                                        "query",
                                        Map.of("kind", "sql", "text", "select 1 as a")))
                        .status())
                .isEqualTo(422);
    }

    @Test
    void aLoginThatMayRunProgramsIsRefused() {
        server.cluster().role("shop_runner", "nosuperuser");
        server.cluster().run("postgres", "grant pg_execute_server_program to shop_runner");
        long runner = server.warehouse().connect(editor, "Shop, programs", "shop_runner");
        assertThat(editor.get("/api/sources/" + runner)
                        .ok()
                        .get("report")
                        .get("warnings")
                        .toString())
                .contains("is a member of pg_execute_server_program");
    }
}

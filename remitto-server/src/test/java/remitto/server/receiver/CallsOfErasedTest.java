package remitto.server.receiver;

import static org.assertj.core.api.Assertions.assertThat;

import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import org.junit.jupiter.api.AfterAll;
import org.junit.jupiter.api.BeforeAll;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.TestInstance;
import org.springframework.jdbc.core.JdbcTemplate;
import org.springframework.transaction.support.TransactionTemplate;
import remitto.server.dataset.DatasetDefinition;
import remitto.server.harness.TestReceiver;
import remitto.server.harness.TestServer;
import remitto.server.harness.TestUser;

/** Calls are ours, so that an erasure reaches them, and nobody else is lost by it; those that are held keep records from leaving. */
@TestInstance(TestInstance.Lifecycle.PER_CLASS)
class CallsOfErasedTest {
    private TestServer server;
    private TestUser editor;

    @BeforeAll
    void start() {
        server = TestServer.start();
        editor = server.user("EDITOR");
    }

    @AfterAll
    void stop() {
        server.close();
    }

    private Map<String, Long> forget(List<String> texts, long dataset, List<String> keys) {
        JdbcTemplate template = server.bean(JdbcTemplate.class);
        Map<String, Long> counts = new HashMap<>();
        server.bean(TransactionTemplate.class).executeWithoutResult(status -> {
            template.execute("create temp table gone_key (dataset_id bigint, key text) on commit drop");
            template.execute("create temp table gone_text (text text) on commit drop");
            texts.forEach(text -> template.update("insert into gone_text values (?)", text));
            keys.forEach(key -> template.update("insert into gone_key values (?, ?)", dataset, key));
            counts.putAll(server.bean(CallsOfErased.class).forget());
        });
        return counts;
    }

    private String bodies(TestReceiver receiver) {
        return server.cluster()
                .text(
                        server.database(),
                        "select coalesce(string_agg(convert_from(body, 'UTF8'), ' ' order by id), 'none')"
                                + " from received_call where receiver_id = " + receiver.id());
    }

    @Test
    void rowsAndCallsOfAPersonGoAndTheOthersOfTheSameBodyStay() {
        TestReceiver guests = new TestReceiver(
                server, editor, "guests", TestReceiver.definition(TestReceiver.OPEN, "no", "no TEXT", "mail TEXT"));
        guests.call("{\"no\":\"1\",\"mail\":\"Ada@Mail.example\"}");
        guests.call("[{\"no\":\"2\",\"mail\":\"bo@mail.example\"},{\"no\":\"3\",\"mail\":\"\\u0061da@mail.example\"}]");
        guests.call("{\"no\":\"4\",\"mail\":\"cy@mail.example\",\"note\":\"friend of ada@mail.example\"}");
        guests.call("no json at all, but ADA@mail.example");
        guests.call("{\"no\":\"5\",\"mail\":\"di@mail.example\"}");
        assertThat(guests.rows("no")).isEqualTo("1, 2, 3, 4, 5");
        assertThat(forget(List.of("ada@mail.example"), 0, List.of()))
                .containsEntry("rows of calls", 2L)
                .containsEntry("calls", 4L);
        assertThat(bodies(guests))
                .isEqualTo("[{\"no\":\"2\",\"mail\":\"bo@mail.example\"}] {\"no\":\"5\",\"mail\":\"di@mail.example\"}");
        guests.change(TestReceiver.definition(TestReceiver.OPEN, "no", "no TEXT", "address TEXT mail"));
        assertThat(guests.rows("no, address"))
                .as("laid out anew from what is left")
                .isEqualTo("2 bo@mail.example, 5 di@mail.example");
    }

    @Test
    void everyCallOfAnErasedKeyGoesNotOnlyTheLatest() {
        Map<String, Object> definition =
                TestReceiver.definition(TestReceiver.OPEN, "", "no INTEGER member.no", "seat TEXT");
        definition.put("several", TestReceiver.latestPerKey("no", "", ""));
        TestReceiver members = new TestReceiver(server, editor, "members", definition);
        members.call("{\"member\":{\"no\":7},\"seat\":\"1A\"}");
        members.call("{\"member\":{\"no\":8},\"seat\":\"1B\"}");
        members.call("{\"member\":{\"no\":7},\"seat\":\"2A\"}");
        assertThat(members.rows("no, seat")).isEqualTo("7 2A, 8 1B");
        long dataset = editor.post(
                        "/api/datasets",
                        Map.of(
                                "name",
                                "Members",
                                "description",
                                "",
                                "sourceId",
                                members.source(),
                                "basedOn",
                                0,
                                "definition",
                                Map.of(
                                        "query",
                                                Map.of(
                                                        "kind", "table",
                                                        "schema", "landed",
                                                        "table", "members",
                                                        "columns", List.of("no", "seat")),
                                        "columns", List.of(Map.of("name", "no", "type", "INTEGER", "role", "KEY")))))
                .ok()
                .get("id")
                .asLong();
        assertThat(forget(List.of(), dataset, List.of("7"))).containsEntry("calls", 2L);
        assertThat(members.rows("no, seat")).isEqualTo("8 1B");
        assertThat(bodies(members)).isEqualTo("{\"member\":{\"no\":8},\"seat\":\"1B\"}");
    }

    @Test
    void nothingIsLaidOutWhileSomebodyIsErased() {
        TestReceiver decks =
                new TestReceiver(server, editor, "decks", TestReceiver.definition(TestReceiver.OPEN, "", "mail TEXT"));
        server.bean(TransactionTemplate.class).executeWithoutResult(status -> {
            JdbcTemplate template = server.bean(JdbcTemplate.class);
            template.execute("create temp table gone_key (dataset_id bigint, key text) on commit drop");
            template.execute("create temp table gone_text (text text) on commit drop");
            server.bean(CallsOfErased.class).forget();
            decks.call("{\"mail\":\"ev@mail.example\"}");
            // The answer wakes whoever lays calls out, which takes some milliseconds where nothing keeps it.
            pause();
            assertThat(decks.calls()).containsExactly("WAITING 0");
        });
        assertThat(decks.rows("mail")).isEqualTo("ev@mail.example");
    }

    private static void pause() {
        try {
            Thread.sleep(700);
        } catch (InterruptedException e) {
            throw new IllegalStateException(e);
        }
    }

    @Test
    void heldCallsAreAFactOfEveryDatasetOverTheirTable() {
        TestReceiver quays =
                new TestReceiver(server, editor, "quays", TestReceiver.definition(TestReceiver.OPEN, "", "no INTEGER"));
        quays.call("{\"no\":\"one\"}");
        quays.call("{\"no\":2}");
        quays.settled();
        HeldCalls held = server.bean(HeldCalls.class);
        DatasetDefinition.Query table =
                new DatasetDefinition.Query.TableQuery("landed", "quays", List.of("no"), Optional.empty());
        assertThat(held.of(quays.source(), table)).isEqualTo(1);
        assertThat(held.of(quays.source(), new DatasetDefinition.Query.SqlQuery("select no from landed.Quays")))
                .isEqualTo(1);
        assertThat(held.of(quays.source(), new DatasetDefinition.Query.SqlQuery("select 1")))
                .isZero();
        quays.change(TestReceiver.definition(TestReceiver.OPEN, "", "no TEXT"));
        assertThat(held.of(quays.source(), table)).isZero();
    }
}

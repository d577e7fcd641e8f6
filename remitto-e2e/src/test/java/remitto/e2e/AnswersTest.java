package remitto.e2e;

import static org.assertj.core.api.Assertions.assertThat;

import java.nio.charset.StandardCharsets;
import java.sql.Connection;
import java.sql.ResultSet;
import java.sql.SQLException;
import java.sql.Statement;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.Objects;
import java.util.stream.Stream;
import org.junit.jupiter.api.Test;
import tools.jackson.databind.JsonNode;

/** What calls brought is believed from the moment it is written down, whoever takes it into the known state later. */
class AnswersTest extends RouteRunsFixture {
    private static final String ELSEWHERE = "c-answered-before";

    AnswersTest() {
        super(300);
    }

    private List<String> sql(String text) {
        List<String> cells = new ArrayList<>();
        try (Connection connection = stack.databases.owner(stack.remittoDatabase);
                Statement statement = connection.createStatement()) {
            if (statement.execute(text)) {
                ResultSet rows = statement.getResultSet();
                while (rows.next()) {
                    cells.add(rows.getString(1));
                }
            }
        } catch (SQLException e) {
            throw new IllegalStateException(e);
        }
        return cells;
    }

    /** As a process leaves it that dies between writing an answer down and taking it in. */
    private JsonNode answeredButNotTakenIn(JsonNode prepared) {
        JsonNode line = lines(prepared, "&verdict=ADDED").get(0);
        sql("insert into open_call (run_id, call_no, epoch, verdict, lines, opened_at, remotes, answers, answered_at)"
                + " values (" + prepared.get("id").asLong() + ", 1, 1, 'ADDED', '{"
                + line.get("line").asInt() + "}', now(), '{"
                + ELSEWHERE + "}', '{added}', now())");
        return line;
    }

    private void isKnown(JsonNode run, JsonNode line) {
        assertThat(lines(run, "&state=ACKNOWLEDGED"))
                .filteredOn(one -> one.get("line").equals(line.get("line")))
                .singleElement()
                .satisfies(one -> {
                    assertThat(one.get("remoteId").asString()).isEqualTo(ELSEWHERE);
                    assertThat(one.get("answer").asString()).isEqualTo("added");
                });
        assertThat(sql(
                        "select d.fields ->> 'external_ref' from destination_record d join record_state s on s.record_id = d.id"
                                + " where d.remote_id = '" + ELSEWHERE + "'"))
                .containsExactly(line.get("key").asString());
        assertThat(sql("select count(*) from open_call")).containsExactly("0");
    }

    @Test
    void whoeverTakesARunUpTakesInWhatWasAnsweredAndSendsNothingOfItAgain() {
        JsonNode prepared = prepare(ids.passes());
        JsonNode line = answeredButNotTakenIn(prepared);
        assertThat(lines(prepared, "&state=SENDING"))
                .as("is under way until then")
                .hasSize(1);
        JsonNode sent = send(prepared);
        assertThat(sent.get("state").asString()).isEqualTo("SENT");
        assertThat(outcome(sent, "ACKNOWLEDGED")).isEqualTo(sum(prepared, "added"));
        assertThat(new WriteLog(stack.folder).effects("contact"))
                .hasSize((int) sum(prepared, "added") - 1)
                .doesNotContainKey(line.get("key").asString());
        isKnown(sent, line);
    }

    @Test
    void aManifestThatIsGivenUpKeepsWhatWasAnswered() {
        JsonNode prepared = prepare(ids.passes());
        JsonNode line = answeredButNotTakenIn(prepared);
        editor.post("/api/runs/" + prepared.get("id").asLong() + "/discard", Map.of());
        JsonNode given = editor.get("/api/runs/" + prepared.get("id").asLong());
        assertThat(outcome(given, "ACKNOWLEDGED")).isEqualTo(1);
        assertThat(outcome(given, "CANCELLED")).isEqualTo(sum(prepared, "added") - 1);
        isKnown(given, line);
    }

    @Test
    void aStocktakeFindsNothingOfWhatARunHasJustWritten() {
        JsonNode sent = send(prepare(ids.passes()));
        String written = lines(sent, "&verdict=ADDED").get(0).get("remoteId").asString();
        stack.desk.edit("contact", written, Map.of("given_name", "As The Call Wrote It"));
        sql("insert into open_call (run_id, call_no, epoch, verdict, lines, opened_at, remotes, answers, answered_at)"
                + " values (" + sent.get("id").asLong() + ", 1, 1, 'CHANGED', '{}', now(), '{" + written
                + "}', '{changed}', now())");
        assertThat(edited()).isZero();
        sql("delete from open_call");
        assertThat(edited()).as("once nobody has just written it").isEqualTo(1);
    }

    private long edited() {
        for (JsonNode group : takeStock("contact").get("groups")) {
            if (group.get("kind").asString().equals("EDITED")) {
                return group.get("found").asLong();
            }
        }
        return 0;
    }

    /** Manifests may wait while the server is upgraded. */
    @Test
    void linesPreparedBeforeTheyWereReadyToGoAreMadeReadyByTheMigration() throws Exception {
        stack.change("update ferry.pass_holders set phone = 'none' where hashtext(pass_number) % 7 = 0");
        JsonNode prepared = prepare(ids.passes());
        String ready = "select concat_ws(' | ', line, sends::jsonb, marks, recheck_at) from manifest_line"
                + " where verdict in ('ADDED', 'CHANGED', 'REMOVED') order by line";
        List<String> asPrepared = sql(ready);
        assertThat(asPrepared).hasSize((int) sum(prepared, "added"));
        sql("update manifest_line set sends = '{}', marks = '{}', recheck_at = null");
        assertThat(sql(ready)).doesNotContainAnyElementsOf(asPrepared);
        migration("V9__lines_ready_to_go.sql", "update manifest_line").forEach(this::sql);
        assertThat(sql(ready)).isEqualTo(asPrepared);
        assertThat(outcome(send(prepared), "ACKNOWLEDGED")).isEqualTo(sum(prepared, "added"));
    }

    private static List<String> migration(String file, String begins) throws Exception {
        try (var in = Objects.requireNonNull(AnswersTest.class.getResourceAsStream("/db/migration/" + file))) {
            String text = new String(in.readAllBytes(), StandardCharsets.UTF_8).replaceAll("(?m)^--.*$", "");
            return Stream.of(text.split(";"))
                    .map(String::strip)
                    .filter(statement -> statement.startsWith(begins))
                    .map(AnswersTest::withTheStatesOfToday)
                    .toList();
        }
    }

    /** The migration ran before a later one gave the states of runs their names of today. */
    private static String withTheStatesOfToday(String statement) {
        return statement
                .replace("'DRAWN'", "'READY'")
                .replace("'STOPPED'", "'AWAITING_APPROVAL'")
                .replace("'HALTED'", "'SUSPENDED'");
    }
}

package remitto.e2e;

import static org.assertj.core.api.Assertions.assertThat;

import java.util.Map;
import org.junit.jupiter.api.Test;
import tools.jackson.databind.JsonNode;

/** A sent manifest is taken back by one of its own. */
class UndoTest extends RouteRunsFixture {
    UndoTest() {
        super(300);
    }

    @Test
    void invariant8UndoPutsOldValuesBackTakesAdditionsAwayAndStaysUndone() {
        putInService(ids.passes(), passes());
        run(ids.passes());
        Map<String, Map<String, String>> before = new WriteLog(stack.folder).records("contact");
        stack.change(
                "update ferry.pass_holders set given_name = 'Runa' where status = 'active' and mail_consent = 'yes'");
        JsonNode changed = run(ids.passes());
        long moved = sum(changed, "changed");
        assertThat(moved).isGreaterThan(20);
        String edited =
                lines(changed, "&verdict=CHANGED").get(0).get("remoteId").asString();
        stack.desk.edit("contact", edited, Map.of("given_name", "Somebody"));

        JsonNode undo =
                editor.await(editor.post("/api/runs/" + changed.get("id").asLong() + "/undo", Map.of())
                        .get("runId")
                        .asLong());
        assertThat(sum(undo, "changed")).isEqualTo(moved - 1);
        assertThat(sum(undo, "leftOut"))
                .as("what others changed since is left alone")
                .isEqualTo(1);
        JsonNode undone = send(undo);
        assertThat(undone.get("state").asString()).isEqualTo("SENT");
        Map<String, Map<String, String>> after = new WriteLog(stack.folder).records("contact");
        assertThat(after.remove(edited)).containsEntry("given_name", "Somebody");
        before.remove(edited);
        assertThat(after).as("every field of every record is what it was").isEqualTo(before);
        JsonNode next = prepare(ids.passes());
        assertThat(sum(next, "changed")).as("an undone value stays undone").isZero();
        stack.change("update ferry.pass_holders set given_name = 'Runa Elise' where status = 'active' and"
                + " mail_consent = 'yes'");
        assertThat(sum(prepare(ids.passes()), "changed"))
                .as("until its source value changes")
                .isGreaterThanOrEqualTo(moved - 1);
    }

    @Test
    void anUndoneAdditionIsGoneAndNotAddedAgain() {
        putInService(ids.passes(), passes());
        JsonNode first = run(ids.passes());
        long added = sum(first, "added");
        JsonNode undo = editor.await(editor.post("/api/runs/" + first.get("id").asLong() + "/undo", Map.of())
                .get("runId")
                .asLong());
        assertThat(sum(undo, "removed")).isEqualTo(added);
        send(undo);
        assertThat(contacts()).isEmpty();
        JsonNode next = prepare(ids.passes());
        assertThat(sum(next, "added")).isZero();
        assertThat(sum(next, "leftOut")).isGreaterThanOrEqualTo(added);
        assertThat(lines(next, "&verdict=LEFT_OUT"))
                .anySatisfy(line -> assertThat(line.get("reason").asString()).contains("taken back by manifest"));
    }
}

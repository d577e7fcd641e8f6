package remitto.e2e;

import static org.assertj.core.api.Assertions.assertThat;

import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import org.junit.jupiter.api.Test;
import remitto.core.route.Leavers;
import remitto.demo.history.Desk;
import remitto.demo.history.MoreRoutes;
import tools.jackson.databind.JsonNode;

/** What leaving the dataset does there, and that only a complete read says that somebody left. */
class LeaversTest extends RouteRunsFixture {
    LeaversTest() {
        super(300);
    }

    @Test
    void whoLeavesGetsFieldsSetOnceAndComesBackWhole() {
        putInService(ids.passes(), passes());
        run(ids.passes());
        assertThat(
                        stack.change(
                                "update ferry.pass_holders set status = 'applied' where pass_number in (select pass_number"
                                        + " from ferry.pass_holders where status = 'active' and mail_consent = 'yes' order by 1 limit 3)"))
                .isEqualTo(3);
        JsonNode left = prepare(ids.passes());
        assertThat(sum(left, "leaving")).isEqualTo(3);
        assertThat(sum(left, "changed"))
                .as("a leaver whose fields are set is changed")
                .isEqualTo(3);
        assertThat(sum(left, "removed")).isZero();
        List<JsonNode> lines = lines(left, "&verdict=CHANGED");
        assertThat(lines)
                .allSatisfy(line -> assertThat(line.get("code").asString()).isEqualTo("left"));
        send(left);
        assertThat(there("contact", "external_ref", "pass_status"))
                .containsEntry(lines.get(0).get("key").asString(), "former");
        JsonNode again = prepare(ids.passes());
        assertThat(again.get("message").asString()).isEqualTo("Nothing to send");
        stack.change("update ferry.pass_holders set status = 'active' where status = 'applied' and pass_number = '"
                + lines.get(0).get("key").asString() + "'");
        JsonNode back = run(ids.passes());
        assertThat(sum(back, "changed")).isEqualTo(1);
        assertThat(there("contact", "external_ref", "pass_status"))
                .containsEntry(lines.get(0).get("key").asString(), "current");
    }

    @Test
    void whoLeavesIsDeletedOnlyByACompleteReadAndAnUndoBringsThemBack() {
        putInService(ids.passes(), passes().leavers(new Leavers.Delete()));
        run(ids.passes());
        int before = contacts().size();
        stack.change("update ferry.pass_holders set pass_number = '' where pass_number = (select min(pass_number)"
                + " from ferry.pass_holders where status = 'active' and mail_consent = 'yes')");
        JsonNode unclear = prepare(ids.passes());
        assertThat(sum(unclear, "removed"))
                .as("a row without a key may be the one that seems to have left")
                .isZero();
        assertThat(lines(unclear, "&verdict=HELD"))
                .anySatisfy(line -> assertThat(line.get("code").asString()).isEqualTo("leaver-unclear"));
        stack.change("delete from ferry.pass_holders where pass_number = ''");
        JsonNode gone = run(ids.passes());
        assertThat(sum(gone, "removed")).isEqualTo(1);
        assertThat(contacts()).hasSize(before - 1);

        JsonNode undo = editor.await(editor.post("/api/runs/" + gone.get("id").asLong() + "/undo", Map.of())
                .get("runId")
                .asLong());
        assertThat(undo.get("undoOf").asLong()).isEqualTo(gone.get("id").asLong());
        assertThat(lines(undo, "&verdict=HELD"))
                .as("nobody can say whether who left consents")
                .hasSize(1);
    }

    @Test
    void membershipIsKeptByPolledJobsAndAFailedAnswerDoublesNothing() {
        MoreRoutes.Ids more = new MoreRoutes(editor, scenario)
                .setUp(ids, new MoreRoutes.Outlets(address(stack.lamplight.port()), address(stack.foghorn.port())));
        Desk lamp = new Desk(java.net.URI.create(address(stack.lamplight.port())));
        lamp.limit(false);
        lamp.faults(
                "[{\"fault\":\"drop-after\",\"on\":\"jobs\",\"next\":1},{\"fault\":\"server-error\",\"on\":\"jobs/\",\"next\":1}]");
        JsonNode joined = run(more.lapsed());
        assertThat(joined.get("state").asString()).isEqualTo("SENT");
        long members = sum(joined, "added");
        assertThat(members).isGreaterThan(5);
        assertThat(members(lamp)).hasSize((int) members);
        assertThat(lamp.get("/control/jobs").split("lamp-").length - 1)
                .as("a call that got no answer is made again under its key, and takes effect once")
                .isEqualTo(1);
        assertThat(
                        stack.change(
                                "update ferry.pass_holders set mail_consent = 'no' where pass_number = (select"
                                        + " min(pass_number) from ferry.pass_holders where status = 'expired' and mail_consent = 'yes')"))
                .isEqualTo(1);
        stack.change("update ferry.pass_holders set email = 'another@kai.example' where pass_number = (select"
                + " max(pass_number) from ferry.pass_holders where status = 'expired' and mail_consent = 'yes')");
        JsonNode left = approved(run(more.lapsed()));
        assertThat(sum(left, "removed"))
                .as("who left, and the old address of who has another")
                .isEqualTo(2);
        assertThat(sum(left, "added")).isEqualTo(1);
        assertThat(members(lamp)).as("%s %s", left, lines(left, "")).hasSize((int) members - 1);
        assertThat(prepare(more.lapsed()).get("message").asString()).isEqualTo("Nothing to send");
    }

    private static List<String> members(Desk lamp) {
        List<String> members = new ArrayList<>();
        tools.jackson.databind.json.JsonMapper.builder()
                .build()
                .readTree(lamp.get("/control/lists/lapsed-islanders"))
                .forEach(node -> members.add(node.asString()));
        return members;
    }
}

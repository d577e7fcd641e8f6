package remitto.server.overview;

import static org.assertj.core.api.Assertions.assertThat;

import java.util.List;
import java.util.Optional;
import org.junit.jupiter.api.AfterAll;
import org.junit.jupiter.api.BeforeAll;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.TestInstance;
import remitto.server.harness.TestRoute;
import remitto.server.harness.TestServer;
import remitto.server.harness.TestUser;

/** What needs a person stays on the home page until it is settled, whatever its route does meanwhile. */
@TestInstance(TestInstance.Lifecycle.PER_CLASS)
class UnsettledRunsTest {
    private TestServer server;
    private TestUser viewer;
    private long route;
    private long other;
    private long first;

    @BeforeAll
    void start() {
        server = TestServer.start();
        TestUser editor = server.user("EDITOR");
        TestRoute shop = new TestRoute(server, editor);
        server.warehouse().customers(3);
        route = shop.add(editor, "Recipients", TestRoute.spec(Optional.empty()));
        other = shop.add(editor, "Second list", TestRoute.spec(Optional.empty()));
        first = shop.prepare(route).get("id").asLong();
        viewer = server.user("VIEWER");
    }

    @AfterAll
    void stop() {
        server.close();
    }

    @BeforeEach
    void oneRunAlone() {
        run("delete from run where id <> " + first);
    }

    private void run(String sql) {
        server.cluster().run(server.database(), sql);
    }

    private void first(String state) {
        run("update run set state = '" + state + "' where id = " + first);
    }

    /** Another run as the first one is, but for what is said here. */
    private long later(long ofRoute, String trigger, String state) {
        return Long.parseLong(server.cluster()
                .text(
                        server.database(),
                        "insert into run overriding system value select (jsonb_populate_record(r, jsonb_build_object('id',"
                                + " (select max(id) + 1 from run), 'route_id', " + ofRoute + ", 'trigger', '" + trigger
                                + "', 'state', '" + state + "'))).* from run r where r.id = " + first
                                + " returning id"));
    }

    private List<Long> waiting() {
        return viewer.get("/api/departures")
                .ok()
                .get("waiting")
                .valueStream()
                .map(one -> one.get("id").asLong())
                .toList();
    }

    @Test
    void oneThatWaitsForApprovalIsNotHiddenByWhatCameLater() {
        first("AWAITING_APPROVAL");
        later(route, "TRIAL", "SENT");
        later(route, "TIMETABLE", "SKIPPED");
        later(route, "UNDO", "SENT");
        later(route, "HAND", "SENT");
        assertThat(waiting()).containsExactly(first);
        first("DISCARDED");
        assertThat(waiting()).isEmpty();
    }

    @Test
    void aFailureStaysUntilARunSaysTheSame() {
        first("FAILED");
        later(route, "TIMETABLE", "SKIPPED");
        later(route, "TRIAL", "SENT");
        later(other, "HAND", "SENT");
        assertThat(waiting()).containsExactly(first);
        later(route, "HAND", "READY");
        assertThat(waiting()).isEmpty();
    }

    @Test
    void ofSeveralFailuresTheLastIsTold() {
        first("FAILED");
        later(route, "HAND", "FAILED");
        long last = later(route, "HAND", "FAILED");
        long elsewhere = later(other, "HAND", "FAILED");
        assertThat(waiting()).containsExactly(last, elsewhere);
    }

    @Test
    void aTrialThatFailedAndARouteThatIsGoneNeedNobody() {
        first("SENT");
        later(route, "TRIAL", "FAILED");
        long suspended = later(other, "HAND", "SUSPENDED");
        assertThat(waiting()).containsExactly(suspended);
        run("update route set archived_at = now() where id = " + other);
        assertThat(waiting()).isEmpty();
        run("update route set archived_at = null where id = " + other);
    }

    @Test
    void aManifestOfWhichSomethingStayedBehindIsSentInPart() {
        first("SENT");
        assertThat(inPart()).isFalse();
        run("insert into line_outcome (run_id, line, state, remote_id, answer, answered_at) values (" + first
                + ", 1, 'REFUSED', '', '', now())");
        assertThat(inPart()).isTrue();
        run("update line_outcome set state = 'ACKNOWLEDGED' where run_id = " + first);
        assertThat(inPart()).isFalse();
        run("delete from line_outcome where run_id = " + first);
    }

    private boolean inPart() {
        return viewer.get("/api/runs/" + first).ok().get("sentInPart").asBoolean();
    }
}

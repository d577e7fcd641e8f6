package remitto.server.run;

import static org.assertj.core.api.Assertions.assertThat;

import java.util.Optional;
import org.junit.jupiter.api.AfterAll;
import org.junit.jupiter.api.BeforeAll;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.TestInstance;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.EnumSource;
import remitto.core.run.RunEnd;
import remitto.core.run.RunMoves;
import remitto.core.run.RunState;
import remitto.core.run.Suspension;
import remitto.server.harness.TestRoute;
import remitto.server.harness.TestServer;
import remitto.server.harness.TestUser;

/** What is written down of a run holds to the table of moves, and to whose turn it is. */
@TestInstance(TestInstance.Lifecycle.PER_CLASS)
class RunEndsTest {
    private TestServer server;
    private Runs runs;
    private Tenure tenure;

    @BeforeAll
    void start() {
        server = TestServer.start();
        TestUser editor = server.user("EDITOR");
        TestRoute shop = new TestRoute(server, editor);
        long route = shop.add(editor, "Recipients", TestRoute.spec(Optional.empty()));
        long run = shop.prepare(route).get("id").asLong();
        runs = server.bean(Runs.class);
        tenure = new Tenure(run, "a server of this test", 7);
    }

    @AfterAll
    void stop() {
        server.close();
    }

    @BeforeEach
    void anybodysState() {
        put(RunState.DISCARDED);
    }

    /** Far from silence, so that no server takes it over. */
    private void put(RunState state) {
        server.cluster()
                .run(
                        server.database(),
                        "update run set state = '" + state + "', suspension = '', message = 'as it was', owner = '"
                                + tenure.owner() + "', epoch = " + tenure.epoch()
                                + ", finished_at = null, beat_at = now() + interval '1 hour' where id = "
                                + tenure.runId());
    }

    private String kept(String column) {
        return server.cluster().text(server.database(), "select " + column + " from run where id = " + tenure.runId());
    }

    private RunState state() {
        return runs.state(tenure.runId());
    }

    @ParameterizedTest
    @EnumSource(RunState.class)
    void aRunEndsInTheStatesThatMayFollowAndInNoOther(RunState from) {
        for (RunState next : RunState.values()) {
            put(from);
            boolean ended = runs.end(tenure, new RunEnd(next, Suspension.FAULT, "ended so"));
            assertThat(ended).as(from + " to " + next).isEqualTo(RunMoves.may(from, next));
            assertThat(state()).as(from + " to " + next).isEqualTo(ended ? next : from);
            assertThat(kept("message")).isEqualTo(ended ? "ended so" : "as it was");
            assertThat(kept("suspension")).isEqualTo(ended ? "FAULT" : "");
            assertThat(kept("finished_at is not null")).isEqualTo(ended ? "t" : "f");
        }
    }

    @ParameterizedTest
    @EnumSource(RunState.class)
    void sendingBeginsWhereItMayAndCountsAsATurn(RunState from) {
        put(from);
        Optional<Tenure> taken = runs.beginSending(tenure.runId(), "somebody", "another server");
        assertThat(taken.isPresent()).isEqualTo(RunMoves.may(from, RunState.SENDING));
        assertThat(state()).isEqualTo(taken.isPresent() ? RunState.SENDING : from);
        taken.ifPresent(
                one -> assertThat(one).isEqualTo(new Tenure(tenure.runId(), "another server", tenure.epoch() + 1)));
    }

    @ParameterizedTest
    @EnumSource(RunState.class)
    void aManifestIsGivenUpWhileItWaits(RunState from) {
        for (RunState next : new RunState[] {RunState.DISCARDED, RunState.CANCELLED}) {
            put(from);
            boolean given = runs.giveUp(tenure.runId(), next, "given up");
            assertThat(given).as(from + " to " + next).isEqualTo(from.waits() && next == RunMoves.givenUp(from));
            assertThat(state()).isEqualTo(given ? next : from);
        }
    }

    @ParameterizedTest
    @EnumSource(RunState.class)
    void aTrialFailsWhereverItIsAndNothingElse(RunState from) {
        put(from);
        runs.endTrial(tenure, "it did not answer");
        assertThat(state()).isEqualTo(RunMoves.beforeATrialFails().contains(from) ? RunState.FAILED : from);
    }

    /** Also of the same process: a thread that was slow must not close what the next one is at work on. */
    @Test
    void whoseTurnIsOverClosesNothing() {
        RunEnd sent = RunEnd.of(RunState.SENT, "");
        put(RunState.SENDING);
        assertThat(runs.end(new Tenure(tenure.runId(), tenure.owner(), tenure.epoch() - 1), sent))
                .as("an earlier turn of the same process")
                .isFalse();
        assertThat(runs.end(new Tenure(tenure.runId(), "another server", tenure.epoch()), sent))
                .as("another process")
                .isFalse();
        assertThat(state()).isEqualTo(RunState.SENDING);
        assertThat(runs.end(tenure, sent)).isTrue();
        assertThat(runs.end(tenure, sent)).as("twice").isFalse();
    }
}

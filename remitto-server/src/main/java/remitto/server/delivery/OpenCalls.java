package remitto.server.delivery;

import java.sql.SQLException;
import java.time.Clock;
import java.time.Duration;
import java.util.Arrays;
import java.util.Collection;
import java.util.List;
import org.springframework.jdbc.core.simple.JdbcClient;
import org.springframework.stereotype.Component;
import remitto.core.manifest.Verdict;
import remitto.server.manifest.Line;
import remitto.server.platform.Rows;
import remitto.server.run.RunLost;

/**
 * Calls that were written down before they were made. One that is still here after a crash has no known outcome. When that was, and how
 * long it is ago, is told by the database's clock alone: those of servers may differ, or be set.
 */
@Component
public class OpenCalls {
    private final JdbcClient jdbc;
    private final Clock clock;

    OpenCalls(JdbcClient jdbc, Clock clock) {
        this.jdbc = jdbc;
        this.clock = clock;
    }

    record OpenCall(int number, Verdict verdict, List<Integer> lines) {}

    /**
     * Writes down a call that is about to be made.
     *
     * @throws RunLost if the run is no longer this process's own
     */
    void open(long runId, int epoch, int number, Verdict verdict, Collection<Line> lines) {
        open(runId, epoch, number, verdict, lines.stream().map(Line::number).toArray(Integer[]::new));
    }

    /**
     * Writes down a call that takes lines of every verdict.
     *
     * @throws RunLost if the run is no longer this process's own
     */
    void open(long runId, int epoch, int number, List<Integer> lines) {
        open(runId, epoch, number, Verdict.CHANGED, lines.toArray(Integer[]::new));
    }

    private void open(long runId, int epoch, int number, Verdict verdict, Integer[] lines) {
        int opened = jdbc.sql("""
                        insert into open_call (run_id, call_no, epoch, verdict, lines, opened_at)
                        select :run, :number, :epoch, :verdict, :lines, clock_timestamp()
                        where exists (select 1 from run where id = :run and epoch = :epoch and state = 'SENDING')
                        on conflict (run_id, call_no) do update
                        set epoch = excluded.epoch, lines = excluded.lines, opened_at = excluded.opened_at
                        """)
                .param("run", runId)
                .param("number", number)
                .param("epoch", epoch)
                .param("verdict", verdict.name())
                .param("lines", lines)
                .update();
        if (opened == 0) {
            throw new RunLost(runId);
        }
    }

    /** Takes the open calls of a run over; waits for a settlement of the former owner that is being written. */
    void takeUp(long runId, int epoch) {
        jdbc.sql("update open_call set epoch = ? where run_id = ?")
                .params(epoch, runId)
                .update();
    }

    /** Calls that no answer is written down of. */
    List<OpenCall> of(long runId) {
        return jdbc.sql(
                        "select call_no, verdict, lines from open_call where run_id = ? and answered_at is null order by call_no")
                .param(runId)
                .query((row, at) -> new OpenCall(
                        row.getInt("call_no"),
                        Verdict.valueOf(row.getString("verdict")),
                        numbers(row.getArray("lines"))))
                .list();
    }

    /** @param lines how many lines took effect that have no outcome yet */
    record AnsweredCall(int number, int lines) {}

    /** Calls whose answer is written down, but not yet taken into outcomes and known state. */
    List<AnsweredCall> answered(long runId) {
        return jdbc.sql(
                        "select call_no, cardinality(lines) as lines from open_call where run_id = ? and answered_at is not null order by call_no")
                .param(runId)
                .query((row, at) -> new AnsweredCall(row.getInt("call_no"), row.getInt("lines")))
                .list();
    }

    /**
     * Writes down what an open call brought, in one row. Part of the caller's transaction.
     *
     * @param taken the lines that took effect; the others are no longer the call's
     * @throws RunLost if the run is no longer this process's own
     */
    void answer(Outcomes.Maker maker, List<Settlement.Acknowledged> taken) {
        int owned = jdbc.sql("""
                        update open_call set lines = ?, remotes = ?, answers = ?, answered_at = ?
                        where run_id = ? and call_no = ? and epoch = ?
                        """)
                .params(
                        taken.stream().map(one -> one.line().number()).toArray(Integer[]::new),
                        taken.stream().map(Settlement.Acknowledged::remoteId).toArray(String[]::new),
                        taken.stream().map(Settlement.Acknowledged::answer).toArray(String[]::new),
                        Rows.time(clock.instant()),
                        maker.runId(),
                        maker.call(),
                        maker.epoch())
                .update();
        if (owned == 0) {
            throw new RunLost(maker.runId());
        }
    }

    private static List<Integer> numbers(java.sql.Array array) throws SQLException {
        return Arrays.asList((Integer[]) array.getArray());
    }

    /** How long ago the newest call was written down that no answer is known of; zero when there is none. */
    Duration sinceNewest(long runId) {
        double seconds = jdbc.sql("select coalesce(extract(epoch from clock_timestamp() - max(opened_at)), 0)::float8"
                        + " from open_call where run_id = ? and answered_at is null")
                .param(runId)
                .query(Double.class)
                .single();
        return Duration.ofMillis(Math.max(0, (long) (seconds * 1000)));
    }

    void close(long runId, int number) {
        jdbc.sql("delete from open_call where run_id = ? and call_no = ?")
                .params(runId, number)
                .update();
    }
}

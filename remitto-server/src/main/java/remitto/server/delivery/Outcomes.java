package remitto.server.delivery;

import java.time.Clock;
import java.util.ArrayList;
import java.util.Collection;
import java.util.List;
import java.util.stream.Stream;
import org.springframework.jdbc.core.simple.JdbcClient;
import org.springframework.stereotype.Component;
import org.springframework.transaction.annotation.Transactional;
import remitto.core.cause.CauseKind;
import remitto.core.known.RecordState;
import remitto.core.manifest.LineState;
import remitto.core.manifest.Verdict;
import remitto.server.held.HeldRecords;
import remitto.server.known.RouteRecords;
import remitto.server.manifest.Line;
import remitto.server.planning.MessageLimits;
import remitto.server.platform.Rows;
import remitto.server.route.BoundRoute;
import remitto.server.run.RunLost;

/** Writes down what came of lines, together with the known state that follows from it. */
@Component
public class Outcomes {
    private final JdbcClient jdbc;
    private final OpenCalls calls;
    private final AcknowledgedLines acknowledged;
    private final RouteRecords records;
    private final HeldRecords held;
    private final MessageLimits limits;
    private final Clock clock;

    Outcomes(
            JdbcClient jdbc,
            OpenCalls calls,
            AcknowledgedLines acknowledged,
            RouteRecords records,
            HeldRecords held,
            MessageLimits limits,
            Clock clock) {
        this.jdbc = jdbc;
        this.calls = calls;
        this.acknowledged = acknowledged;
        this.records = records;
        this.held = held;
        this.limits = limits;
        this.clock = clock;
    }

    /** Which run, by which claim on it, made the call that is settled; {@code call} 0 when no call was made. */
    public record Maker(long runId, int epoch, int call) {}

    /**
     * Settles a call: its lines have outcomes, the known state follows, and the call is no longer open, all at once.
     *
     * @throws RunLost if the run is no longer this process's own; nothing is written then
     */
    @Transactional
    public void settle(BoundRoute route, Maker maker, Settlement settlement) {
        hurry();
        if (maker.call() > 0) {
            close(maker, settlement);
        }
        write(route, maker.runId(), settlement);
    }

    /**
     * Writes down what an answered call brought, but leaves the lines that took effect to {@link #takeIn}, where that can be.
     *
     * @return how many lines are left to it
     * @throws RunLost if the run is no longer this process's own; nothing is written then
     */
    @Transactional
    int answered(BoundRoute route, Maker maker, Settlement settlement) {
        List<Settlement.Acknowledged> later = settlement.acknowledged.stream()
                .filter(one -> AcknowledgedLines.canWait(one.line()))
                .toList();
        if (later.isEmpty() || !settlement.again.isEmpty()) {
            settle(route, maker, settlement);
            return 0;
        }
        hurry();
        calls.answer(maker, later);
        write(route, maker.runId(), settlement.without(AcknowledgedLines::canWait));
        return later.size();
    }

    /**
     * Takes what answered calls brought into outcomes and known state.
     *
     * @throws RunLost if the run is no longer this process's own; nothing is written then
     */
    @Transactional
    void takeIn(BoundRoute route, long runId, int epoch, List<OpenCalls.AnsweredCall> answered) {
        hurry();
        int taken = acknowledged.takeIn(
                route,
                runId,
                epoch,
                answered.stream().map(OpenCalls.AnsweredCall::number).toList());
        if (taken != answered.stream().mapToInt(OpenCalls.AnsweredCall::lines).sum()) {
            throw new RunLost(runId);
        }
    }

    /**
     * Lost in a crash of the database, a call is still open, and its outcome is found out again: nothing is believed that is
     * not so, and nobody waits for the disk. Compiling the statements would take longer than running them.
     */
    private void hurry() {
        jdbc.sql("set local synchronous_commit = off; set local jit = off").update();
    }

    private void write(BoundRoute route, long runId, Settlement settlement) {
        List<Settlement.Acknowledged> written = new ArrayList<>();
        List<Settlement.Acknowledged> removed = new ArrayList<>();
        settlement.acknowledged.forEach(one -> (one.line().verdict() == Verdict.REMOVED ? removed : written).add(one));
        acknowledged.write(route, runId, written);
        removed(route, runId, removed);
        refused(route, runId, settlement.refused);
        unknown(route, runId, settlement.unknown);
        outcomes(runId, settlement.movedOn, LineState.MOVED_ON);
        outcomes(runId, settlement.forbidden, LineState.FORBIDDEN);
        limits.didNotGo(
                route,
                runId,
                Stream.of(
                                settlement.refused.stream().map(Settlement.Other::line),
                                settlement.movedOn.stream().map(Settlement.Other::line),
                                settlement.planned.stream())
                        .flatMap(lines -> lines)
                        .map(Line::key)
                        .toList());
    }

    /** The call's row carries the claim on its run: whoever took the run over took the row over as well. */
    private void close(Maker maker, Settlement settlement) {
        int owned = settlement.again.isEmpty()
                ? jdbc.sql("delete from open_call where run_id = ? and call_no = ? and epoch = ?")
                        .params(maker.runId(), maker.call(), maker.epoch())
                        .update()
                : jdbc.sql(
                                "update open_call set lines = ?, opened_at = clock_timestamp() where run_id = ? and call_no = ? and epoch = ?")
                        .params(
                                settlement.again.stream().map(Line::number).toArray(Integer[]::new),
                                maker.runId(),
                                maker.call(),
                                maker.epoch())
                        .update();
        if (owned == 0) {
            throw new RunLost(maker.runId());
        }
    }

    /** The record or membership is gone: nothing binds it any more, and nothing is known of it. */
    private void removed(BoundRoute route, long runId, List<Settlement.Acknowledged> done) {
        if (done.isEmpty()) {
            return;
        }
        jdbc.sql("""
                        with freed as (
                          select id from destination_record
                          where destination_id = :destination and object = :object and remote_id = any (:remotes)
                        ), narrow as (
                          update record_state s set record_id = null, input_fingerprint = got.input, sent_fingerprint = 0,
                            state = got.state, state_reason = got.reason
                          from unnest(:ordinals::int[], :inputs::bigint[], :stances::int[], :reasons::text[])
                            as got (ordinal, input, state, reason)
                          where s.route_id = :route and s.ordinal = got.ordinal
                            and (s.record_id is null or s.record_id in (select id from freed))
                        )
                        delete from destination_record d using freed f
                        where d.id = f.id and not exists (
                          select 1 from record_state c where c.record_id = d.id and c.route_id <> :route)
                        """)
                .param(
                        "ordinals",
                        done.stream().map(one -> one.line().ordinal()).toArray(Integer[]::new))
                .param(
                        "inputs",
                        done.stream().map(one -> inputAfterRemoval(one.line())).toArray(Long[]::new))
                .param(
                        "stances",
                        done.stream()
                                .map(one -> recordStateAfterRemoval(one.line()).ordinal())
                                .toArray(Integer[]::new))
                .param(
                        "reasons",
                        done.stream()
                                .map(one -> reasonAfterRemoval(one.line(), runId))
                                .toArray(String[]::new))
                .param(
                        "remotes",
                        done.stream().map(Settlement.Acknowledged::remoteId).toArray(String[]::new))
                .param("destination", route.destinationId())
                .param("object", route.described().description().name())
                .param("route", route.routeId())
                .update();
        insert(
                runId,
                done.stream().map(Settlement.Acknowledged::line).toList(),
                LineState.ACKNOWLEDGED,
                done.stream().map(Settlement.Acknowledged::remoteId).toList(),
                done.stream().map(Settlement.Acknowledged::answer).toList());
        jdbc.sql("""
                        insert into answered_quarter (run_id, quarter, records)
                        values (:run, date_bin('15 minutes', :now::timestamptz, 'epoch'), :records)
                        on conflict (run_id, quarter) do update set records = answered_quarter.records + excluded.records
                        """)
                .param("run", runId)
                .param("now", Rows.time(clock.instant()))
                .param("records", done.size())
                .update();
        held.released(
                route.routeId(), done.stream().map(one -> one.line().key()).toList());
    }

    private static long inputAfterRemoval(Line line) {
        return line.cause().is(CauseKind.UNDO) ? line.inputFingerprint() : 0;
    }

    private static RecordState recordStateAfterRemoval(Line line) {
        if (line.cause().is(CauseKind.UNDO)) {
            return RecordState.UNDONE;
        }
        return line.cause().is(CauseKind.LEFT) ? RecordState.GONE : RecordState.NONE;
    }

    private static String reasonAfterRemoval(Line line, long runId) {
        return line.cause().is(CauseKind.UNDO)
                ? "Its being added was taken back by manifest " + runId + "; stays so until its rules or values change"
                : line.reason();
    }

    private void refused(BoundRoute route, long runId, List<Settlement.Other> refused) {
        if (refused.isEmpty()) {
            return;
        }
        outcomes(runId, refused, LineState.REFUSED);
        remember(route, refused, RecordState.REFUSED);
        held.refused(route.routeId(), runId, CauseKind.REFUSED, refusals(refused));
    }

    private void unknown(BoundRoute route, long runId, List<Settlement.Other> unknown) {
        if (unknown.isEmpty()) {
            return;
        }
        outcomes(runId, unknown, LineState.UNKNOWN);
        remember(route, unknown, RecordState.UNKNOWN);
        held.refused(route.routeId(), runId, CauseKind.OUTCOME_UNKNOWN, refusals(unknown));
    }

    private static List<HeldRecords.Refusal> refusals(List<Settlement.Other> lines) {
        return lines.stream()
                .map(one -> new HeldRecords.Refusal(
                        one.line().key(),
                        one.line().label(),
                        one.reason(),
                        one.line().number()))
                .toList();
    }

    /** What was sent is not sent again with the same input; what was put back or left is not judged by its input. */
    private void remember(BoundRoute route, List<Settlement.Other> lines, RecordState recordState) {
        records.remember(
                route.routeId(),
                lines.stream()
                        .filter(one -> one.line().cause().isNone())
                        .map(one -> new RouteRecords.Remembered(
                                one.line().ordinal(), one.line().inputFingerprint(), 0, recordState, one.reason()))
                        .toList());
    }

    private void outcomes(long runId, List<Settlement.Other> lines, LineState state) {
        insert(
                runId,
                lines.stream().map(Settlement.Other::line).toList(),
                state,
                lines.stream().map(one -> one.line().remoteId()).toList(),
                lines.stream().map(Settlement.Other::reason).toList());
    }

    private void insert(
            long runId, Collection<Line> lines, LineState state, List<String> remotes, List<String> answers) {
        if (lines.isEmpty()) {
            return;
        }
        jdbc.sql("""
                        insert into line_outcome (run_id, line, state, remote_id, answer, answered_at)
                        select :run, line, :state, remote, answer, :now
                        from unnest(:lines::int[], :remotes::text[], :answers::text[]) as got (line, remote, answer)
                        on conflict (run_id, line) do update
                        set state = excluded.state, remote_id = excluded.remote_id, answer = excluded.answer,
                            answered_at = excluded.answered_at
                        """)
                .param("run", runId)
                .param("state", state.name())
                .param("lines", lines.stream().map(Line::number).toArray(Integer[]::new))
                .param("remotes", remotes.toArray(String[]::new))
                .param("answers", answers.toArray(String[]::new))
                .param("now", Rows.time(clock.instant()))
                .update();
    }
}

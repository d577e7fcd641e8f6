package remitto.server.run;

import java.time.Clock;
import java.time.Instant;
import java.util.ArrayList;
import java.util.Collection;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.stream.Collectors;
import java.util.stream.Stream;
import org.jspecify.annotations.Nullable;
import org.springframework.jdbc.core.simple.JdbcClient;
import org.springframework.stereotype.Component;
import org.springframework.transaction.annotation.Transactional;
import remitto.core.delivery.LineState;
import remitto.core.known.Stance;
import remitto.core.manifest.FieldDecision;
import remitto.core.manifest.FieldOutcome;
import remitto.core.manifest.LeaverJudge;
import remitto.core.manifest.UndoJudge;
import remitto.core.manifest.Verdict;
import remitto.core.value.Value;
import remitto.server.held.HeldRecords;
import remitto.server.platform.Rows;
import remitto.server.route.BoundRoute;

/** Writes down what came of lines, together with the known state that follows from it. */
@Component
class Outcomes {
    private final JdbcClient jdbc;
    private final RouteRecords records;
    private final HeldRecords held;
    private final MessageLimits limits;
    private final Clock clock;

    Outcomes(JdbcClient jdbc, RouteRecords records, HeldRecords held, MessageLimits limits, Clock clock) {
        this.jdbc = jdbc;
        this.records = records;
        this.held = held;
        this.limits = limits;
        this.clock = clock;
    }

    static Map<String, Value> written(Line line) {
        Map<String, Value> written = new HashMap<>();
        for (FieldDecision field : line.fields()) {
            if (field.outcome() == FieldOutcome.WRITTEN) {
                written.put(field.field(), field.fresh());
            }
        }
        return written;
    }

    /** Which run, by which claim on it, made the call that is settled; {@code call} 0 when no call was made. */
    record Maker(long runId, int epoch, int call) {}

    /**
     * Settles a call: its lines have outcomes, the known state follows, and the call is no longer open, all at once.
     *
     * @throws OpenCalls.RunLost if the run is no longer this process's own; nothing is written then
     */
    @Transactional
    void settle(BoundRoute route, Maker maker, Settlement settlement) {
        // Lost in a crash of the database, the call is still open, and its outcome is found out again: nothing is
        // believed that is not so, and nobody waits for the disk.
        jdbc.sql("set local synchronous_commit = off").update();
        if (maker.call() > 0) {
            close(maker, settlement);
        }
        long runId = maker.runId();
        List<Settlement.Acknowledged> plain = new ArrayList<>();
        List<Settlement.Acknowledged> removed = new ArrayList<>();
        List<Settlement.Acknowledged> set = new ArrayList<>();
        for (Settlement.Acknowledged one : settlement.acknowledged) {
            boolean special = one.line().code().equals(LeaverJudge.LEFT)
                    || one.line().code().equals(UndoJudge.UNDO);
            (one.line().verdict() == Verdict.REMOVED ? removed : special ? set : plain).add(one);
        }
        acknowledged(route, runId, plain, "");
        removed(route, runId, removed);
        acknowledged(route, runId, withCode(set, LeaverJudge.LEFT), LeaverJudge.LEFT);
        acknowledged(route, runId, withCode(set, UndoJudge.UNDO), UndoJudge.UNDO);
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

    private static List<Settlement.Acknowledged> withCode(List<Settlement.Acknowledged> lines, String code) {
        return lines.stream().filter(one -> one.line().code().equals(code)).toList();
    }

    /** The call's row carries the claim on its run: whoever took the run over took the row over as well. */
    private void close(Maker maker, Settlement settlement) {
        int owned = settlement.again.isEmpty()
                ? jdbc.sql("delete from open_call where run_id = ? and call_no = ? and epoch = ?")
                        .params(maker.runId(), maker.call(), maker.epoch())
                        .update()
                : jdbc.sql(
                                "update open_call set lines = ?, opened_at = ? where run_id = ? and call_no = ? and epoch = ?")
                        .params(
                                settlement.again.stream().map(Line::number).toArray(Integer[]::new),
                                Rows.time(clock.instant()),
                                maker.runId(),
                                maker.call(),
                                maker.epoch())
                        .update();
        if (owned == 0) {
            throw new OpenCalls.RunLost(maker.runId());
        }
    }

    /**
     * @param code of the lines: blank for those of rows, {@link LeaverJudge#LEFT} for records that left and stay there
     *     changed, {@link UndoJudge#UNDO} for what was put back
     */
    private void acknowledged(BoundRoute route, long runId, List<Settlement.Acknowledged> done, String code) {
        if (done.isEmpty()) {
            return;
        }
        int size = done.size();
        Integer[] numbers = new Integer[size];
        Integer[] ordinals = new Integer[size];
        Long[] inputs = new Long[size];
        Long[] sent = new Long[size];
        Integer[] stances = new Integer[size];
        String[] remotes = new String[size];
        String[] known = new String[size];
        String[] writers = new String[size];
        String[] marks = new String[size];
        @Nullable String[] rechecks = new String[size];
        String[] answers = new String[size];
        List<String> keys = new ArrayList<>(size);
        for (int i = 0; i < size; i++) {
            Line line = done.get(i).line();
            boolean left = code.equals(LeaverJudge.LEFT);
            boolean undo = code.equals(UndoJudge.UNDO);
            numbers[i] = line.number();
            ordinals[i] = line.ordinal();
            inputs[i] = left ? 0 : line.inputFingerprint();
            sent[i] = left || undo ? 0 : line.sentFingerprint();
            stances[i] = (left ? Stance.GONE : undo && line.verdict() == Verdict.ADDED ? Stance.UNDONE : Stance.NONE)
                    .ordinal();
            remotes[i] = done.get(i).remoteId();
            known[i] = records.known(written(line));
            writers[i] = undo ? records.undone(route, runId, line) : "{}";
            marks[i] = marks(line);
            rechecks[i] = left || undo ? null : recheckAt(line, route);
            answers[i] = done.get(i).answer();
            keys.add(line.key());
        }
        jdbc.sql("""
                        with got as (
                          select * from unnest(:lines::int[], :ordinals::int[], :inputs::bigint[], :sent::bigint[],
                            :stances::int[], :remotes::text[], :known::text[], :writers::text[], :marks::text[],
                            :rechecks::timestamptz[], :answers::text[])
                            as got (line, ordinal, input, sent, stance, remote, known, writers, marks, recheck, answer)
                        ), wide as (
                          insert into destination_record
                            (destination_id, object, remote_id, fields, route_id, run_id, line, writers, marks)
                          select :destination, :object, remote, known::jsonb, :route, :run, line, writers::jsonb, marks::jsonb
                          from got
                          on conflict (destination_id, object, remote_id) do update
                          set marks = destination_record.marks || excluded.marks, fields = destination_record.fields || excluded.fields,
                            writers = destination_record.writers || case when excluded.writers <> '{}' then excluded.writers
                              else jsonb_writers(excluded.fields, excluded.route_id, excluded.run_id, excluded.line) end
                          returning id, remote_id
                        ), narrow as (
                          insert into record_state
                            (route_id, ordinal, record_id, input_fingerprint, sent_fingerprint, stance, stance_reason,
                             recheck_at)
                          select :route, got.ordinal, wide.id, got.input, got.sent, got.stance, '', got.recheck
                          from got join wide on wide.remote_id = got.remote
                          on conflict (route_id, ordinal) do update
                          set record_id = excluded.record_id, input_fingerprint = excluded.input_fingerprint,
                            sent_fingerprint = excluded.sent_fingerprint, stance = excluded.stance, stance_reason = '',
                            recheck_at = excluded.recheck_at
                        )
                        insert into line_outcome (run_id, line, state, remote_id, answer, answered_at)
                        select :run, line, 'ACKNOWLEDGED', remote, answer, :now from got
                        on conflict (run_id, line) do update
                        set state = excluded.state, remote_id = excluded.remote_id, answer = excluded.answer,
                            answered_at = excluded.answered_at
                        """)
                .param("lines", numbers)
                .param("ordinals", ordinals)
                .param("inputs", inputs)
                .param("sent", sent)
                .param("stances", stances)
                .param("remotes", remotes)
                .param("known", known)
                .param("writers", writers)
                .param("marks", marks)
                .param("rechecks", rechecks)
                .param("answers", answers)
                .param("destination", route.destinationId())
                .param("object", route.described().description().name())
                .param("route", route.routeId())
                .param("run", runId)
                .param("now", Rows.time(clock.instant()))
                .update();
        held.released(route.routeId(), keys);
    }

    /** The columns' fingerprints that the written fields were let through by. */
    private static String marks(Line line) {
        return line.fields().stream()
                .filter(field -> field.outcome() == FieldOutcome.WRITTEN && field.mark() != 0)
                .map(field -> "\"" + field.field() + "\":" + field.mark())
                .collect(Collectors.joining(",", "{", "}"));
    }

    private @Nullable String recheckAt(Line line, BoundRoute route) {
        return Stream.concat(
                        line.fields().stream().flatMap(field -> field.until().stream()),
                        route.lookedUpAgain(clock.instant()).stream())
                .min(Instant::compareTo)
                .map(Rows::timeText)
                .orElse(null);
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
                            stance = got.stance, stance_reason = got.reason
                          from unnest(:ordinals::int[], :inputs::bigint[], :stances::int[], :reasons::text[])
                            as got (ordinal, input, stance, reason)
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
                                .map(one -> stanceAfterRemoval(one.line()).ordinal())
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
        held.released(
                route.routeId(), done.stream().map(one -> one.line().key()).toList());
    }

    private static long inputAfterRemoval(Line line) {
        return line.code().equals(UndoJudge.UNDO) ? line.inputFingerprint() : 0;
    }

    private static Stance stanceAfterRemoval(Line line) {
        if (line.code().equals(UndoJudge.UNDO)) {
            return Stance.UNDONE;
        }
        return line.code().equals(LeaverJudge.LEFT) ? Stance.GONE : Stance.NONE;
    }

    private static String reasonAfterRemoval(Line line, long runId) {
        return line.code().equals(UndoJudge.UNDO)
                ? "Its being added was taken back by manifest " + runId + "; stays so until its rules or values change"
                : line.reason();
    }

    private void refused(BoundRoute route, long runId, List<Settlement.Other> refused) {
        if (refused.isEmpty()) {
            return;
        }
        outcomes(runId, refused, LineState.REFUSED);
        remember(route, refused, Stance.REFUSED);
        held.refused(route.routeId(), runId, "refused", refusals(refused));
    }

    private void unknown(BoundRoute route, long runId, List<Settlement.Other> unknown) {
        if (unknown.isEmpty()) {
            return;
        }
        outcomes(runId, unknown, LineState.UNKNOWN);
        remember(route, unknown, Stance.UNKNOWN);
        held.refused(route.routeId(), runId, HeldRecords.OUTCOME_UNKNOWN, refusals(unknown));
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
    private void remember(BoundRoute route, List<Settlement.Other> lines, Stance stance) {
        records.remember(
                route.routeId(),
                lines.stream()
                        .filter(one -> one.line().code().isEmpty())
                        .map(one -> new RouteRecords.Remembered(
                                one.line().ordinal(), one.line().inputFingerprint(), 0, stance, one.reason()))
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

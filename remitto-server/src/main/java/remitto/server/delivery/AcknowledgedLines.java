package remitto.server.delivery;

import java.time.Clock;
import java.util.List;
import java.util.Optional;
import org.springframework.jdbc.core.simple.JdbcClient;
import org.springframework.stereotype.Component;
import remitto.core.cause.CauseKind;
import remitto.core.known.RecordState;
import remitto.core.manifest.LineState;
import remitto.core.manifest.Verdict;
import remitto.server.known.RouteRecords;
import remitto.server.manifest.Line;
import remitto.server.platform.Rows;
import remitto.server.route.BoundRoute;

/**
 * Writes down that lines which add or change took effect, and the known state that follows. What they brought is read where
 * they are kept: taking it back and forth would cost more than the rest.
 */
@Component
class AcknowledgedLines {
    /** What a caller says. */
    private static final String SAID = """
            with answers as (
              select line, remote, answer, coalesce(writers, '{}')::jsonb as writers, :now::timestamptz as at
              from unnest(:lines::int[], :remotes::text[], :answers::text[], :writers::text[])
                as said (line, remote, answer, writers)
            )""";

    /** What answered calls brought; they are closed by it. */
    private static final String CALLED = """
            with closed as (
              delete from open_call where run_id = :run and call_no = any (:calls) and epoch = :epoch and answered_at is not null
              returning lines, remotes, answers, answered_at
            ), answers as (
              select line, remote, answer, '{}'::jsonb as writers, answered_at as at
              from closed, unnest(lines, remotes, answers) as brought (line, remote, answer)
            )""";

    private static final String TAKE_IN = """
            , got as materialized (
              select m.line, m.ordinal, m.source_key, m.verdict, m.code, m.input_fingerprint, m.sent_fingerprint, m.again, m.sends,
                m.marks, m.recheck_at, answers.remote, answers.answer, answers.writers, answers.at
              from answers join manifest_line m on m.run_id = :run and m.line = answers.line
            ), wide as (
              insert into destination_record
                (destination_id, object, remote_id, fields, route_id, run_id, line, writers, marks)
              select :destination, :object, remote, sends::jsonb, :route, :run, line, writers, marks from got
              on conflict (destination_id, object, remote_id) do update
              set marks = destination_record.marks || excluded.marks, fields = destination_record.fields || excluded.fields,
                writers = destination_record.writers || case when excluded.writers <> '{}' then excluded.writers
                  else jsonb_writers(excluded.fields, excluded.route_id, excluded.run_id, excluded.line) end
              returning id, remote_id
            ), narrow as (
              insert into record_state
                (route_id, ordinal, record_id, input_fingerprint, sent_fingerprint, state, state_reason, recheck_at)
              select :route, got.ordinal, wide.id,
                case when got.code = :left or got.again then 0 else got.input_fingerprint end,
                case when got.code in (:left, :undo) then 0 else got.sent_fingerprint end,
                case when got.code = :left then :gone when got.code = :undo and got.verdict = :added then :undone else :none end,
                '', case when got.code not in (:left, :undo) then least(got.recheck_at, :again::timestamptz) end
              from got join wide on wide.remote_id = got.remote
              on conflict (route_id, ordinal) do update
              set record_id = excluded.record_id, input_fingerprint = excluded.input_fingerprint,
                sent_fingerprint = excluded.sent_fingerprint, state = excluded.state, state_reason = '',
                recheck_at = excluded.recheck_at
            ), released as (
              delete from held h using got
              where h.route_id = :route and h.by_destination and h.source_key = got.source_key
            ), counted as (
              insert into answered_quarter (run_id, quarter, records)
              select :run, date_bin('15 minutes', at, 'epoch'), count(*) from got group by 2
              on conflict (run_id, quarter) do update set records = answered_quarter.records + excluded.records
            )
            insert into line_outcome (run_id, line, state, remote_id, answer, answered_at)
            select :run, line, :acknowledged, remote, answer, at from got
            on conflict (run_id, line) do update
            set state = excluded.state, remote_id = excluded.remote_id, answer = excluded.answer,
              answered_at = excluded.answered_at
            """;

    private final JdbcClient jdbc;
    private final RouteRecords records;
    private final Clock clock;

    AcknowledgedLines(JdbcClient jdbc, RouteRecords records, Clock clock) {
        this.jdbc = jdbc;
        this.records = records;
        this.clock = clock;
    }

    /**
     * Part of the caller's transaction.
     *
     * @param done lines of one run that add or change
     */
    void write(BoundRoute route, long runId, List<Settlement.Acknowledged> done) {
        if (done.isEmpty()) {
            return;
        }
        take(SAID, route, runId)
                .param("lines", done.stream().map(one -> one.line().number()).toArray(Integer[]::new))
                .param(
                        "remotes",
                        done.stream().map(Settlement.Acknowledged::remoteId).toArray(String[]::new))
                .param(
                        "answers",
                        done.stream().map(Settlement.Acknowledged::answer).toArray(String[]::new))
                .param("writers", writers(route, runId, done))
                .param("now", Rows.time(clock.instant()))
                .update();
    }

    /** True when a line that took effect has nothing to say but its record there and the answer. */
    static boolean canWait(Line line) {
        return line.verdict() != Verdict.REMOVED && !isUndo(line);
    }

    /**
     * Part of the caller's transaction.
     *
     * @return how many lines have their outcome now
     */
    int takeIn(BoundRoute route, long runId, int epoch, List<Integer> calls) {
        return take(CALLED, route, runId)
                .param("calls", calls.toArray(Integer[]::new))
                .param("epoch", epoch)
                .update();
    }

    private JdbcClient.StatementSpec take(String answers, BoundRoute route, long runId) {
        return jdbc.sql(answers + TAKE_IN)
                .param("destination", route.destinationId())
                .param("object", route.described().description().name())
                .param("route", route.routeId())
                .param("run", runId)
                .param("left", CauseKind.LEFT.code())
                .param("undo", CauseKind.UNDO.code())
                .param("added", Verdict.ADDED.name())
                .param("gone", RecordState.GONE.ordinal())
                .param("undone", RecordState.UNDONE.ordinal())
                .param("none", RecordState.NONE.ordinal())
                .param("acknowledged", LineState.ACKNOWLEDGED.name())
                .param(
                        "again",
                        route.lookedUpAgain(clock.instant()).map(Rows::timeText).orElse(null));
    }

    /** Who wrote the fields, where it takes more to say than route, run and line; empty when no line asks for it. */
    private String[] writers(BoundRoute route, long runId, List<Settlement.Acknowledged> done) {
        if (done.stream().noneMatch(one -> isUndo(one.line()))) {
            return new String[0];
        }
        return done.stream()
                .map(one -> Optional.of(one.line())
                        .filter(AcknowledgedLines::isUndo)
                        .map(line -> records.undone(route, runId, line))
                        .orElse("{}"))
                .toArray(String[]::new);
    }

    private static boolean isUndo(Line line) {
        return line.cause().is(CauseKind.UNDO);
    }
}

package remitto.server.run;

import java.time.Clock;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import org.springframework.jdbc.core.simple.JdbcClient;
import org.springframework.stereotype.Component;
import org.springframework.transaction.annotation.Transactional;
import remitto.core.delivery.LineState;
import remitto.core.manifest.FieldDecision;
import remitto.core.manifest.FieldOutcome;
import remitto.core.value.Value;
import remitto.server.held.HeldRecords;
import remitto.server.platform.Rows;
import remitto.server.route.BoundRoute;

/** Writes down what became of lines, together with the known state that follows from it. */
@Component
class Outcomes {
    private final JdbcClient jdbc;
    private final RouteRecords records;
    private final Lines lines;
    private final HeldRecords held;
    private final Clock clock;

    Outcomes(JdbcClient jdbc, RouteRecords records, Lines lines, HeldRecords held, Clock clock) {
        this.jdbc = jdbc;
        this.records = records;
        this.lines = lines;
        this.held = held;
        this.clock = clock;
    }

    record Acknowledged(Line line, String remoteId, String answer) {}

    record Refused(Line line, String reason) {}

    static Map<String, Value> written(Line line) {
        Map<String, Value> written = new HashMap<>();
        for (FieldDecision field : line.fields()) {
            if (field.outcome() == FieldOutcome.WRITTEN) {
                written.put(field.field(), field.fresh());
            }
        }
        return written;
    }

    @Transactional
    void acknowledged(BoundRoute route, long runId, List<Acknowledged> done) {
        if (done.isEmpty()) {
            return;
        }
        int size = done.size();
        Integer[] numbers = new Integer[size];
        Integer[] ordinals = new Integer[size];
        Long[] inputs = new Long[size];
        Long[] sent = new Long[size];
        String[] remotes = new String[size];
        String[] known = new String[size];
        String[] answers = new String[size];
        List<String> keys = new ArrayList<>(size);
        for (int i = 0; i < size; i++) {
            Line line = done.get(i).line();
            numbers[i] = line.number();
            ordinals[i] = line.ordinal();
            inputs[i] = line.inputFingerprint();
            sent[i] = line.sentFingerprint();
            remotes[i] = done.get(i).remoteId();
            known[i] = records.known(route.routeId(), runId, line.number(), written(line));
            answers[i] = done.get(i).answer();
            keys.add(line.key());
        }
        // Lost in a crash of the database, these lines are still being sent, and are read back: nothing is believed
        // that is not so, and nobody waits for the disk.
        jdbc.sql("set local synchronous_commit = off").update();
        jdbc.sql("""
                        with got as (
                          select * from unnest(:lines::int[], :ordinals::int[], :inputs::bigint[], :sent::bigint[],
                            :remotes::text[], :known::text[], :answers::text[])
                            as got (line, ordinal, input, sent, remote, known, answer)
                        ), wide as (
                          insert into destination_record (destination_id, object, remote_id, fields, revision)
                          select :destination, :object, remote, known::jsonb, 1 from got
                          on conflict (destination_id, object, remote_id) do update
                          set fields = destination_record.fields || excluded.fields,
                              revision = destination_record.revision + 1
                          returning id, remote_id
                        ), narrow as (
                          update route_record r
                          set record_id = wide.id, input_fingerprint = got.input, sent_fingerprint = got.sent,
                              refused = false, refusal = ''
                          from got join wide on wide.remote_id = got.remote
                          where r.route_id = :route and r.ordinal = got.ordinal
                        )
                        update manifest_line m
                        set state = 'ACKNOWLEDGED', remote_id = got.remote, answered_at = :now, answer = got.answer
                        from got where m.run_id = :run and m.line = got.line
                        """)
                .param("lines", numbers)
                .param("ordinals", ordinals)
                .param("inputs", inputs)
                .param("sent", sent)
                .param("remotes", remotes)
                .param("known", known)
                .param("answers", answers)
                .param("destination", route.destinationId())
                .param("object", route.described().description().name())
                .param("route", route.routeId())
                .param("run", runId)
                .param("now", Rows.time(clock.instant()))
                .update();
        held.released(route.routeId(), keys);
    }

    /** The same input is not sent again until it changes or a person lets it go. */
    @Transactional
    void refused(BoundRoute route, long runId, List<Refused> refused) {
        if (refused.isEmpty()) {
            return;
        }
        List<HeldRecords.Refusal> refusals = new ArrayList<>();
        for (Refused one : refused) {
            Line line = one.line();
            refusals.add(new HeldRecords.Refusal(line.key(), line.label(), one.reason(), line.number()));
            jdbc.sql("""
                            update route_record set refused = true, refusal = ?, input_fingerprint = ?, sent_fingerprint = 0
                            where route_id = ? and ordinal = ?
                            """)
                    .params(one.reason(), line.inputFingerprint(), route.routeId(), line.ordinal())
                    .update();
            jdbc.sql(
                            "update manifest_line set state = 'REFUSED', answered_at = ?, answer = ? where run_id = ? and line = ?")
                    .params(Rows.time(clock.instant()), one.reason(), runId, line.number())
                    .update();
        }
        held.refused(route.routeId(), runId, refusals);
    }

    /** Not sent, since what was there is no longer what the manifest shows; the next run judges them anew. */
    void movedOn(long runId, Line line, String why) {
        lines.set(runId, List.of(line.number()), LineState.MOVED_ON, why);
    }
}

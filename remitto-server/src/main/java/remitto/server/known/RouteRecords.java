package remitto.server.known;

import java.nio.ByteBuffer;
import java.time.Instant;
import java.util.Collection;
import java.util.HashMap;
import java.util.Map;
import java.util.Optional;
import java.util.function.Consumer;
import org.postgresql.PGConnection;
import org.postgresql.copy.CopyOut;
import org.springframework.jdbc.core.JdbcTemplate;
import org.springframework.jdbc.core.simple.JdbcClient;
import org.springframework.stereotype.Component;
import remitto.core.known.KnownIndex;
import remitto.core.known.RecordState;
import remitto.core.manifest.FieldDecision;
import remitto.core.manifest.FieldOutcome;
import remitto.core.manifest.FieldPast;
import remitto.core.manifest.MatchResult;
import remitto.core.value.Value;
import remitto.server.manifest.Line;
import remitto.server.manifest.LineFields;
import remitto.server.platform.CopyText;
import remitto.server.platform.Json;
import remitto.server.platform.Rows;
import remitto.server.route.BoundRoute;
import tools.jackson.databind.JsonNode;

/** Known state: what each route knows of its records, and what each destination acknowledged. */
@Component
public class RouteRecords {
    private static final int COPY_HEADER = 19;
    private static final RecordState[] STANCES = RecordState.values();

    private final JdbcTemplate template;
    private final JdbcClient jdbc;
    private final LineFields fields;
    private final Json json;

    RouteRecords(JdbcTemplate template, JdbcClient jdbc, Json json) {
        this.template = template;
        this.jdbc = jdbc;
        this.json = json;
        this.fields = new LineFields(json);
    }

    /**
     * What is known of a record there.
     *
     * @param remoteId blank when the record is not bound
     * @param otherRoute another route that keeps the same record; blank for none
     * @param undone values taken back by the rules of today
     * @param past of the fields whose rules ask for it
     */
    public record Bound(
            String key,
            String label,
            String remoteId,
            long sentFingerprint,
            String recordStateReason,
            String otherRoute,
            Map<String, Value> known,
            Map<String, Value> undone,
            Map<String, FieldPast> past) {
        public boolean isBound() {
            return !remoteId.isEmpty();
        }

        private Bound withPast(Map<String, FieldPast> known) {
            return new Bound(
                    key, label, remoteId, sentFingerprint, recordStateReason, otherRoute, this.known, undone, known);
        }

        /** The record as far as it is known without asking. */
        public MatchResult.Matched asKnown(Instant at) {
            return new MatchResult.Matched(remoteId, "", known, at, known, undone, past);
        }
    }

    /**
     * Loads who a route's records are and how they stand, into primitive arrays. One that waits for a time that has come
     * is to be evaluated whatever its input is.
     */
    public KnownIndex load(long routeId, Instant now) {
        int ordinals = nextOrdinal(routeId);
        long count = jdbc.sql("select count(*) from route_record where route_id = ?")
                .param(routeId)
                .query(Long.class)
                .single();
        KnownIndex index = new KnownIndex(Math.toIntExact(count));
        // A copy out takes no parameters; the id is a number of ours.
        copy("select key_high, key_low, ordinal from route_record where route_id = " + routeId, in -> {
            long high = number(in);
            long low = number(in);
            index.put(high, low, 0, (int) number(in), RecordState.NONE, false);
        });
        int[] slots = index.slots(ordinals);
        copy(
                "select ordinal, case when recheck_at <= timestamptz '" + now
                        + "' then 0 else input_fingerprint end, state,"
                        + " record_id is not null from record_state where route_id = " + routeId,
                in -> {
                    int ordinal = (int) number(in);
                    long input = number(in);
                    RecordState recordState = STANCES[(int) number(in)];
                    index.stand(slots[ordinal], input, recordState, number(in) != 0);
                });
        return index;
    }

    /** Hands over each row of a query in PostgreSQL's binary format, its fields one after the other. */
    private void copy(String query, Consumer<ByteBuffer> sink) {
        template.execute((java.sql.Connection connection) -> {
            CopyOut copy =
                    connection.unwrap(PGConnection.class).getCopyAPI().copyOut("copy (" + query + ") to stdout binary");
            boolean first = true;
            for (byte[] message = copy.readFromCopy(); message != null; message = copy.readFromCopy()) {
                ByteBuffer in = ByteBuffer.wrap(message);
                if (first) {
                    in.position(COPY_HEADER);
                    first = false;
                }
                if (in.remaining() > 2 && in.getShort() > 0) {
                    sink.accept(in);
                }
            }
            return true;
        });
    }

    private static long number(ByteBuffer in) {
        return switch (in.getInt()) {
            case 1 -> in.get();
            case 2 -> in.getShort();
            case 4 -> in.getInt();
            default -> in.getLong();
        };
    }

    public int nextOrdinal(long routeId) {
        return jdbc.sql("select coalesce(max(ordinal), 0) + 1 from route_record where route_id = ?")
                .param(routeId)
                .query(Integer.class)
                .single();
    }

    public long boundCount(long routeId) {
        return jdbc.sql("select count(*) from record_state where route_id = ? and record_id is not null")
                .param(routeId)
                .query(Long.class)
                .single();
    }

    /** Writes down records the route meets for the first time; they are bound to nothing yet. */
    public void addNew(long routeId, Collection<Candidate> candidates, Map<Integer, String> labels) {
        CopyText copy = new CopyText();
        for (Candidate candidate : candidates) {
            copy.number(routeId)
                    .number(candidate.ordinal())
                    .number(candidate.keyHigh())
                    .number(candidate.keyLow())
                    .text(candidate.key())
                    .text(labels.getOrDefault(candidate.ordinal(), ""))
                    .endRow();
        }
        copy.load(template, "route_record (route_id, ordinal, key_high, key_low, source_key, label)");
    }

    /** What a route met of somebody who was erased keeps no key and no name. */
    public void forgetName(long routeId, int ordinal) {
        jdbc.sql("""
                        update route_record set source_key = '', label = 'Erased', key_high = (random() * 9e18)::bigint,
                          key_low = (random() * 9e18)::bigint where route_id = ? and ordinal = ?
                        """).params(routeId, ordinal).update();
    }

    public Optional<Integer> ordinal(long routeId, long keyHigh, long keyLow) {
        return jdbc.sql("select ordinal from route_record where route_id = ? and key_high = ? and key_low = ?")
                .params(routeId, keyHigh, keyLow)
                .query(Integer.class)
                .optional();
    }

    /** What is known of some records, by ordinal. */
    public Map<Integer, Bound> bound(BoundRoute route, Collection<Integer> ordinals) {
        Map<Integer, Bound> found = new HashMap<>();
        if (ordinals.isEmpty()) {
            return found;
        }
        boolean asks = !route.route().fieldsWithPast().isEmpty();
        FieldPasts past = new FieldPasts(jdbc, json);
        jdbc.sql("""
                        select r.ordinal, r.source_key, r.label, coalesce(s.sent_fingerprint, 0) as sent_fingerprint,
                               coalesce(s.state_reason, '') as state_reason, coalesce(d.remote_id, '') as remote_id,
                               coalesce(d.fields, '{}') as fields, coalesce(d.writers, '{}') as writers,
                               coalesce(d.marks, '{}') as marks, coalesce(d.route_id, 0) as writer_route,
                               coalesce(d.run_id, 0) as writer_run, coalesce(d.line, 0) as writer_line,
                               coalesce((select min(o.name) from record_state c join route o on o.id = c.route_id
                                 where c.record_id = s.record_id and c.route_id <> r.route_id), '') as other_route
                        from route_record r
                        left join record_state s on s.route_id = r.route_id and s.ordinal = r.ordinal
                        left join destination_record d on d.id = s.record_id
                        where r.route_id = ? and r.ordinal = any (?)
                        """).params(route.routeId(), ordinals.toArray(Integer[]::new)).query(row -> {
            found.put(
                    row.getInt("ordinal"),
                    new Bound(
                            row.getString("source_key"),
                            row.getString("label"),
                            row.getString("remote_id"),
                            row.getLong("sent_fingerprint"),
                            row.getString("state_reason"),
                            row.getString("other_route"),
                            known(route, row.getString("fields")),
                            undone(route, row.getString("writers")),
                            Map.of()));
            if (asks) {
                past.add(route, row);
            }
        });
        if (asks) {
            Map<Integer, Map<String, FieldPast>> pasts = past.times();
            found.replaceAll((ordinal, one) -> one.withPast(pasts.getOrDefault(ordinal, Map.of())));
        }
        return found;
    }

    private Map<String, Value> known(BoundRoute route, String text) {
        Map<String, Value> known = new HashMap<>();
        json.tree(text)
                .properties()
                .forEach(entry -> known.put(
                        entry.getKey(),
                        fields.read(
                                entry.getValue(),
                                entry.getKey(),
                                route.described().description())));
        return known;
    }

    private Map<String, Value> undone(BoundRoute route, String writers) {
        Map<String, Value> undone = new HashMap<>();
        json.tree(writers).properties().forEach(entry -> {
            JsonNode writer = entry.getValue();
            if (writer.size() > 4 && writer.get(4).asLong() == route.ruleHash(entry.getKey())) {
                undone.put(
                        entry.getKey(),
                        fields.read(
                                writer.get(3), entry.getKey(), route.described().description()));
            }
        });
        return undone;
    }

    /** Which source record of the route each of some records there belongs to. */
    Map<String, String> claims(BoundRoute route, Collection<String> remoteIds) {
        Map<String, String> claims = new HashMap<>();
        if (!remoteIds.isEmpty()) {
            jdbc.sql("""
                            select d.remote_id, r.source_key from destination_record d
                            join record_state s on s.record_id = d.id and s.route_id = ?
                            join route_record r on r.route_id = s.route_id and r.ordinal = s.ordinal
                            where d.destination_id = ? and d.object = ? and d.remote_id = any (?)
                            """)
                    .params(
                            route.routeId(),
                            route.destinationId(),
                            route.described().description().name(),
                            remoteIds.toArray(String[]::new))
                    .query(row -> {
                        claims.put(row.getString("remote_id"), row.getString("source_key"));
                    });
        }
        return claims;
    }

    /** Records whose outcome was found out without sending anything, with what to remember of each. */
    public record Remembered(
            int ordinal, long input, long sent, RecordState recordState, String reason, Optional<Instant> recheckAt) {
        public Remembered(int ordinal, long input, long sent, RecordState recordState, String reason) {
            this(ordinal, input, sent, recordState, reason, Optional.empty());
        }
    }

    /** Remembers what inputs lead to, so that they are not shaped again. */
    public void remember(long routeId, Collection<Remembered> records) {
        if (!records.isEmpty()) {
            jdbc.sql("""
                            insert into record_state
                              (route_id, ordinal, input_fingerprint, sent_fingerprint, state, state_reason, recheck_at)
                            select :route, ordinal, input, sent, state, reason, recheck
                            from unnest(:ordinals::int[], :inputs::bigint[], :sent::bigint[], :stances::int[], :reasons::text[],
                              :rechecks::timestamptz[]) as got (ordinal, input, sent, state, reason, recheck)
                            on conflict (route_id, ordinal) do update
                            set input_fingerprint = excluded.input_fingerprint, sent_fingerprint = excluded.sent_fingerprint,
                              state = excluded.state, state_reason = excluded.state_reason,
                              recheck_at = excluded.recheck_at
                            """)
                    .param("route", routeId)
                    .param("ordinals", records.stream().map(Remembered::ordinal).toArray(Integer[]::new))
                    .param("inputs", records.stream().map(Remembered::input).toArray(Long[]::new))
                    .param("sent", records.stream().map(Remembered::sent).toArray(Long[]::new))
                    .param(
                            "stances",
                            records.stream()
                                    .map(one -> one.recordState().ordinal())
                                    .toArray(Integer[]::new))
                    .param("reasons", records.stream().map(Remembered::reason).toArray(String[]::new))
                    .param(
                            "rechecks",
                            records.stream()
                                    .map(one ->
                                            one.recheckAt().map(Rows::timeText).orElse(null))
                                    .toArray(String[]::new))
                    .update();
        }
    }

    /** What leaving asks for was done, or there was nothing to do. */
    public void gone(long routeId, Collection<Integer> ordinals) {
        remember(
                routeId,
                ordinals.stream()
                        .map(ordinal -> new Remembered(ordinal, 0, 0, RecordState.GONE, "Left the dataset"))
                        .toList());
    }

    /** Lets go of records that are no longer there. */
    public void unbind(BoundRoute route, Collection<Integer> ordinals) {
        if (ordinals.isEmpty()) {
            return;
        }
        jdbc.sql("""
                        with freed as (
                          update record_state s set record_id = null, sent_fingerprint = 0, input_fingerprint = 0
                          from record_state old
                          where s.route_id = :route and s.ordinal = any (:ordinals) and s.record_id is not null
                            and old.route_id = s.route_id and old.ordinal = s.ordinal
                          returning old.record_id
                        )
                        delete from destination_record d using freed f
                        where d.id = f.record_id and not exists (
                          select 1 from record_state c where c.record_id = d.id and c.route_id <> :route)
                        """)
                .param("route", route.routeId())
                .param("ordinals", ordinals.toArray(Integer[]::new))
                .update();
    }

    /**
     * Binds a record to one found there with the very values it would have received. Whoever wrote a value that is known already stays
     * its writer.
     */
    public void adopt(BoundRoute route, long runId, int ordinal, MatchResult.Matched there, Map<String, Value> values) {
        jdbc.sql("""
                        with wide as (
                          insert into destination_record
                            (destination_id, object, remote_id, fields, route_id, run_id, line)
                          values (:destination, :object, :remote, :fields::jsonb, :route, :run, 0)
                          on conflict (destination_id, object, remote_id) do update
                          set fields = destination_record.fields || excluded.fields,
                            writers = destination_record.writers || jsonb_writers(coalesce(
                              (select jsonb_object_agg(f.key, f.value) from jsonb_each(excluded.fields) f
                                where destination_record.fields -> f.key is distinct from f.value), '{}'), :route, :run, 0)
                          returning id
                        )
                        insert into record_state
                          (route_id, ordinal, record_id, input_fingerprint, sent_fingerprint, state, state_reason)
                        select :route, :ordinal, id, 0, 0, 0, '' from wide
                        on conflict (route_id, ordinal) do update set record_id = excluded.record_id
                        """)
                .param("destination", route.destinationId())
                .param("object", route.described().description().name())
                .param("remote", there.remoteId())
                .param("fields", fields.write(values))
                .param("route", route.routeId())
                .param("run", runId)
                .param("ordinal", ordinal)
                .update();
    }

    /** Writers of fields after an undo: also the value that was taken back, and the rule that gave it. */
    public String undone(BoundRoute route, long runId, Line line) {
        var node = json.mapper().createObjectNode();
        for (FieldDecision field : line.fields()) {
            if (field.outcome() == FieldOutcome.WRITTEN) {
                var writer = node.putArray(field.field())
                        .add(route.routeId())
                        .add(runId)
                        .add(line.number());
                fields.add(writer, field.old()).add(route.ruleHash(field.field()));
            }
        }
        return node.toString();
    }
}

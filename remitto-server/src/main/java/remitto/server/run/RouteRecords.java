package remitto.server.run;

import java.nio.ByteBuffer;
import java.time.Instant;
import java.util.Collection;
import java.util.HashMap;
import java.util.Map;
import java.util.Optional;
import org.postgresql.PGConnection;
import org.postgresql.copy.CopyOut;
import org.springframework.jdbc.core.JdbcTemplate;
import org.springframework.jdbc.core.simple.JdbcClient;
import org.springframework.stereotype.Component;
import remitto.core.destination.ObjectDescription;
import remitto.core.known.KnownIndex;
import remitto.core.known.Stance;
import remitto.core.manifest.FieldDecision;
import remitto.core.manifest.FieldOutcome;
import remitto.core.manifest.Standing;
import remitto.core.value.Value;
import remitto.server.platform.Json;
import remitto.server.route.BoundRoute;
import tools.jackson.databind.JsonNode;

/** Known state: what each route knows of its records, and what each destination acknowledged. */
@Component
class RouteRecords {
    private static final int COPY_HEADER = 19;
    private static final Stance[] STANCES = Stance.values();

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
     * @param otherRoute another route that keeps the same record there; blank for none
     * @param undone values taken back by the rules of today
     */
    record Bound(
            String key,
            String label,
            String remoteId,
            long sentFingerprint,
            String stanceReason,
            String otherRoute,
            Map<String, Value> known,
            Map<String, Value> undone) {
        boolean isBound() {
            return !remoteId.isEmpty();
        }

        /** The record as far as it is known without asking. */
        Standing.There asKnown(Instant at) {
            return new Standing.There(remoteId, "", known, at, known, undone);
        }
    }

    /** Loads the narrow part of a route's known state. */
    KnownIndex load(long routeId) {
        long count = jdbc.sql("select count(*) from route_record where route_id = ?")
                .param(routeId)
                .query(Long.class)
                .single();
        KnownIndex index = new KnownIndex(Math.toIntExact(count));
        // A copy out takes no parameters; the id is a number of ours.
        String sql = "copy (select key_high, key_low, input_fingerprint, ordinal, stance, record_id is not null"
                + " from route_record where route_id = " + routeId + ") to stdout binary";
        template.execute((java.sql.Connection connection) -> {
            CopyOut copy = connection.unwrap(PGConnection.class).getCopyAPI().copyOut(sql);
            boolean first = true;
            for (byte[] message = copy.readFromCopy(); message != null; message = copy.readFromCopy()) {
                ByteBuffer in = ByteBuffer.wrap(message);
                if (first) {
                    in.position(COPY_HEADER);
                    first = false;
                }
                if (in.remaining() > 2 && in.getShort() > 0) {
                    put(index, in);
                }
            }
            return count;
        });
        return index;
    }

    private static void put(KnownIndex index, ByteBuffer in) {
        in.getInt();
        long high = in.getLong();
        in.getInt();
        long low = in.getLong();
        in.getInt();
        long input = in.getLong();
        in.getInt();
        int ordinal = in.getInt();
        in.getInt();
        Stance stance = STANCES[in.getShort()];
        in.getInt();
        boolean bound = in.get() != 0;
        index.put(high, low, input, ordinal, stance, bound);
    }

    int nextOrdinal(long routeId) {
        return jdbc.sql("select coalesce(max(ordinal), 0) + 1 from route_record where route_id = ?")
                .param(routeId)
                .query(Integer.class)
                .single();
    }

    long boundCount(long routeId) {
        return jdbc.sql("select count(*) from route_record where route_id = ? and record_id is not null")
                .param(routeId)
                .query(Long.class)
                .single();
    }

    /** Writes down records the route meets for the first time; they are bound to nothing yet. */
    void addNew(long routeId, Collection<Candidate> candidates, Map<Integer, String> labels) {
        CopyText copy = new CopyText();
        for (Candidate candidate : candidates) {
            copy.number(routeId)
                    .number(candidate.ordinal())
                    .number(candidate.keyHigh())
                    .number(candidate.keyLow())
                    .text(candidate.key())
                    .text(labels.getOrDefault(candidate.ordinal(), ""))
                    .number(0)
                    .number(0)
                    .endRow();
        }
        copy.load(
                template,
                "route_record (route_id, ordinal, key_high, key_low, source_key, label, input_fingerprint,"
                        + " sent_fingerprint)");
    }

    Optional<Integer> ordinal(long routeId, long keyHigh, long keyLow) {
        return jdbc.sql("select ordinal from route_record where route_id = ? and key_high = ? and key_low = ?")
                .params(routeId, keyHigh, keyLow)
                .query(Integer.class)
                .optional();
    }

    /** What is known of some records, by ordinal. */
    Map<Integer, Bound> bound(BoundRoute route, Collection<Integer> ordinals) {
        Map<Integer, Bound> found = new HashMap<>();
        if (ordinals.isEmpty()) {
            return found;
        }
        jdbc.sql("""
                        select r.ordinal, r.source_key, r.label, r.sent_fingerprint, r.stance_reason,
                               coalesce(d.remote_id, '') as remote_id, coalesce(d.fields, '{}') as fields,
                               coalesce((select min(o.name) from claim c join route o on o.id = c.route_id
                                 where c.record_id = r.record_id and c.route_id <> r.route_id), '') as other_route
                        from route_record r left join destination_record d on d.id = r.record_id
                        where r.route_id = ? and r.ordinal = any (?)
                        """).params(route.routeId(), ordinals.toArray(Integer[]::new)).query(row -> {
            Map<String, Value> known = new HashMap<>();
            Map<String, Value> undone = new HashMap<>();
            json.tree(row.getString("fields")).properties().forEach(entry -> {
                ObjectDescription object = route.described().description();
                JsonNode field = entry.getValue();
                known.put(entry.getKey(), fields.read(field.get(0), entry.getKey(), object));
                if (field.size() > 4 && field.get(5).asLong() == route.ruleHash(entry.getKey())) {
                    undone.put(entry.getKey(), fields.read(field.get(4), entry.getKey(), object));
                }
            });
            found.put(
                    row.getInt("ordinal"),
                    new Bound(
                            row.getString("source_key"),
                            row.getString("label"),
                            row.getString("remote_id"),
                            row.getLong("sent_fingerprint"),
                            row.getString("stance_reason"),
                            row.getString("other_route"),
                            known,
                            undone));
        });
        return found;
    }

    /** Which source record of the route each of some records there belongs to. */
    Map<String, String> claims(BoundRoute route, Collection<String> remoteIds) {
        Map<String, String> claims = new HashMap<>();
        if (!remoteIds.isEmpty()) {
            jdbc.sql("""
                            select d.remote_id, r.source_key from destination_record d
                            join claim c on c.record_id = d.id and c.route_id = ?
                            join route_record r on r.route_id = c.route_id and r.ordinal = c.ordinal
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
    record Remembered(int ordinal, long input, long sent, Stance stance, String reason) {}

    /** Remembers what inputs lead to, so that they are not shaped again. */
    void remember(long routeId, Collection<Remembered> records) {
        if (!records.isEmpty()) {
            jdbc.sql("""
                            update route_record r
                            set input_fingerprint = got.input, sent_fingerprint = got.sent, stance = got.stance,
                              stance_reason = got.reason
                            from unnest(?::int[], ?::bigint[], ?::bigint[], ?::int[], ?::text[])
                              as got (ordinal, input, sent, stance, reason)
                            where r.route_id = ? and r.ordinal = got.ordinal
                            """)
                    .params(
                            records.stream().map(Remembered::ordinal).toArray(Integer[]::new),
                            records.stream().map(Remembered::input).toArray(Long[]::new),
                            records.stream().map(Remembered::sent).toArray(Long[]::new),
                            records.stream().map(one -> one.stance().ordinal()).toArray(Integer[]::new),
                            records.stream().map(Remembered::reason).toArray(String[]::new),
                            routeId)
                    .update();
        }
    }

    /** What leaving asks for was done, or there was nothing to do. */
    void gone(long routeId, Collection<Integer> ordinals) {
        remember(
                routeId,
                ordinals.stream()
                        .map(ordinal -> new Remembered(ordinal, 0, 0, Stance.GONE, "Left the dataset"))
                        .toList());
    }

    /** Lets go of records that are no longer there. */
    void unbind(BoundRoute route, Collection<Integer> ordinals) {
        if (ordinals.isEmpty()) {
            return;
        }
        jdbc.sql("""
                        with freed as (
                          select record_id from route_record
                          where route_id = :route and ordinal = any (:ordinals) and record_id is not null
                        ), unbound as (
                          update route_record set record_id = null, sent_fingerprint = 0, input_fingerprint = 0
                          where route_id = :route and ordinal = any (:ordinals)
                        ), unclaimed as (
                          delete from claim c using freed f where c.record_id = f.record_id and c.route_id = :route
                        )
                        delete from destination_record d using freed f
                        where d.id = f.record_id
                          and not exists (select 1 from claim c where c.record_id = d.id and c.route_id <> :route)
                        """)
                .param("route", route.routeId())
                .param("ordinals", ordinals.toArray(Integer[]::new))
                .update();
    }

    /** Binds a record to one found there with the very values it would have received. */
    void adopt(BoundRoute route, long runId, int ordinal, Standing.There there, Map<String, Value> values) {
        String object = route.described().description().name();
        jdbc.sql("""
                        with wide as (
                          insert into destination_record (destination_id, object, remote_id, fields, revision)
                          values (:destination, :object, :remote, :fields::jsonb, 1)
                          on conflict (destination_id, object, remote_id) do update
                          set fields = destination_record.fields || excluded.fields
                          returning id
                        ), claimed as (
                          insert into claim (record_id, route_id, ordinal) select id, :route, :ordinal from wide
                          on conflict do nothing
                        )
                        update route_record set record_id = wide.id from wide where route_id = :route and ordinal = :ordinal
                        """)
                .param("destination", route.destinationId())
                .param("object", object)
                .param("remote", there.remoteId())
                .param("fields", known(route.routeId(), runId, 0, values))
                .param("route", route.routeId())
                .param("ordinal", ordinal)
                .update();
    }

    /** The wide form: each value with the route, run and line that wrote it. */
    String known(long routeId, long runId, int line, Map<String, Value> values) {
        var node = json.mapper().createObjectNode();
        values.forEach((field, value) ->
                fields.add(node.putArray(field), value).add(routeId).add(runId).add(line));
        return node.toString();
    }

    /** The wide form after an undo: also the value that was taken back, and the rule that gave it. */
    String undone(BoundRoute route, long runId, Line line) {
        var node = json.mapper().createObjectNode();
        for (FieldDecision field : line.fields()) {
            if (field.outcome() == FieldOutcome.WRITTEN) {
                var entry = fields.add(node.putArray(field.field()), field.fresh())
                        .add(route.routeId())
                        .add(runId)
                        .add(line.number());
                fields.add(entry, field.old()).add(route.ruleHash(field.field()));
            }
        }
        return node.toString();
    }
}

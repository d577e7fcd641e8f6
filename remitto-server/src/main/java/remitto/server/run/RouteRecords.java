package remitto.server.run;

import java.nio.ByteBuffer;
import java.util.Collection;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import org.postgresql.PGConnection;
import org.postgresql.copy.CopyOut;
import org.springframework.jdbc.core.JdbcTemplate;
import org.springframework.jdbc.core.simple.JdbcClient;
import org.springframework.stereotype.Component;
import remitto.core.known.KnownIndex;
import remitto.core.manifest.Standing;
import remitto.core.value.Value;
import remitto.server.platform.Json;
import remitto.server.route.BoundRoute;

/** Known state: what each route knows of its records, and what each destination acknowledged. */
@Component
class RouteRecords {
    private static final int COPY_HEADER = 19;

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
     */
    record Bound(String remoteId, long sentFingerprint, String refusal, Map<String, Value> known) {}

    /** Loads the narrow part of a route's known state. */
    KnownIndex load(long routeId) {
        long count = jdbc.sql("select count(*) from route_record where route_id = ?")
                .param(routeId)
                .query(Long.class)
                .single();
        KnownIndex index = new KnownIndex(Math.toIntExact(count));
        // A copy out takes no parameters; the id is a number of ours.
        String sql = "copy (select key_high, key_low, input_fingerprint, ordinal, refused, record_id is not null"
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
        boolean refused = in.get() != 0;
        in.getInt();
        boolean bound = in.get() != 0;
        index.put(high, low, input, ordinal, refused, bound);
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
                    .truth(false)
                    .text("")
                    .endRow();
        }
        copy.load(
                template,
                "route_record (route_id, ordinal, key_high, key_low, source_key, label, input_fingerprint,"
                        + " sent_fingerprint, refused, refusal)");
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
                        select r.ordinal, r.sent_fingerprint, r.refusal, coalesce(d.remote_id, '') as remote_id,
                               coalesce(d.fields, '{}') as fields
                        from route_record r left join destination_record d on d.id = r.record_id
                        where r.route_id = ? and r.ordinal = any (?)
                        """).params(route.routeId(), ordinals.toArray(Integer[]::new)).query(row -> {
            Map<String, Value> known = new HashMap<>();
            json.tree(row.getString("fields"))
                    .properties()
                    .forEach(entry -> known.put(
                            entry.getKey(),
                            fields.read(
                                    entry.getValue().get("v"),
                                    entry.getKey(),
                                    route.described().description())));
            found.put(
                    row.getInt("ordinal"),
                    new Bound(
                            row.getString("remote_id"),
                            row.getLong("sent_fingerprint"),
                            row.getString("refusal"),
                            known));
        });
        return found;
    }

    /** Which source record of the route each of some records there belongs to. */
    Map<String, String> claims(BoundRoute route, Collection<String> remoteIds) {
        Map<String, String> claims = new HashMap<>();
        if (!remoteIds.isEmpty()) {
            jdbc.sql("""
                            select d.remote_id, r.source_key from destination_record d
                            join route_record r on r.record_id = d.id and r.route_id = ?
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

    /** Remembers that these inputs lead to what was sent already, so that they are not shaped again. */
    void unchanged(long routeId, List<Integer> ordinals, List<Long> inputs, List<Long> sent) {
        if (!ordinals.isEmpty()) {
            jdbc.sql("""
                            update route_record r
                            set input_fingerprint = got.input, sent_fingerprint = got.sent, refused = false, refusal = ''
                            from unnest(?::int[], ?::bigint[], ?::bigint[]) as got (ordinal, input, sent)
                            where r.route_id = ? and r.ordinal = got.ordinal
                            """)
                    .params(
                            ordinals.toArray(Integer[]::new),
                            inputs.toArray(Long[]::new),
                            sent.toArray(Long[]::new),
                            routeId)
                    .update();
        }
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
                          returning id)
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
        values.forEach((field, value) -> {
            var entry = node.putObject(field);
            fields.put(entry, "v", value);
            entry.put("route", routeId).put("run", runId).put("line", line);
        });
        return node.toString();
    }
}

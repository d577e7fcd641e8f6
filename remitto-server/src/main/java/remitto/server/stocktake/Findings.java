package remitto.server.stocktake;

import java.util.ArrayList;
import java.util.HashMap;
import java.util.HashSet;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import org.springframework.jdbc.core.simple.JdbcClient;
import org.springframework.stereotype.Component;
import remitto.core.value.JsonForm;
import remitto.core.value.Value;
import remitto.server.platform.Json;
import tools.jackson.databind.JsonNode;

/** Compares with what is known, in the database, and writes down what differs. */
@Component
class Findings {
    private final JdbcClient jdbc;
    private final Json json;

    Findings(JdbcClient jdbc, Json json) {
        this.jdbc = jdbc;
        this.json = json;
    }

    /**
     * What is known of a record there.
     *
     * @param fields each as [value, route, run, line]
     * @param routeId 0 when no route keeps it
     */
    record Known(String remoteId, Map<String, KnownValue> fields, long routeId, String key, String label) {}

    /** @param routeId of the route that wrote it */
    record KnownValue(Value value, long routeId) {}

    record Found(
            FindingKind kind,
            String remoteId,
            String field,
            Value known,
            Value there,
            Optional<Long> routeId,
            String key,
            String label) {}

    /** Notes ids as met; those that were not met before, since a list may show a record twice. */
    List<String> meet(long stocktakeId, List<String> ids) {
        return jdbc.sql("""
                        insert into stocktake_seen (stocktake_id, remote_id) select ?, * from unnest(?::text[])
                        on conflict do nothing returning remote_id
                        """)
                .params(stocktakeId, ids.toArray(String[]::new))
                .query(String.class)
                .list();
    }

    /** Those of some records that a run has just written, and that are not taken into the known state yet. */
    Set<String> justWritten(long destinationId, String object, List<String> ids) {
        return new HashSet<>(jdbc.sql("""
                        select remote from open_call c join run n on n.id = c.run_id join route t on t.id = n.route_id,
                          unnest(c.remotes) as remote
                        where c.answered_at is not null and t.destination_id = ? and t.object = ? and remote = any (?)
                        """)
                .params(destinationId, object, ids.toArray(String[]::new))
                .query(String.class)
                .list());
    }

    List<Known> known(long destinationId, String object, List<String> ids) {
        return jdbc.sql("""
                        select d.remote_id, d.fields, d.writers, d.route_id as writer, coalesce(c.route_id, 0) as route_id,
                          coalesce(r.source_key, '') as source_key, coalesce(r.label, '') as label
                        from destination_record d
                        left join lateral (
                          select route_id, ordinal from record_state where record_id = d.id order by route_id limit 1) c on true
                        left join route_record r on r.route_id = c.route_id and r.ordinal = c.ordinal
                        where d.destination_id = ? and d.object = ? and d.remote_id = any (?)
                        """)
                .params(destinationId, object, ids.toArray(String[]::new))
                .query((row, number) -> new Known(
                        row.getString("remote_id"),
                        fields(row.getString("fields"), row.getString("writers"), row.getLong("writer")),
                        row.getLong("route_id"),
                        row.getString("source_key"),
                        row.getString("label")))
                .list();
    }

    private Map<String, KnownValue> fields(String text, String writerText, long maker) {
        JsonNode writers = json.tree(writerText);
        Map<String, KnownValue> fields = new HashMap<>();
        json.tree(text).properties().forEach(entry -> {
            JsonNode value = entry.getValue();
            JsonNode writer = writers.path(entry.getKey());
            fields.put(
                    entry.getKey(),
                    new KnownValue(
                            JsonForm.read(
                                    value.isNull()
                                            ? Optional.empty()
                                            : Optional.of(json.mapper().treeToValue(value, Object.class))),
                            writer.isArray() ? writer.get(0).asLong() : maker));
        });
        return fields;
    }

    void add(long stocktakeId, int from, List<Found> found) {
        if (found.isEmpty()) {
            return;
        }
        List<Integer> numbers = new ArrayList<>();
        for (int i = 0; i < found.size(); i++) {
            numbers.add(from + i + 1);
        }
        jdbc.sql("""
                        insert into stocktake_finding
                          (stocktake_id, number, kind, remote_id, field, known, there, route_id, source_key, label)
                        select :id, number, kind, remote, field, known::jsonb, there::jsonb, nullif(route, 0), key, label
                        from unnest(:numbers::int[], :kinds::text[], :remotes::text[], :fields::text[], :known::text[],
                          :there::text[], :routes::bigint[], :keys::text[], :labels::text[])
                          as got (number, kind, remote, field, known, there, route, key, label)
                        """)
                .param("id", stocktakeId)
                .param("numbers", numbers.toArray(Integer[]::new))
                .param("kinds", found.stream().map(one -> one.kind().name()).toArray(String[]::new))
                .param("remotes", found.stream().map(Found::remoteId).toArray(String[]::new))
                .param("fields", found.stream().map(Found::field).toArray(String[]::new))
                .param("known", found.stream().map(one -> text(one.known())).toArray(String[]::new))
                .param("there", found.stream().map(one -> text(one.there())).toArray(String[]::new))
                .param(
                        "routes",
                        found.stream().map(one -> one.routeId().orElse(0L)).toArray(Long[]::new))
                .param("keys", found.stream().map(Found::key).toArray(String[]::new))
                .param("labels", found.stream().map(Found::label).toArray(String[]::new))
                .update();
    }

    private String text(Value value) {
        return JsonForm.write(value).map(json::write).orElse("null");
    }

    /** @param values by field; records that share one are doubles */
    void alike(long stocktakeId, String remoteId, Map<String, String> values) {
        values.forEach((field, value) -> jdbc.sql(
                        "insert into stocktake_alike (stocktake_id, field, value, remote_id) values (?, ?, ?, ?)")
                .params(stocktakeId, field, value, remoteId)
                .update());
    }

    /** Writes down what only the whole shows: records that are gone, and doubles. */
    void afterwards(long stocktakeId, long destinationId, String object) {
        jdbc.sql("""
                        insert into stocktake_finding (stocktake_id, number, kind, remote_id, field, route_id, source_key, label)
                        select :id, :base + row_number() over (order by d.id), 'DELETED', d.remote_id, '', c.route_id,
                          r.source_key, r.label
                        from destination_record d
                        join lateral (
                          select route_id, ordinal from record_state where record_id = d.id order by route_id limit 1) c on true
                        join route_record r on r.route_id = c.route_id and r.ordinal = c.ordinal
                        where d.destination_id = :destination and d.object = :object and not exists (
                          select 1 from stocktake_seen s where s.stocktake_id = :id and s.remote_id = d.remote_id)
                        """)
                .param("id", stocktakeId)
                .param("base", next(stocktakeId))
                .param("destination", destinationId)
                .param("object", object)
                .update();
        jdbc.sql("""
                        insert into stocktake_finding (stocktake_id, number, kind, remote_id, field, there, source_key, label)
                        select :id, :base + row_number() over (order by a.field, a.value, a.remote_id), 'DOUBLE', a.remote_id,
                          a.field, to_jsonb(a.value), '', ''
                        from stocktake_alike a
                        join (select field, value from stocktake_alike where stocktake_id = :id
                              group by field, value having count(*) > 1) as shared
                          on shared.field = a.field and shared.value = a.value
                        where a.stocktake_id = :id
                        """).param("id", stocktakeId).param("base", next(stocktakeId)).update();
    }

    /** What an earlier stocktake found, nobody settled, and no change has touched since still stands. */
    void carryOver(long stocktakeId, long baseId) {
        jdbc.sql("""
                        insert into stocktake_finding
                          (stocktake_id, number, kind, remote_id, field, known, there, route_id, source_key, label)
                        select :id, :base + row_number() over (order by f.number), f.kind, f.remote_id, f.field, f.known,
                          f.there, f.route_id, f.source_key, f.label
                        from stocktake_finding f where f.stocktake_id = :earlier and f.settled = '' and not exists (
                          select 1 from stocktake_seen s where s.stocktake_id = :id and s.remote_id = f.remote_id)
                        """)
                .param("id", stocktakeId)
                .param("base", next(stocktakeId))
                .param("earlier", baseId)
                .update();
    }

    private int next(long stocktakeId) {
        return jdbc.sql("select coalesce(max(number), 0) from stocktake_finding where stocktake_id = ?")
                .param(stocktakeId)
                .query(Integer.class)
                .single();
    }

    long knownRecords(long destinationId, String object) {
        return jdbc.sql("""
                        select count(*) from destination_record d where d.destination_id = ? and d.object = ?
                          and exists (select 1 from record_state c where c.record_id = d.id)
                        """).params(destinationId, object).query(Long.class).single();
    }
}

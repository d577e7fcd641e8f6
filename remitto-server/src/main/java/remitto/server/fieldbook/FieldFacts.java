package remitto.server.fieldbook;

import java.time.Instant;
import java.util.ArrayList;
import java.util.Collection;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import org.springframework.jdbc.core.simple.JdbcClient;
import org.springframework.stereotype.Component;
import remitto.server.platform.Json;
import remitto.server.platform.Rows;
import tools.jackson.databind.JsonNode;

/** What runs, known state and stocktakes tell about the fields of an object. */
@Component
class FieldFacts {
    private static final int LOOKED_AT = 200_000;
    private static final int RUNS = 10;

    private final JdbcClient jdbc;
    private final Json json;

    FieldFacts(JdbcClient jdbc, Json json) {
        this.jdbc = jdbc;
        this.json = json;
    }

    record Known(long filled, long distinct) {}

    /** By field; of a large object a part is looked at. */
    Map<String, Known> known(long destinationId, String object) {
        Map<String, Known> known = new HashMap<>();
        jdbc.sql("""
                        select f.key, count(*) filter (where f.value <> 'null' and f.value <> '""') as filled,
                          count(distinct f.value) filter (where f.value <> 'null' and f.value <> '""') as differing
                        from (select fields from destination_record where destination_id = ? and object = ? limit ?) as d,
                          jsonb_each(d.fields) as f group by f.key
                        """).params(destinationId, object, LOOKED_AT).query(row -> {
            known.put(row.getString("key"), new Known(row.getLong("filled"), row.getLong("differing")));
        });
        return known;
    }

    long knownRecords(long destinationId, String object) {
        return jdbc.sql("select count(*) from destination_record where destination_id = ? and object = ?")
                .params(destinationId, object)
                .query(Long.class)
                .single();
    }

    record Written(Instant last, long times, long read) {}

    /** By field, when routes last wrote it, and how often in their last runs. */
    Map<String, Written> written(Collection<Long> routes) {
        Map<String, Written> written = new HashMap<>();
        jdbc.sql("""
                        with latest as (
                          select id, route_id, sent_at, read_count, field_counts,
                            row_number() over (partition by route_id order by id desc) as place
                          from run where route_id = any (?) and prepared_at is not null and trigger in ('HAND', 'TIMETABLE')
                            and state in ('SENT', 'SUSPENDED')
                        )
                        select f.key, max(l.sent_at) filter (where (f.value ->> 'written')::bigint > 0) as last,
                          sum((f.value ->> 'written')::bigint) filter (where l.place <= ?) as times,
                          (select sum(r.read_count) from latest r where r.place <= ?) as read
                        from latest l, jsonb_each(l.field_counts) as f group by f.key
                        """).params(routes.toArray(Long[]::new), RUNS, RUNS).query(row -> {
            Optional<Instant> last = Rows.optionalTime(row, "last");
            if (last.isPresent()) {
                written.put(row.getString("key"), new Written(last.get(), row.getLong("times"), row.getLong("read")));
            }
        });
        return written;
    }

    /** @param writers by client: whether it is us, and per field how many values and the newest */
    record Counted(Instant at, long there, Map<String, Long> fill, List<Client> writers) {}

    record Client(String name, boolean us, Map<String, FieldBook.BookWriter> fields) {}

    /** The last stocktake that read every record of the object. */
    Optional<Counted> counted(long destinationId, String object) {
        return jdbc.sql("""
                        select finished_at, there, fill, writers from stocktake
                        where destination_id = ? and object = ? and state = 'DONE' and since is null
                        order by id desc limit 1
                        """)
                .params(destinationId, object)
                .query((row, at) -> new Counted(
                        Rows.time(row, "finished_at"),
                        row.getLong("there"),
                        fill(json.tree(row.getString("fill"))),
                        clients(json.tree(row.getString("writers")))))
                .optional();
    }

    private static Map<String, Long> fill(JsonNode tree) {
        Map<String, Long> fill = new HashMap<>();
        tree.properties()
                .forEach(entry -> fill.put(entry.getKey(), entry.getValue().asLong()));
        return fill;
    }

    private static List<Client> clients(JsonNode tree) {
        List<Client> clients = new ArrayList<>();
        tree.properties().forEach(entry -> {
            Map<String, FieldBook.BookWriter> fields = new HashMap<>();
            entry.getValue()
                    .get("fields")
                    .properties()
                    .forEach(field -> fields.put(
                            field.getKey(),
                            new FieldBook.BookWriter(
                                    entry.getKey(),
                                    field.getValue().get("values").asLong(),
                                    Instant.parse(field.getValue().get("newest").asString()))));
            clients.add(new Client(entry.getKey(), entry.getValue().get("us").asBoolean(), fields));
        });
        return clients;
    }
}

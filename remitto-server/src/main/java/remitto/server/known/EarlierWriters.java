package remitto.server.known;

import java.time.Instant;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Set;
import org.springframework.jdbc.core.simple.JdbcClient;
import org.springframework.stereotype.Component;
import remitto.core.manifest.MatchResult;
import remitto.server.platform.Json;
import remitto.server.platform.Rows;
import remitto.server.route.BoundRoute;
import tools.jackson.databind.JsonNode;

/** Which fields of records there hold what a route wrote that comes first in the field's order. */
@Component
public class EarlierWriters {
    private final JdbcClient jdbc;
    private final Json json;

    EarlierWriters(JdbcClient jdbc, Json json) {
        this.jdbc = jdbc;
        this.json = json;
    }

    /** The same match results, with the fields that are left to earlier routes; asks only where there is an order. */
    List<MatchResult> added(BoundRoute route, List<MatchResult> matchResults) {
        if (route.before().isEmpty()) {
            return matchResults;
        }
        List<String> ids = matchResults.stream()
                .filter(MatchResult.Matched.class::isInstance)
                .map(one -> ((MatchResult.Matched) one).remoteId())
                .toList();
        Map<String, Map<String, String>> earlier = earlier(route, ids);
        List<MatchResult> all = new ArrayList<>();
        for (MatchResult one : matchResults) {
            all.add(
                    one instanceof MatchResult.Matched there
                            ? there.leftTo(earlier.getOrDefault(there.remoteId(), Map.of()))
                            : one);
        }
        return all;
    }

    /**
     * Records that were left to an earlier route, where one that comes first no longer holds a value of the fields in
     * order: they are to be looked at again whatever their rows are like.
     */
    public void letGo(BoundRoute route, Instant now) {
        if (route.before().isEmpty()) {
            return;
        }
        Map<String, Set<Long>> earlier = new HashMap<>();
        route.before().forEach((field, routes) -> earlier.put(field, routes.keySet()));
        jdbc.sql("""
                        update record_state s set recheck_at = :now, sent_fingerprint = 0
                        from destination_record d
                        where s.route_id = :route and s.recheck_at = 'infinity' and d.id = s.record_id
                          and exists (
                            select 1 from jsonb_each(:earlier::jsonb) as orders (field, routes)
                            where jsonb_typeof(coalesce(d.fields -> field, 'null')) = 'null'
                              or not routes @> case
                                when jsonb_array_length(d.writers -> field) > 3 then '0'
                                else coalesce(d.writers -> field -> 0, to_jsonb(d.route_id)) end)
                        """)
                .param("now", Rows.time(now))
                .param("route", route.routeId())
                .param("earlier", json.write(earlier))
                .update();
    }

    MatchResult.Matched added(BoundRoute route, MatchResult.Matched there) {
        return (MatchResult.Matched) added(route, List.of((MatchResult) there)).get(0);
    }

    /** By the record's id there and by field, the name of the route. */
    private Map<String, Map<String, String>> earlier(BoundRoute route, List<String> ids) {
        Map<String, Map<String, String>> found = new HashMap<>();
        if (ids.isEmpty()) {
            return found;
        }
        jdbc.sql("""
                        select remote_id, fields, writers, route_id from destination_record
                        where destination_id = ? and object = ? and remote_id = any (?)
                        """)
                .params(route.destinationId(), route.described().description().name(), ids.toArray(String[]::new))
                .query(row -> {
                    JsonNode fields = json.tree(row.getString("fields"));
                    JsonNode writers = json.tree(row.getString("writers"));
                    long whole = row.getLong("route_id");
                    Map<String, String> names = new HashMap<>();
                    route.before().forEach((field, routes) -> {
                        String name = routes.getOrDefault(writer(writers.path(field), whole), "");
                        boolean holds = fields.has(field) && !fields.get(field).isNull();
                        if (holds && !name.isEmpty()) {
                            names.put(field, name);
                        }
                    });
                    found.put(row.getString("remote_id"), names);
                });
        return found;
    }

    /** A value that was taken back is nobody's. */
    private static long writer(JsonNode writer, long whole) {
        if (!writer.isArray()) {
            return whole;
        }
        return writer.size() > 3 ? 0 : writer.get(0).asLong();
    }
}

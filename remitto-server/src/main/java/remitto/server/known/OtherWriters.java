package remitto.server.known;

import java.time.Instant;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import org.springframework.jdbc.core.simple.JdbcClient;
import org.springframework.stereotype.Component;
import remitto.core.fieldrule.FieldRule;
import remitto.core.manifest.MatchResult;
import remitto.core.value.Value;
import remitto.server.manifest.LineFields;
import remitto.server.platform.Json;
import remitto.server.platform.Rows;
import remitto.server.route.BoundRoute;
import tools.jackson.databind.JsonNode;

/** Which fields of records there hold what another route wrote, and which of those comes first in the field's order. */
@Component
public class OtherWriters {
    private final JdbcClient jdbc;
    private final Json json;
    private final LineFields lines;

    OtherWriters(JdbcClient jdbc, Json json) {
        this.jdbc = jdbc;
        this.json = json;
        this.lines = new LineFields(json);
    }

    /** The same match results, with what other routes wrote; asks only where there are others. */
    List<MatchResult> added(BoundRoute route, List<MatchResult> matchResults) {
        if (route.otherRoutes().isEmpty()) {
            return matchResults;
        }
        String[] ids = matchResults.stream()
                .filter(MatchResult.Matched.class::isInstance)
                .map(one -> ((MatchResult.Matched) one).remoteId())
                .toArray(String[]::new);
        Map<String, Written> written = written(route, ids);
        return matchResults.stream()
                .map(one -> one instanceof MatchResult.Matched there ? added(route, there, written) : one)
                .toList();
    }

    /** The same by ordinal. */
    Map<Integer, MatchResult.Matched> added(BoundRoute route, Map<Integer, MatchResult.Matched> matched) {
        if (route.otherRoutes().isEmpty()) {
            return matched;
        }
        Map<String, Written> written = written(
                route,
                matched.values().stream().map(MatchResult.Matched::remoteId).toArray(String[]::new));
        Map<Integer, MatchResult.Matched> all = new HashMap<>();
        matched.forEach((ordinal, there) -> all.put(ordinal, added(route, there, written)));
        return all;
    }

    private MatchResult.Matched added(BoundRoute route, MatchResult.Matched there, Map<String, Written> written) {
        if (!written.containsKey(there.remoteId())) {
            return there;
        }
        Written known = written.get(there.remoteId());
        Map<String, String> leftTo = new HashMap<>();
        Map<String, String> writtenBy = new HashMap<>();
        for (FieldRule rule : route.route().spec().rules()) {
            String field = rule.field();
            long writer = writer(known.writers().path(field), known.whole());
            if (known.fields().hasNonNull(field) && route.otherRoutes().containsKey(writer)) {
                Optional.ofNullable(route.before().getOrDefault(field, Map.of()).get(writer))
                        .ifPresent(name -> leftTo.put(field, name));
                Value value = lines.read(
                        known.fields().get(field), field, route.described().description());
                if (value.equals(there.live(field))) {
                    writtenBy.put(field, route.otherRoutes().get(writer));
                }
            }
        }
        return there.leftTo(leftTo).writtenBy(writtenBy);
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

    /** @param whole the route that wrote the fields that have no writer of their own */
    private record Written(JsonNode fields, JsonNode writers, long whole) {}

    /** By the record's id there; only records in which another route may have written. */
    private Map<String, Written> written(BoundRoute route, String[] ids) {
        Map<String, Written> found = new HashMap<>();
        if (ids.length == 0) {
            return found;
        }
        jdbc.sql("""
                        select remote_id, fields, writers, route_id from destination_record
                        where destination_id = ? and object = ? and remote_id = any (?)
                          and (route_id <> ? or writers <> '{}')
                        """)
                .params(route.destinationId(), route.described().description().name(), ids, route.routeId())
                .query(row -> {
                    found.put(
                            row.getString("remote_id"),
                            new Written(
                                    json.tree(row.getString("fields")),
                                    json.tree(row.getString("writers")),
                                    row.getLong("route_id")));
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

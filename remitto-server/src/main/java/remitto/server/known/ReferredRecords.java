package remitto.server.known;

import java.util.ArrayList;
import java.util.Collection;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Set;
import org.springframework.jdbc.core.simple.JdbcClient;
import org.springframework.stereotype.Component;
import org.springframework.transaction.annotation.Transactional;
import remitto.core.known.Fingerprint;
import remitto.core.known.KnownIndex;
import remitto.core.known.RecordState;
import remitto.core.route.LookUps;
import remitto.core.value.Value;

/** Finds the records of other routes that rules refer to: bound, or waiting with the reason. */
@Component
public class ReferredRecords {
    private static final int FETCH = 5_000;

    private final JdbcClient jdbc;

    ReferredRecords(JdbcClient jdbc) {
        this.jdbc = jdbc;
    }

    /** @param found added to */
    public void find(Collection<LookUps.Wanted.RecordOfRoute> wanted, Map<LookUps.Wanted, LookUps.Found> found) {
        Map<Long, List<String>> byRoute = new HashMap<>();
        wanted.forEach(one ->
                byRoute.computeIfAbsent(one.route(), route -> new ArrayList<>()).add(one.key()));
        byRoute.forEach((route, keys) -> ofRoute(route, keys, found));
    }

    /** What tells the id of each bound record of some routes from another; 128 bits of key, 64 of id. */
    @Transactional(readOnly = true)
    public Map<Long, KnownIndex> everyId(Set<Long> routes) {
        Map<Long, KnownIndex> indexes = new HashMap<>();
        Fingerprint fingerprint = new Fingerprint();
        for (long route : routes) {
            KnownIndex index = new KnownIndex(1);
            jdbc.sql("""
                            select r.key_high, r.key_low, r.ordinal, d.remote_id
                            from route_record r
                            join record_state s on s.route_id = r.route_id and s.ordinal = r.ordinal
                            join destination_record d on d.id = s.record_id
                            where r.route_id = ?
                            """).param(route).withFetchSize(FETCH).query(row -> {
                index.put(
                        row.getLong("key_high"),
                        row.getLong("key_low"),
                        fingerprint.of(List.of(row.getString("remote_id"))),
                        row.getInt("ordinal"),
                        RecordState.NONE,
                        true);
            });
            indexes.put(route, index);
        }
        return indexes;
    }

    private void ofRoute(long route, List<String> keys, Map<LookUps.Wanted, LookUps.Found> found) {
        Fingerprint fingerprint = new Fingerprint();
        Long[] high = new Long[keys.size()];
        Long[] low = new Long[keys.size()];
        for (int i = 0; i < keys.size(); i++) {
            long[] hash = fingerprint.key(keys.get(i));
            high[i] = hash[0];
            low[i] = hash[1];
        }
        jdbc.sql("""
                        select r.source_key, coalesce(d.remote_id, '') as remote_id, o.name,
                          coalesce((select min(h.reason) from held h
                            where h.route_id = r.route_id and h.source_key = r.source_key), '') as reason
                        from unnest(:high::bigint[], :low::bigint[]) as k (high, low)
                        join route_record r on r.route_id = :route and r.key_high = k.high and r.key_low = k.low
                        join route o on o.id = r.route_id
                        left join record_state s on s.route_id = r.route_id and s.ordinal = r.ordinal
                        left join destination_record d on d.id = s.record_id
                        """)
                .param("high", high)
                .param("low", low)
                .param("route", route)
                .query(row -> {
                    String key = row.getString("source_key");
                    String id = row.getString("remote_id");
                    found.put(
                            new LookUps.Wanted.RecordOfRoute(route, key),
                            id.isEmpty()
                                    ? new LookUps.Found.Waits(
                                            waits(key, row.getString("name"), row.getString("reason")))
                                    : new LookUps.Found.Values(List.of(Value.text(id))));
                });
    }

    private static String waits(String key, String route, String reason) {
        return key + " of the route " + route + (reason.isEmpty() ? " was not sent yet" : " is held: " + reason);
    }
}

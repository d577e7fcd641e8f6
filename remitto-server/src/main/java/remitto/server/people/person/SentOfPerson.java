package remitto.server.people.person;

import java.util.ArrayList;
import java.util.List;
import org.springframework.jdbc.core.simple.JdbcClient;
import org.springframework.stereotype.Component;
import remitto.core.known.Fingerprint;
import remitto.server.platform.Personal;

/** What routes keep at destinations of a person, or of one of its records. */
@Component
class SentOfPerson {
    private final JdbcClient jdbc;
    private final PersonKeys keys;

    SentOfPerson(JdbcClient jdbc, PersonKeys keys) {
        this.jdbc = jdbc;
        this.keys = keys;
    }

    /**
     * The route and record that a person was sent as.
     *
     * @param key of the row that was sent, in the route's dataset
     * @param runId that wrote it last
     */
    record SentAs(
            long routeId,
            String route,
            long destinationId,
            String destination,
            String object,
            String remoteId,
            @Personal(Personal.Part.KEY) String key,
            long runId) {}

    List<SentAs> of(long person) {
        Fingerprint fingerprint = new Fingerprint();
        List<SentAs> sent = new ArrayList<>();
        keys.of(person)
                .forEach((dataset, its) -> its.forEach(key -> {
                    long[] hash = fingerprint.key(key);
                    sent.addAll(jdbc.sql("""
                            select r.id, r.name, t.id as destination_id, t.name as destination, w.object, w.remote_id,
                                   e.source_key, w.run_id
                            from route r
                            join route_record e on e.route_id = r.id and e.key_high = :high and e.key_low = :low
                            join record_state s on s.route_id = r.id and s.ordinal = e.ordinal
                            join destination_record w on w.id = s.record_id
                            join destination t on t.id = w.destination_id
                            where r.dataset_id = :dataset order by r.id
                            """)
                            .param("dataset", dataset)
                            .param("high", hash[0])
                            .param("low", hash[1])
                            .query((row, number) -> new SentAs(
                                    row.getLong("id"),
                                    row.getString("name"),
                                    row.getLong("destination_id"),
                                    row.getString("destination"),
                                    row.getString("object"),
                                    row.getString("remote_id"),
                                    row.getString("source_key"),
                                    row.getLong("run_id")))
                            .list());
                }));
        return sent;
    }
}

package remitto.server.people.person;

import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.TreeMap;
import org.springframework.jdbc.core.simple.JdbcClient;
import org.springframework.stereotype.Component;

/** By which keys a person stands in datasets: those of its records, and its own in datasets over people. */
@Component
public class PersonKeys {
    private final JdbcClient jdbc;

    PersonKeys(JdbcClient jdbc) {
        this.jdbc = jdbc;
    }

    /** By dataset. */
    public Map<Long, List<String>> of(long person) {
        Map<Long, List<String>> keys = new TreeMap<>();
        jdbc.sql("""
                        select dataset_id, key from identity_record where person_id = :id
                        union
                        select d.id, :id::text from dataset d join source s on s.id = d.source_id and s.kind = 'people'
                        union
                        select d.id, r.dataset_id || ':' || r.key from dataset d
                        join source s on s.id = d.source_id and s.kind = 'people'
                        join identity_record r on r.person_id = :id
                        union
                        select d.id, :id || '@' || left(a.hash, 16) from dataset d
                        join source s on s.id = d.source_id and s.kind = 'people'
                        join person_address a on a.person_id = :id
                        """).param("id", person).query(row -> {
            keys.computeIfAbsent(row.getLong(1), dataset -> new ArrayList<>()).add(row.getString(2));
        });
        return keys;
    }
}

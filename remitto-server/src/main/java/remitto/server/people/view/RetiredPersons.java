package remitto.server.people.view;

import java.util.Collection;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import org.springframework.jdbc.core.simple.JdbcClient;
import org.springframework.stereotype.Component;
import remitto.server.known.RetiredKeys;

/** Ids of persons and companies that were retired by matching. */
@Component
class RetiredPersons implements RetiredKeys {
    private final PeopleViews views;
    private final JdbcClient jdbc;

    RetiredPersons(PeopleViews views, JdbcClient jdbc) {
        this.views = views;
        this.jdbc = jdbc;
    }

    @Override
    public Map<String, String> became(long sourceId, Collection<String> keys) {
        if (!views.sourceId().equals(Optional.of(sourceId))) {
            return Map.of();
        }
        List<Long> ids = keys.stream()
                .filter(key -> key.matches("\\d{1,18}"))
                .map(Long::valueOf)
                .toList();
        Map<String, String> became = new HashMap<>();
        jdbc.sql("select id, into_id from retired_person where id = any(?)")
                .param(ids.toArray(Long[]::new))
                .query(row -> {
                    became.put(Long.toString(row.getLong("id")), Long.toString(row.getLong("into_id")));
                });
        return became;
    }
}

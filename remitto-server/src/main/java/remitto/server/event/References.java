package remitto.server.event;

import java.util.List;
import java.util.Map;
import java.util.TreeMap;
import java.util.TreeSet;
import org.springframework.jdbc.core.simple.JdbcClient;
import org.springframework.stereotype.Component;

/** Which measures and audiences speak of something in their definitions, by its name there. */
@Component
public class References {
    private static final String DEFINITIONS = """
            select 'measure ' || name as who, definition from measure
            union all
            select 'audience ' || a.name, v.definition from audience a
            join audience_version v on v.audience_id = a.id and v.number in (a.latest_version, a.live_version)
            """;

    private final JdbcClient jdbc;

    References(JdbcClient jdbc) {
        this.jdbc = jdbc;
    }

    /** @param key under which the name stands in a definition */
    public List<String> of(String key, String name) {
        return jdbc.sql("select distinct who from (" + DEFINITIONS + """
                        ) d where jsonb_path_exists(definition, ('$.**.' || :key || ' ? (@ == $name)')::jsonpath,
                          jsonb_build_object('name', :name::text)) order by 1
                        """)
                .param("key", key)
                .param("name", name)
                .query(String.class)
                .list();
    }

    /** By id. */
    public List<String> of(String key, long id) {
        return jdbc.sql("select distinct who from (" + DEFINITIONS + """
                        ) d where jsonb_path_exists(definition, ('$.**.' || :key || ' ? (@ == $id)')::jsonpath,
                          jsonb_build_object('id', :id::bigint)) order by 1
                        """)
                .param("key", key)
                .param("id", id)
                .query(String.class)
                .list();
    }

    /** By column of a set of events, who speaks of it. */
    Map<String, TreeSet<String>> ofColumns(String set) {
        Map<String, TreeSet<String>> users = new TreeMap<>();
        jdbc.sql("select distinct who, c #>> '{}' as column_name from (" + DEFINITIONS + """
                        ) d cross join lateral (
                          select jsonb_path_query(definition, '$.** ? (@.events == $name).where[*].column',
                            jsonb_build_object('name', :name::text)) c
                          union
                          select jsonb_path_query(definition, '$.** ? (@.of.events == $name).aggregation.column',
                            jsonb_build_object('name', :name::text))) q
                        """)
                .param("name", set)
                .query(row -> {
                    users.computeIfAbsent(row.getString("column_name"), key -> new TreeSet<>())
                            .add(row.getString("who"));
                });
        return users;
    }
}

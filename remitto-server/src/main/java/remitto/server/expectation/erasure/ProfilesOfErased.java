package remitto.server.expectation.erasure;

import java.util.List;
import java.util.Map;
import org.springframework.jdbc.core.simple.JdbcClient;
import org.springframework.stereotype.Component;
import remitto.server.rights.KeptRows;

/**
 * Profiles of datasets that an erased person has a record in. The least and the greatest value of a column may be theirs, and so may the
 * ends of its histogram; what else a profile holds, ten rows or more hold.
 */
@Component
class ProfilesOfErased implements KeptRows {
    private final JdbcClient jdbc;

    ProfilesOfErased(JdbcClient jdbc) {
        this.jdbc = jdbc;
    }

    /** Everything of a profile is ours. */
    @Override
    public List<String> unreached() {
        return List.of();
    }

    @Override
    public Map<String, Long> forget() {
        long profiles = jdbc.sql("""
                        update dataset_read set profile = jsonb_set(profile, '{columns}', coalesce((
                            select jsonb_agg(c.value - 'least' - 'greatest' || '{"histogram": []}' order by c.ordinality)
                            from jsonb_array_elements(profile -> 'columns') with ordinality c), '[]'))
                        where profile is not null and dataset_id in (select dataset_id from gone_key)
                        """).update();
        return Map.of("profiles of columns", profiles);
    }
}

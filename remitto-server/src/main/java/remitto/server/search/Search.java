package remitto.server.search;

import java.util.List;
import java.util.regex.Matcher;
import java.util.regex.Pattern;
import org.springframework.jdbc.core.simple.JdbcClient;
import org.springframework.stereotype.Component;
import remitto.core.known.Fingerprint;

/** Looks a text up, by index throughout. What was archived is not found. */
@Component
class Search {
    /** Of each kind. */
    static final int MOST = 8;

    private static final Pattern NUMBER = Pattern.compile("(?:no\\.?\\s*|#)?(\\d{1,15})", Pattern.CASE_INSENSITIVE);

    private final JdbcClient jdbc;

    Search(JdbcClient jdbc) {
        this.jdbc = jdbc;
    }

    SearchResult find(String text) {
        String wanted = text.strip();
        return wanted.isEmpty()
                ? new SearchResult(List.of(), List.of(), List.of())
                : new SearchResult(records(wanted), fields(wanted), manifests(wanted));
    }

    /** The text is an id there, or the key of a row of some route. */
    private List<SearchResult.RecordHit> records(String wanted) {
        long[] hash = new Fingerprint().key(wanted);
        return jdbc.sql("""
                        with met as (
                          select d.id from destination_object o
                          join destination_record d
                            on d.destination_id = o.destination_id and d.object = o.object and d.remote_id = :wanted
                          union
                          select s.record_id from route r
                          join route_record e on e.route_id = r.id and e.key_high = :high and e.key_low = :low
                          join record_state s on s.route_id = e.route_id and s.ordinal = e.ordinal
                          where r.archived_at is null and s.record_id is not null)
                        select d.destination_id, t.name as destination, d.object, d.remote_id, r.name as route,
                          coalesce(e.source_key, '') as source_key
                        from met join destination_record d on d.id = met.id
                        join destination t on t.id = d.destination_id and t.archived_at is null
                        join route r on r.id = d.route_id
                        left join record_state s on s.route_id = d.route_id and s.record_id = d.id
                        left join route_record e on e.route_id = s.route_id and e.ordinal = s.ordinal
                        order by t.name, d.object, d.remote_id limit :most
                        """)
                .param("wanted", wanted)
                .param("high", hash[0])
                .param("low", hash[1])
                .param("most", MOST)
                .query((row, number) -> new SearchResult.RecordHit(
                        row.getLong("destination_id"),
                        row.getString("destination"),
                        row.getString("object"),
                        row.getString("remote_id"),
                        row.getString("route"),
                        row.getString("source_key")))
                .list();
    }

    private List<SearchResult.FieldHit> fields(String wanted) {
        return jdbc.sql("""
                        select o.destination_id, t.name as destination, o.object, f ->> 'name' as field,
                          coalesce(f ->> 'title', '') as title
                        from destination_object o join destination t on t.id = o.destination_id and t.archived_at is null
                        cross join lateral jsonb_array_elements(coalesce(o.description -> 'fields', '[]')) f
                        where position(lower(:wanted) in lower(f ->> 'name')) > 0
                          or position(lower(:wanted) in lower(coalesce(f ->> 'title', ''))) > 0
                        order by lower(f ->> 'name') <> lower(:wanted), length(f ->> 'name'), 2, 3, 4 limit :most
                        """)
                .param("wanted", wanted)
                .param("most", MOST)
                .query((row, number) -> new SearchResult.FieldHit(
                        row.getLong("destination_id"),
                        row.getString("destination"),
                        row.getString("object"),
                        row.getString("field"),
                        row.getString("title")))
                .list();
    }

    private List<SearchResult.ManifestHit> manifests(String wanted) {
        Matcher number = NUMBER.matcher(wanted);
        return number.matches()
                ? jdbc.sql("""
                                select n.id, r.name from run n join route r on r.id = n.route_id
                                where n.id = ? and n.prepared_at is not null
                                """)
                        .param(Long.parseLong(number.group(1)))
                        .query((row, at) -> new SearchResult.ManifestHit(row.getLong("id"), row.getString("name")))
                        .list()
                : List.of();
    }
}

package remitto.server.run.life;

import java.util.List;
import org.springframework.jdbc.core.simple.JdbcClient;
import org.springframework.stereotype.Component;
import remitto.core.approval.FourEyes;

/** Who had a part in what a route would send: everybody who changed anything of it since a stopped manifest of it was last approved. */
@Component
class Contributors {
    private static final String PARTS = """
            with since as (
              select coalesce(max(prepared_at), '-infinity') as at from run where route_id = :route and stop_approved_by is not null),
            spec as (
              select v.definition, r.dataset_id, d.profile, s.audience_id from route r
              join route_version v on v.route_id = r.id and v.number = r.live_version
              join destination d on d.id = r.destination_id join dataset s on s.id = r.dataset_id where r.id = :route),
            datasets as (
              select dataset_id as id from spec
              union select (jsonb_path_query(definition, '$.rules.**.dataset ? (@.type() == "number")'))::text::bigint from spec),
            crosswalks as (
              select (jsonb_path_query(definition, '$.rules.**.crosswalk ? (@.type() == "number")'))::text::bigint as id from spec)
            select author as who, 'changed the route' as what from route_version, since
              where route_id = :route and saved_at > at
            union select author, 'changed a dataset of it' from dataset_version, since
              where dataset_id in (select id from datasets) and saved_at > at
            union select author, 'changed a crosswalk of it' from crosswalk_version, since
              where crosswalk_id in (select id from crosswalks) and saved_at > at
            union select v.author, 'changed its profile' from profile_version v join spec on spec.profile = v.profile, since
              where v.saved_at > at
            union select v.author, 'changed its audience' from audience_version v join spec on spec.audience_id = v.audience_id, since
              where v.saved_at > at
            union select actor_id::text, 'loosened its guards' from ledger.journal, since
              where subject_kind = 'route' and subject_id = :route and action = 'loosened guards' and journal.at > since.at
            order by what
            """;

    private final JdbcClient jdbc;

    Contributors(JdbcClient jdbc) {
        this.jdbc = jdbc;
    }

    List<FourEyes.Part> of(long routeId) {
        return jdbc.sql(PARTS)
                .param("route", routeId)
                .query((row, number) -> new FourEyes.Part(String.valueOf(row.getString("who")), row.getString("what")))
                .list();
    }

    /** Somebody approved what a guard stopped, so what was changed before counts as looked at by two. */
    void approved(long runId, String who) {
        jdbc.sql("update run set stop_approved_by = ? where id = ?")
                .params(who, runId)
                .update();
    }
}

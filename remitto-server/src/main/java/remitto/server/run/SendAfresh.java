package remitto.server.run;

import java.util.List;
import org.springframework.jdbc.core.simple.JdbcClient;
import org.springframework.stereotype.Component;
import org.springframework.transaction.annotation.Transactional;
import remitto.core.route.Mode;
import remitto.server.journal.Journal;
import remitto.server.platform.Problem;
import remitto.server.route.Routes;

/**
 * Forgets what is known of a route's records, or of some fields or records, so that the next run judges them by what
 * is really there. Bindings stay, so that nothing is added twice; only entries of lists and events, which are not
 * looked at there, are let go whole.
 */
@Component
class SendAfresh {
    private final JdbcClient jdbc;
    private final Routes routes;
    private final Runs runs;
    private final Journal journal;

    SendAfresh(JdbcClient jdbc, Routes routes, Runs runs, Journal journal) {
        this.jdbc = jdbc;
        this.routes = routes;
        this.runs = runs;
        this.journal = journal;
    }

    /** @param fields and @param keys to forget; none means all */
    record Wanted(List<String> fields, List<String> keys) {}

    /** @return how many records the next run judges anew */
    @Transactional
    int forget(long routeId, Wanted wanted, String who) {
        Routes.Route route = routes.get(routeId);
        if (runs.underWay(routeId).isPresent()) {
            throw Problem.conflict("A run of this route is under way; wait for it or cancel it.");
        }
        boolean entries =
                route.liveSpec().map(spec -> spec.mode() == Mode.MEMBERSHIP).orElse(false);
        if (entries) {
            letGo(routeId, wanted);
        } else {
            forgetValues(routeId, wanted);
        }
        int records = bind(jdbc.sql("""
                        update route_record set input_fingerprint = 0, sent_fingerprint = 0,
                          stance = case when stance = 5 then stance else 0 end, stance_reason = ''
                        where route_id = :route and (:all or source_key = any (:keys)) and stance <> 6
                        """), routeId, wanted).update();
        journal.write(
                who,
                "will send afresh",
                new Journal.Subject("route", routeId, route.name()),
                records + " records"
                        + (wanted.fields().isEmpty() ? "" : ", fields " + String.join(", ", wanted.fields())));
        return records;
    }

    private void letGo(long routeId, Wanted wanted) {
        bind(jdbc.sql("""
                        with freed as (
                          update route_record r set record_id = null from route_record old
                          where r.route_id = :route and old.route_id = r.route_id and old.ordinal = r.ordinal
                            and r.record_id is not null and (:all or r.source_key = any (:keys))
                          returning old.record_id
                        ), unclaimed as (
                          delete from claim c using freed f where c.record_id = f.record_id and c.route_id = :route
                        )
                        delete from destination_record d using freed f where d.id = f.record_id
                          and not exists (select 1 from claim c where c.record_id = d.id and c.route_id <> :route)
                        """), routeId, wanted).update();
    }

    /** Only what this route wrote is forgotten; what another one wrote there is not its to forget. */
    private void forgetValues(long routeId, Wanted wanted) {
        bind(jdbc.sql("""
                        update destination_record d
                        set fields = coalesce((
                          select jsonb_object_agg(f.key, f.value) from jsonb_each(d.fields) as f
                          where f.value ->> 1 <> :route::text or not (:everyField or f.key = any (:fields))), '{}')
                        from claim c join route_record r on r.route_id = c.route_id and r.ordinal = c.ordinal
                        where c.record_id = d.id and c.route_id = :route and (:all or r.source_key = any (:keys))
                        """), routeId, wanted)
                .param("everyField", wanted.fields().isEmpty())
                .param("fields", wanted.fields().toArray(String[]::new))
                .update();
    }

    private static JdbcClient.StatementSpec bind(JdbcClient.StatementSpec sql, long routeId, Wanted wanted) {
        return sql.param("route", routeId)
                .param("all", wanted.keys().isEmpty())
                .param("keys", wanted.keys().toArray(String[]::new));
    }
}

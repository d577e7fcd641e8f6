package remitto.server.run.life;

import java.util.List;
import org.springframework.jdbc.core.simple.JdbcClient;
import org.springframework.stereotype.Component;
import org.springframework.transaction.annotation.Transactional;
import remitto.core.known.RecordState;
import remitto.core.route.Mode;
import remitto.server.journal.Journal;
import remitto.server.platform.Problem;
import remitto.server.route.Routes;
import remitto.server.run.Runs;

/**
 * Forgets what is known of a route's records, or of some fields or records, so that the next run judges them by what
 * is really there. Bindings stay, so that nothing is added twice; only entries of lists and events, which are not
 * looked at there, are let go whole.
 */
@Component
class ResendAll {
    private final JdbcClient jdbc;
    private final Routes routes;
    private final Runs runs;
    private final Journal journal;

    ResendAll(JdbcClient jdbc, Routes routes, Runs runs, Journal journal) {
        this.jdbc = jdbc;
        this.routes = routes;
        this.runs = runs;
        this.journal = journal;
    }

    /**
     * Fields and keys whose known values are discarded; all when none are named.
     *
     * @param fields and
     * @param keys to forget; none means all
     */
    record ResendRequest(List<String> fields, List<String> keys) {}

    /** @return how many records the next run judges again */
    @Transactional
    int forget(long routeId, ResendRequest wanted, String who) {
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
                        update record_state s set input_fingerprint = 0, sent_fingerprint = 0,
                          state = case when s.state = :gone then s.state else 0 end, state_reason = ''
                        from route_record r where r.route_id = :route and s.route_id = r.route_id and s.ordinal = r.ordinal
                          and (:all or r.source_key = any (:keys)) and s.state <> :unknown
                        """), routeId, wanted)
                .param("gone", RecordState.GONE.ordinal())
                .param("unknown", RecordState.UNKNOWN.ordinal())
                .update();
        journal.write(
                who,
                "will resend all",
                new Journal.Subject("route", routeId, route.name()),
                records + " records"
                        + (wanted.fields().isEmpty() ? "" : ", fields " + String.join(", ", wanted.fields())));
        return records;
    }

    private void letGo(long routeId, ResendRequest wanted) {
        bind(jdbc.sql("""
                        with freed as (
                          update record_state s set record_id = null
                          from record_state old join route_record r on r.route_id = old.route_id and r.ordinal = old.ordinal
                          where s.route_id = :route and old.route_id = s.route_id and old.ordinal = s.ordinal
                            and s.record_id is not null and (:all or r.source_key = any (:keys))
                          returning old.record_id
                        )
                        delete from destination_record d using freed f where d.id = f.record_id
                          and not exists (select 1 from record_state c where c.record_id = d.id and c.route_id <> :route)
                        """), routeId, wanted).update();
    }

    /** Only what this route wrote is forgotten; what another one wrote there is not its to forget. */
    private void forgetValues(long routeId, ResendRequest wanted) {
        bind(jdbc.sql("""
                        update destination_record d
                        set fields = coalesce((
                          select jsonb_object_agg(f.key, f.value) from jsonb_each(d.fields) as f
                          where coalesce((d.writers -> f.key ->> 0)::bigint, d.route_id) <> :route
                            or not (:everyField or f.key = any (:fields))), '{}')
                        from record_state s join route_record r on r.route_id = s.route_id and r.ordinal = s.ordinal
                        where s.record_id = d.id and s.route_id = :route and (:all or r.source_key = any (:keys))
                        """), routeId, wanted)
                .param("everyField", wanted.fields().isEmpty())
                .param("fields", wanted.fields().toArray(String[]::new))
                .update();
    }

    private static JdbcClient.StatementSpec bind(JdbcClient.StatementSpec sql, long routeId, ResendRequest wanted) {
        return sql.param("route", routeId)
                .param("all", wanted.keys().isEmpty())
                .param("keys", wanted.keys().toArray(String[]::new));
    }
}

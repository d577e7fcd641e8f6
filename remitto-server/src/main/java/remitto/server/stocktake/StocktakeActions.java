package remitto.server.stocktake;

import java.util.List;
import java.util.Locale;
import java.util.Map;
import org.springframework.jdbc.core.simple.JdbcClient;
import org.springframework.stereotype.Component;
import org.springframework.transaction.annotation.Transactional;
import remitto.server.journal.Journal;
import remitto.server.permission.ActorNames;
import remitto.server.platform.Problem;
import remitto.server.route.RouteBinder;
import remitto.server.route.Routes;

/** What people decide about findings. Nothing is sent by a decision; the next run acts on it. */
@Component
class StocktakeActions {
    private final ActorNames names;
    private final JdbcClient jdbc;
    private final Stocktakes stocktakes;
    private final Routes routes;
    private final RouteBinder binder;
    private final Journal journal;

    StocktakeActions(
            ActorNames names,
            JdbcClient jdbc,
            Stocktakes stocktakes,
            Routes routes,
            RouteBinder binder,
            Journal journal) {
        this.names = names;
        this.jdbc = jdbc;
        this.stocktakes = stocktakes;
        this.routes = routes;
        this.binder = binder;
        this.journal = journal;
    }

    /** A decision about findings of one kind. */
    enum Action {
        /** Theirs stays until the rule or the source value changes. */
        ADOPT,
        /** The next run writes ours again. */
        OVERWRITE,
        /** The record is let go; if its row is still there, the next run adds it again. */
        FORGET,
        /** Nothing is done; it is noted as seen. */
        LEAVE
    }

    private static final Map<FindingKind, List<Action>> ALLOWED = Map.of(
            FindingKind.EDITED, List.of(Action.ADOPT, Action.OVERWRITE, Action.LEAVE),
            FindingKind.DELETED, List.of(Action.FORGET, Action.LEAVE),
            FindingKind.STRAY, List.of(Action.LEAVE),
            FindingKind.DOUBLE, List.of(Action.LEAVE));

    /**
     * What is to be done about findings.
     *
     * @param numbers of findings; none means all of the kind nobody decided about yet
     */
    record StocktakeDecision(FindingKind kind, Action action, List<Integer> numbers) {}

    /** @return how many findings were decided about */
    @Transactional
    int act(long stocktakeId, StocktakeDecision wanted, String who) {
        Stocktake stocktake = stocktakes.get(stocktakeId);
        if (!ALLOWED.getOrDefault(wanted.kind(), List.of()).contains(wanted.action())) {
            throw Problem.invalid(
                    "That cannot be done with " + wanted.kind().name().toLowerCase(Locale.ROOT) + " records.");
        }
        if (wanted.action() == Action.ADOPT) {
            adopt(stocktake, wanted);
        } else if (wanted.action() == Action.OVERWRITE) {
            overwrite(stocktake, wanted);
        } else if (wanted.action() == Action.FORGET) {
            forget(stocktake, wanted);
        }
        int settled = bind(
                        jdbc.sql("update stocktake_finding f set settled = :settled where " + CHOSEN),
                        stocktakeId,
                        wanted)
                .param("settled", wanted.action().name().toLowerCase(Locale.ROOT) + ", " + names.of(who))
                .update();
        journal.write(
                who,
                "decided about a stocktake: " + wanted.action().name().toLowerCase(Locale.ROOT),
                new Journal.Subject(
                        "destination", stocktake.destinationId(), stocktake.destination() + ", " + stocktake.object()),
                settled + " findings " + wanted.kind().name().toLowerCase(Locale.ROOT));
        return settled;
    }

    private static final String CHOSEN = """
             f.stocktake_id = :id and f.kind = :kind and f.settled = '' and (:all or f.number = any (:numbers))
            """;

    private static JdbcClient.StatementSpec bind(
            JdbcClient.StatementSpec sql, long stocktakeId, StocktakeDecision wanted) {
        return sql.param("id", stocktakeId)
                .param("kind", wanted.kind().name())
                .param("all", wanted.numbers().isEmpty())
                .param("numbers", wanted.numbers().toArray(Integer[]::new));
    }

    private void adopt(Stocktake stocktake, StocktakeDecision wanted) {
        for (Routes.Route route : routes.all()) {
            route.liveSpec()
                    .ifPresent(spec -> spec.rules().forEach(rule -> bind(jdbc.sql("""
                            update destination_record d
                            set fields = jsonb_set(d.fields, array[f.field], f.there),
                              writers = jsonb_set(d.writers, array[f.field], jsonb_build_array(
                                f.route_id, d.run_id, d.line, d.fields -> f.field, :hash::bigint))
                            from stocktake_finding f
                            where d.destination_id = :destination and d.object = :object and d.remote_id = f.remote_id
                              and f.route_id = :route and f.field = :field and
                            """ + CHOSEN), stocktake.id(), wanted)
                            .param("hash", binder.ruleHash(rule))
                            .param("destination", stocktake.destinationId())
                            .param("object", stocktake.object())
                            .param("route", route.id())
                            .param("field", rule.field())
                            .update()));
        }
    }

    private void overwrite(Stocktake stocktake, StocktakeDecision wanted) {
        bind(jdbc.sql("""
                        with changed as (
                          update destination_record d set fields = jsonb_set(d.fields, array[f.field], f.there)
                          from stocktake_finding f
                          where d.destination_id = :destination and d.object = :object and d.remote_id = f.remote_id and
                        """ + CHOSEN + """
                          returning d.id
                        )
                        update record_state s set input_fingerprint = 0, sent_fingerprint = 0
                        from changed where s.record_id = changed.id
                        """), stocktake.id(), wanted)
                .param("destination", stocktake.destinationId())
                .param("object", stocktake.object())
                .update();
    }

    private void forget(Stocktake stocktake, StocktakeDecision wanted) {
        bind(jdbc.sql("""
                        with gone as (
                          select d.id from destination_record d join stocktake_finding f on d.remote_id = f.remote_id
                          where d.destination_id = :destination and d.object = :object and
                        """ + CHOSEN + """
                        ), unbound as (
                          update record_state s set record_id = null, input_fingerprint = 0, sent_fingerprint = 0
                          from gone where s.record_id = gone.id
                        )
                        delete from destination_record d using gone where d.id = gone.id
                        """), stocktake.id(), wanted)
                .param("destination", stocktake.destinationId())
                .param("object", stocktake.object())
                .update();
    }
}

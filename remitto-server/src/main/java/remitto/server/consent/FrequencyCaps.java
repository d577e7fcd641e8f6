package remitto.server.consent;

import java.time.Clock;
import java.time.Instant;
import java.time.ZoneOffset;
import java.time.format.DateTimeFormatter;
import java.util.ArrayList;
import java.util.Collection;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.function.Supplier;
import org.springframework.jdbc.core.simple.JdbcClient;
import org.springframework.stereotype.Component;
import org.springframework.transaction.PlatformTransactionManager;
import org.springframework.transaction.TransactionDefinition;
import org.springframework.transaction.annotation.Transactional;
import org.springframework.transaction.support.TransactionTemplate;
import remitto.core.consent.FrequencyCap;
import remitto.server.planning.MessageLimits;
import remitto.server.platform.Rows;
import remitto.server.route.BoundRoute;

/** Counts messages to people over the routes that send some, and says who has had enough for now. */
@Component
class FrequencyCaps implements MessageLimits {
    private static final DateTimeFormatter WHEN =
            DateTimeFormatter.ofPattern("d MMMM HH:mm 'UTC'").withZone(ZoneOffset.UTC);

    /** Whose the keys of a route's dataset are: people's own, or those of their records. */
    private static final String WHOSE = """
            select k.key, p.id as person_id from unnest(:keys::text[]) as k (key) join person p on p.id::text = regexp_replace(k.key, '^(\\d+)@[0-9a-f]{16}$', '\\1')
            where exists (select from dataset d join source s on s.id = d.source_id and s.kind = 'people'
              join route r on r.dataset_id = d.id where r.id = :route)
            union
            select i.key, i.person_id from identity_record i join route r on r.dataset_id = i.dataset_id
            where r.id = :route and i.key = any (:keys)
            """;

    private final JdbcClient jdbc;
    private final TransactionTemplate transactions;
    private final Clock clock;

    FrequencyCaps(JdbcClient jdbc, PlatformTransactionManager manager, Clock clock) {
        this.transactions = new TransactionTemplate(manager);
        this.transactions.setPropagationBehavior(TransactionDefinition.PROPAGATION_REQUIRES_NEW);
        this.jdbc = jdbc;
        this.clock = clock;
    }

    /** A route to people, and whether what it sends are messages. */
    record MessageRoute(long routeId, String route, String destination, boolean messages) {}

    /**
     * The frequency cap and the routes that it counts.
     *
     * @param limit absent while nothing is limited
     */
    record FrequencyCapSetting(Optional<FrequencyCap> limit, List<MessageRoute> routes) {}

    FrequencyCapSetting setting() {
        return new FrequencyCapSetting(
                limit(),
                jdbc.sql("""
                        select r.id, r.name, t.name as destination, m.route_id is not null as messages from route r
                        join destination t on t.id = r.destination_id
                        join destination_object o on o.destination_id = r.destination_id and o.object = r.object and o.people
                        left join message_route m on m.route_id = r.id order by r.name
                        """)
                        .query((row, number) -> new MessageRoute(
                                row.getLong("id"),
                                row.getString("name"),
                                row.getString("destination"),
                                row.getBoolean("messages")))
                        .list());
    }

    private Optional<FrequencyCap> limit() {
        return jdbc.sql("select most, days from frequency_cap")
                .query((row, number) -> new FrequencyCap(row.getInt("most"), row.getInt("days")))
                .optional();
    }

    @Transactional
    void set(Optional<FrequencyCap> limit, List<Long> routes) {
        jdbc.sql("delete from frequency_cap").update();
        limit.ifPresent(one -> jdbc.sql("insert into frequency_cap (most, days) values (?, ?)")
                .params(one.most(), one.days())
                .update());
        jdbc.sql("delete from message_route").update();
        routes.forEach(route ->
                jdbc.sql("insert into message_route values (?)").param(route).update());
    }

    private boolean sendsMessages(long route) {
        return jdbc.sql("select exists (select from message_route where route_id = ?)")
                .param(route)
                .query(Boolean.class)
                .single();
    }

    @Override
    public Map<String, String> overLimit(BoundRoute route, Collection<String> keys) {
        return overLimit(route, keys, 0);
    }

    /** @param own run whose messages are not counted; 0 for none */
    private Map<String, String> overLimit(BoundRoute route, Collection<String> keys, long own) {
        Optional<FrequencyCap> limit = limit();
        if (limit.isEmpty() || keys.isEmpty() || !sendsMessages(route.routeId())) {
            return Map.of();
        }
        Instant now = clock.instant();
        Map<String, List<Instant>> sent = new HashMap<>();
        whose(
                        "select w.key, m.at from whose w join person_message m on m.person_id = w.person_id and m.at > :since"
                                + " and m.run_id <> :own",
                        route,
                        keys)
                .param("own", own)
                .param("since", Rows.time(limit.get().since(now)))
                .query(row -> {
                    sent.computeIfAbsent(row.getString("key"), key -> new ArrayList<>())
                            .add(Rows.time(row, "at"));
                });
        Map<String, String> over = new HashMap<>();
        sent.forEach((key, times) -> limit.get()
                .until(times, now)
                .ifPresent(until -> over.put(
                        key,
                        "Was written to " + times.size() + (times.size() == 1 ? " time" : " times") + " in "
                                + limit.get().days() + " days; may be again from " + WHEN.format(until) + " on")));
        return over;
    }

    @Override
    public Map<String, String> reserve(BoundRoute route, long runId, Supplier<List<String>> asked) {
        List<String> keys = sendsMessages(route.routeId()) ? asked.get() : List.of();
        if (keys.isEmpty()) {
            return Map.of();
        }
        return Optional.ofNullable(transactions.execute(status -> {
                    jdbc.sql("select pg_advisory_xact_lock(7041893)").query().listOfRows();
                    Map<String, String> over = overLimit(route, keys, runId);
                    whose(
                                    "insert into person_message (person_id, route_id, run_id, at)"
                                            + " select distinct w.person_id, :route, :run, :now::timestamptz from whose w"
                                            + " where not exists (select from person_message m"
                                            + " where m.person_id = w.person_id and m.run_id = :run)",
                                    route,
                                    keys.stream()
                                            .filter(key -> !over.containsKey(key))
                                            .toList())
                            .param("run", runId)
                            .param("now", Rows.time(clock.instant()))
                            .update();
                    return over;
                }))
                .orElseThrow();
    }

    /** A person that another line of the run was taken for was written to all the same. */
    @Override
    public void didNotGo(BoundRoute route, long runId, Collection<String> keys) {
        if (keys.isEmpty() || !sendsMessages(route.routeId())) {
            return;
        }
        whose(
                        "delete from person_message m using whose w where m.person_id = w.person_id and m.run_id = :run"
                                + " and w.key !~ '@'",
                        route,
                        keys)
                .param("run", runId)
                .update();
    }

    private JdbcClient.StatementSpec whose(String sql, BoundRoute route, Collection<String> keys) {
        return jdbc.sql("with whose as (" + WHOSE + ") " + sql)
                .param("keys", keys.toArray(String[]::new))
                .param("route", route.routeId());
    }
}

package remitto.server.trace;

import java.util.List;
import org.springframework.jdbc.core.simple.JdbcClient;
import org.springframework.stereotype.Component;
import org.springframework.transaction.support.TransactionTemplate;

/**
 * Notes which records of routes carry which addresses: e-mail addresses, phone numbers in E.164, and SHA-256 hashes of either, wherever
 * they stand in a row or a field. A town, a port or an order number is none of these, whatever else it is equal to.
 */
@Component
public class AddressTraces {
    /** An address as it is found by: 16 bytes of the SHA-256 of its lower-case text, or of the hash that it is. Over a text {@code v}. */
    public static final String TRACE = """
            case when v ~ '^[0-9a-fA-F]{64}$' then substr(decode(lower(v), 'hex'), 1, 16)
              else substr(sha256(convert_to(lower(btrim(v)), 'UTF8')), 1, 16) end""";

    /** Whether a text {@code v} is an address at all. */
    public static final String IS_ADDRESS =
            "(v ~ '^\\s*[^@\\s]+@[^@\\s]+\\s*$' or v ~ '^\\+[0-9]{6,15}$' or v ~ '^[0-9a-fA-F]{64}$')";

    private static final int LOCK = 734_602_155;

    private final JdbcClient jdbc;
    private final TransactionTemplate transactions;

    AddressTraces(JdbcClient jdbc, TransactionTemplate transactions) {
        this.jdbc = jdbc;
        this.transactions = transactions;
    }

    /** Runs whose lines are there and were not looked through yet, oldest first. */
    private List<Long> untraced(String passedOver, int most) {
        return jdbc.sql("select id from run where traced_at is null and state not in (" + passedOver
                        + ") order by id limit ?")
                .param(most)
                .query(Long.class)
                .list();
    }

    /**
     * Looks through a few runs more.
     *
     * @return whether there may be others
     */
    public boolean ahead(int most) {
        List<Long> runs = untraced("'PREPARING', 'SKIPPED', 'SENDING'", most);
        runs.forEach(run -> transactions.executeWithoutResult(status -> {
            if (isFree(run)) {
                trace(run);
            }
        }));
        return runs.size() == most;
    }

    /** Looks through all that is left, waiting for whoever is at it, so that what is asked next misses nothing. */
    public void complete() {
        untraced("'PREPARING', 'SKIPPED'", Integer.MAX_VALUE)
                .forEach(run -> transactions.executeWithoutResult(status -> {
                    jdbc.sql("select pg_advisory_xact_lock(?, ?)")
                            .params(LOCK, (int) run.longValue())
                            .query()
                            .listOfRows();
                    trace(run);
                }));
    }

    /** A lock beside the run: the run's own row belongs to its lease, and is never held while lines are looked through. */
    private boolean isFree(long run) {
        return jdbc.sql("select pg_try_advisory_xact_lock(?, ?)")
                .params(LOCK, (int) run)
                .query(Boolean.class)
                .single();
    }

    private void trace(long run) {
        jdbc.sql("set local jit = off").update();
        jdbc.sql("""
                        insert into address_trace (address, route_id, ordinal)
                        select distinct %s, r.route_id, m.ordinal
                        from run r join manifest_line m on m.run_id = r.id and m.ordinal > 0
                        cross join lateral (
                          select x.value as v from jsonb_each_text(m.inputs) x
                          union all select f ->> 'fresh' from jsonb_array_elements(m.fields) f
                          union all select f ->> 'old' from jsonb_array_elements(m.fields) f) t
                        where r.id = :run and %s
                        on conflict do nothing
                        """.formatted(TRACE, IS_ADDRESS)).param("run", run).update();
        // What was there already and was taken over has no line of its own.
        jdbc.sql("""
                        insert into address_trace (address, route_id, ordinal)
                        select distinct %s, s.route_id, s.ordinal
                        from run r join record_state s on s.route_id = r.route_id
                        join destination_record d on d.id = s.record_id and d.run_id = r.id
                        cross join lateral (select x.value as v from jsonb_each_text(d.fields) x) t
                        where r.id = :run and r.adopted > 0 and %s
                        on conflict do nothing
                        """.formatted(TRACE, IS_ADDRESS)).param("run", run).update();
        jdbc.sql("update run set traced_at = clock_timestamp() where id = ? and state <> 'SENDING'")
                .param(run)
                .update();
    }
}

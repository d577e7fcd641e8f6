package remitto.server.destination;

import java.time.Clock;
import java.time.Instant;
import java.util.List;
import java.util.Optional;
import java.util.Set;
import java.util.concurrent.ConcurrentHashMap;
import java.util.function.UnaryOperator;
import org.springframework.jdbc.core.simple.JdbcClient;
import org.springframework.stereotype.Component;
import org.springframework.transaction.support.TransactionTemplate;
import remitto.connect.destination.DestinationProblem;
import remitto.core.delivery.Circuit;
import remitto.server.platform.Rows;

/** Whether each destination answers, shared by every route and process. */
@Component
public class Circuits {
    /** How long a try may take before another process makes one. */
    private static final int TRY_SECONDS = 60;

    private final JdbcClient jdbc;
    private final TransactionTemplate transaction;
    private final Clock clock;
    /** Destinations with a failure on record, as far as this process knows; spares a write per call that succeeds. */
    private final Set<Long> suspected = ConcurrentHashMap.newKeySet();

    Circuits(JdbcClient jdbc, TransactionTemplate transaction, Clock clock) {
        this.jdbc = jdbc;
        this.transaction = transaction;
        this.clock = clock;
    }

    public Circuit of(long destinationId) {
        return jdbc.sql("select failures, openings, open_since, try_at, reason from circuit where destination_id = ?")
                .param(destinationId)
                .query((row, number) -> new Circuit(
                        row.getInt("failures"),
                        row.getInt("openings"),
                        Rows.optionalTime(row, "open_since"),
                        Rows.optionalTime(row, "try_at"),
                        row.getString("reason")))
                .optional()
                .orElseGet(Circuit::closed);
    }

    /** A call was answered. */
    public void answered(long destinationId) {
        if (suspected.contains(destinationId)) {
            close(destinationId);
        }
    }

    /** A try was answered; whether real work is, the next call will show. */
    void triedWell(long destinationId) {
        change(destinationId, Circuit::triedWell);
    }

    private void close(long destinationId) {
        jdbc.sql("delete from circuit where destination_id = ?")
                .param(destinationId)
                .update();
        suspected.remove(destinationId);
    }

    /**
     * A call got no answer, or one that says the destination is broken.
     *
     * @return true when the circuit is open now
     */
    public boolean failed(long destinationId, String why) {
        return change(destinationId, circuit -> circuit.failed(clock.instant(), why));
    }

    /**
     * Reading failed for good.
     *
     * @return true when the circuit is open now: the destination could not be reached, after all tries
     */
    public boolean broken(long destinationId, DestinationProblem problem) {
        if (problem.kind() != DestinationProblem.Kind.UNREACHABLE) {
            return false;
        }
        return change(destinationId, circuit -> {
            Circuit worse = circuit;
            do {
                worse = worse.failed(clock.instant(), String.valueOf(problem.getMessage()));
            } while (!worse.isOpen());
            return worse;
        });
    }

    void triedInVain(long destinationId, String why) {
        change(destinationId, circuit -> circuit.triedInVain(clock.instant(), why));
    }

    private boolean change(long destinationId, UnaryOperator<Circuit> step) {
        suspected.add(destinationId);
        return Boolean.TRUE.equals(transaction.execute(status -> {
            jdbc.sql("""
                            insert into circuit (destination_id, failures, openings, reason) values (?, 0, 0, '')
                            on conflict (destination_id) do nothing
                            """).param(destinationId).update();
            jdbc.sql("select 1 from circuit where destination_id = ? for update")
                    .param(destinationId)
                    .query(Integer.class)
                    .single();
            Circuit next = step.apply(of(destinationId));
            jdbc.sql("""
                            update circuit set failures = ?, openings = ?, open_since = ?, try_at = ?, reason = ?
                            where destination_id = ?
                            """)
                    .params(
                            next.failures(),
                            next.openings(),
                            next.openSince().map(Rows::time).orElse(null),
                            next.tryAt().map(Rows::time).orElse(null),
                            next.reason(),
                            destinationId)
                    .update();
            return next.isOpen();
        }));
    }

    /** An open circuit, as the board tells of it. */
    public record OpenCircuit(
            long destinationId, String destination, Instant openSince, Optional<Instant> tryAt, String reason) {}

    public List<OpenCircuit> open() {
        return jdbc.sql("""
                        select c.destination_id, d.name, c.open_since, c.try_at, c.reason
                        from circuit c join destination d on d.id = c.destination_id
                        where c.open_since is not null order by c.open_since
                        """)
                .query((row, number) -> new OpenCircuit(
                        row.getLong("destination_id"),
                        row.getString("name"),
                        Rows.time(row, "open_since"),
                        Rows.optionalTime(row, "try_at"),
                        row.getString("reason")))
                .list();
    }

    /** Destinations whose wait is over, each given to one process that may try it. */
    public List<Long> dueForATry() {
        return jdbc.sql("""
                        update circuit set try_at = :later where destination_id in (
                          select destination_id from circuit where open_since is not null and (try_at <= :now or try_at > :never)
                          for update skip locked)
                        returning destination_id
                        """)
                .param("now", Rows.time(clock.instant()))
                .param("never", Rows.time(clock.instant().plus(Circuit.LONGEST_WAIT)))
                .param("later", Rows.time(clock.instant().plusSeconds(TRY_SECONDS)))
                .query(Long.class)
                .list();
    }
}

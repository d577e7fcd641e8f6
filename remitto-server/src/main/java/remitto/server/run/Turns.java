package remitto.server.run;

import org.springframework.jdbc.core.simple.JdbcClient;
import org.springframework.stereotype.Component;
import org.springframework.transaction.support.TransactionTemplate;
import remitto.core.run.RunState;

/**
 * What is written down while a manifest is prepared, by whose turn it is alone. A process that was cut off from the database does not
 * know yet that another draws the same route up, and what it goes on to write would stand in the way of the other's.
 */
@Component
public class Turns {
    private final JdbcClient jdbc;
    private final TransactionTemplate transaction;

    Turns(JdbcClient jdbc, TransactionTemplate transaction) {
        this.jdbc = jdbc;
        this.transaction = transaction;
    }

    /** Somebody's turn at preparing. */
    public interface Turn {
        /**
         * Writes, all or nothing.
         *
         * @throws RunLost if somebody has taken it over; nothing is written then
         */
        void write(Runnable writes);

        long runId();
    }

    public Turn of(Tenure tenure) {
        return new Turn() {
            @Override
            public void write(Runnable writes) {
                transaction.executeWithoutResult(status -> {
                    check(tenure);
                    writes.run();
                });
            }

            @Override
            public long runId() {
                return tenure.runId();
            }
        };
    }

    /**
     * No lock is taken: whoever takes a run over must not wait for a process that may be cut off within a transaction. What that one
     * still had in flight may come in once; the other begins again if it meets that.
     */
    private void check(Tenure tenure) {
        boolean ours = jdbc.sql("select 1 from run where id = ? and owner = ? and epoch = ? and state = ?")
                .params(tenure.runId(), tenure.owner(), tenure.epoch(), RunState.PREPARING.name())
                .query(Integer.class)
                .optional()
                .isPresent();
        if (!ours) {
            throw new RunLost(tenure.runId());
        }
    }
}

package remitto.server.receiver;

import java.time.Duration;
import java.time.Instant;
import org.slf4j.Logger;
import org.slf4j.LoggerFactory;
import org.springframework.jdbc.core.simple.JdbcClient;
import org.springframework.stereotype.Component;
import org.springframework.transaction.support.TransactionTemplate;
import remitto.server.platform.Rows;

/** Removes calls with their rows once they were kept for as long as their receiver says, and all but the latest refused ones. */
@Component
class CallRemoval {
    private static final Logger LOG = LoggerFactory.getLogger(CallRemoval.class);
    private static final int REFUSED_KEPT = 200;

    private final Receivers receivers;
    private final ReceiverTables tables;
    private final JdbcClient jdbc;
    private final TransactionTemplate transactions;

    CallRemoval(Receivers receivers, ReceiverTables tables, JdbcClient jdbc, TransactionTemplate transactions) {
        this.receivers = receivers;
        this.tables = tables;
        this.jdbc = jdbc;
        this.transactions = transactions;
    }

    void remove(Instant now) {
        for (Receivers.Receiver receiver : receivers.withArchived()) {
            try {
                remove(receiver, now);
            } catch (RuntimeException e) {
                LOG.warn("Calls of receiver {} could not be removed; that is tried again", receiver.id(), e);
            }
        }
    }

    private void remove(Receivers.Receiver receiver, Instant now) {
        jdbc.sql("""
                        delete from received_call where receiver_id = :id and verdict = 'REFUSED' and id < (
                          select min(id) from (select id from received_call where receiver_id = :id and verdict = 'REFUSED'
                            order by id desc limit :kept) latest)
                        """).param("id", receiver.id()).param("kept", REFUSED_KEPT).update();
        int days = receiver.definition().keepDays();
        if (days == 0) {
            return;
        }
        Instant before = now.minus(Duration.ofDays(days));
        long removed = java.util.Objects.requireNonNull(transactions.execute(status -> {
            for (String table : tables.of(receiver.id())) {
                jdbc.sql("delete from " + table + " where _received < ?")
                        .param(Rows.time(before))
                        .update();
            }
            return (long) jdbc.sql("delete from received_call where receiver_id = ? and received_at < ?")
                    .params(receiver.id(), Rows.time(before))
                    .update();
        }));
        if (removed > 0) {
            LOG.info("{} calls of receiver {} were removed after {} days", removed, receiver.id(), days);
        }
    }
}

package remitto.server.receiver;

import java.util.ArrayList;
import java.util.List;
import org.springframework.dao.CannotAcquireLockException;
import org.springframework.jdbc.core.JdbcTemplate;
import org.springframework.jdbc.core.simple.JdbcClient;
import org.springframework.stereotype.Component;
import org.springframework.transaction.support.TransactionTemplate;
import remitto.core.landed.LandedColumn;
import remitto.core.receiver.CallsMean;
import remitto.core.receiver.ReceiverDefinition;
import remitto.server.landing.LandedSchema;
import remitto.server.platform.Problem;

/** The tables that calls are laid out in: one for each revision of a receiver, and a view that shows one of them. */
@Component
class ReceiverTables {
    /** What is known of every row: its call, its place in the call's body, when that came in, its event, and values as they were spelled. */
    static final String OWN = "_call, _number, _received, _event, _original";

    private final JdbcTemplate template;
    private final JdbcClient jdbc;
    private final TransactionTemplate transactions;
    private final LandedSchema schema;

    ReceiverTables(JdbcTemplate template, JdbcClient jdbc, TransactionTemplate transactions, LandedSchema schema) {
        this.template = template;
        this.jdbc = jdbc;
        this.transactions = transactions;
        this.schema = schema;
    }

    static String table(long receiver, int revision) {
        return "landing.receiver_" + receiver + "_" + revision;
    }

    /** Makes an empty table, unless it is there. */
    void make(long receiver, int revision, ReceiverDefinition definition) {
        if (schema.isThere(table(receiver, revision))) {
            return;
        }
        List<String> columns = new ArrayList<>();
        for (LandedColumn column : definition.columns()) {
            columns.add(LandedSchema.quoted(column.name()) + " " + LandedSchema.type(column.type()));
        }
        columns.add("_call bigint not null");
        columns.add("_number int not null");
        columns.add("_received timestamptz not null");
        columns.add("_event text");
        columns.add("_original jsonb");
        if (definition.several() instanceof CallsMean.LatestPerKey latest) {
            columns.add("_removed boolean not null");
            columns.add("unique (" + LandedSchema.list(latest.keys()) + ")");
        }
        String table = table(receiver, revision);
        template.execute("create table if not exists " + table + " (" + String.join(", ", columns) + ")");
        String name = table.substring(table.indexOf('.') + 1);
        template.execute("create index if not exists " + name + "_call on " + table + " (_call)");
        template.execute("create index if not exists " + name + "_received on " + table + " (_received)");
    }

    /**
     * Lets the view show the table of a revision, and drops the others.
     *
     * @throws Problem while somebody reads it for long
     */
    void show(Receivers.Receiver receiver, int revision) {
        String table = table(receiver.id(), revision);
        try {
            transactions.executeWithoutResult(status -> {
                template.execute("set local lock_timeout = '5s'");
                schema.show(
                        receiver.table(),
                        "select " + LandedSchema.list(receiver.definition().names())
                                + ", t._call, t._number, t._received, t._event, t._original from " + table + " t"
                                + (marksRemoved(receiver) ? " where not t._removed" : ""));
                of(receiver.id()).stream()
                        .filter(one -> !one.equals(table))
                        .forEach(one -> template.execute("drop table " + one));
                jdbc.sql("delete from received_event where receiver_id = ? and revision <> ?")
                        .params(receiver.id(), revision)
                        .update();
                jdbc.sql("update receiver set shown_revision = ? where id = ?")
                        .params(revision, receiver.id())
                        .update();
            });
        } catch (CannotAcquireLockException e) {
            throw Problem.conflict("The rows of " + receiver.name() + " are being read now. Its columns change later.");
        }
    }

    /** Whether rows say that their record is gone, so that a later call is known to be later. */
    boolean marksRemoved(Receivers.Receiver receiver) {
        return receiver.definition().several() instanceof CallsMean.LatestPerKey;
    }

    /** Every table of a receiver, as they stand in SQL. */
    List<String> of(long receiver) {
        return schema.tables("receiver_" + receiver + "_");
    }
}

package remitto.server.receiver;

import java.time.Instant;
import org.springframework.jdbc.core.simple.JdbcClient;
import org.springframework.stereotype.Component;
import org.springframework.transaction.annotation.Transactional;
import remitto.server.journal.Journal;
import remitto.server.landing.LandedSchema;
import remitto.server.platform.Problem;
import remitto.server.platform.Rows;
import remitto.server.source.OwnSql;

/**
 * Has calls laid out again from a moment on. What came before stays as it is; the table shows the rows as they were until all are there
 * again, so that nothing seems to have left meanwhile.
 */
@Component
class CallReplay {
    private final Receivers receivers;
    private final ReceiverTables tables;
    private final JdbcClient jdbc;
    private final OwnSql ownSql;
    private final Journal journal;

    CallReplay(Receivers receivers, ReceiverTables tables, JdbcClient jdbc, OwnSql ownSql, Journal journal) {
        this.receivers = receivers;
        this.tables = tables;
        this.jdbc = jdbc;
        this.ownSql = ownSql;
        this.journal = journal;
    }

    /** @return how many calls are laid out again */
    @Transactional
    long replay(long id, Instant from, String who) {
        ownSql.require();
        // No server lays out calls of this receiver meanwhile.
        jdbc.sql("select pg_advisory_xact_lock(7041891, ?::int)").param(id).query(row -> {});
        Receivers.Receiver receiver = receivers.get(id);
        if (receiver.catching()) {
            throw Problem.conflict("Nothing is made of the calls yet. Choose columns first.");
        }
        if (receiver.layingOut()) {
            throw Problem.conflict("The calls are being laid out anew now. Replay them once that is done.");
        }
        int before = receiver.revision();
        int revision = before + 1;
        receivers.save(
                id,
                before,
                revision,
                new ReceiverKeeping.Wanted(
                        receiver.name(), receiver.sourceId(), receiver.table(), receiver.definition()),
                who);
        tables.make(id, revision, receiver.definition());
        String columns = LandedSchema.list(receiver.definition().names()) + ", " + ReceiverTables.OWN
                + (tables.marksRemoved(receiver) ? ", _removed" : "");
        jdbc.sql("insert into " + ReceiverTables.table(id, revision) + " (" + columns + ") select " + columns + " from "
                        + ReceiverTables.table(id, before) + " where _received < ?")
                .param(Rows.time(from))
                .update();
        jdbc.sql("""
                        insert into received_event (receiver_id, revision, event, call_id)
                        select e.receiver_id, ?, e.event, e.call_id from received_event e join received_call c on c.id = e.call_id
                        where e.receiver_id = ? and e.revision = ? and c.received_at < ?
                        """).params(revision, id, before, Rows.time(from)).update();
        jdbc.sql("""
                        update received_call set revision = ? where receiver_id = ? and revision = ? and received_at < ?
                          and verdict <> 'REFUSED'
                        """).params(revision, id, before, Rows.time(from)).update();
        long calls = jdbc.sql("""
                        select count(*) from received_call where receiver_id = ? and revision < ? and verdict <> 'REFUSED'
                        """).params(id, revision).query(Long.class).single();
        journal.write(
                who,
                "replayed calls",
                ReceiverKeeping.subject(id, receiver.name()),
                calls + (calls == 1 ? " call" : " calls") + " from " + from + " on");
        return calls;
    }
}

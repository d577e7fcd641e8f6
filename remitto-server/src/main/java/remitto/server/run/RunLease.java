package remitto.server.run;

import java.time.Duration;
import java.time.Instant;
import java.util.Collection;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Set;
import org.springframework.jdbc.core.simple.JdbcClient;
import org.springframework.stereotype.Component;
import remitto.core.run.RunState;
import remitto.server.platform.Rows;

/**
 * Which process works on which run, and what is asked of it. A process that falls silent loses its runs. How long it has been silent
 * is told by the database's clock alone, so that servers whose clocks differ, or are set, agree on it.
 */
@Component
public class RunLease {
    private final JdbcClient jdbc;

    RunLease(JdbcClient jdbc) {
        this.jdbc = jdbc;
    }

    /** Asks the process that works on a run for something; false when nobody does. */
    public boolean request(long id, Request request) {
        return jdbc.sql("update run set request = ? where id = ? and state in ('PREPARING', 'SENDING')")
                        .params(request.name(), id)
                        .update()
                == 1;
    }

    /** What is asked of the runs this process works on. */
    public Map<Long, Request> requests(String owner) {
        Map<Long, Request> requests = new HashMap<>();
        jdbc.sql("select id, request from run where owner = ? and request <> '' and state in ('PREPARING', 'SENDING')")
                .param(owner)
                .query(row -> {
                    requests.put(row.getLong("id"), Request.valueOf(row.getString("request")));
                });
        return requests;
    }

    /** What somebody may ask of the process that works on a run. */
    public enum Request {
        CANCEL,
        PAUSE
    }

    /** Lets another process take over at once what this one owns. */
    public void release(String owner) {
        jdbc.sql("update run set beat_at = ? where owner = ? and state in ('PREPARING', 'SENDING')")
                .params(Rows.time(Instant.EPOCH), owner)
                .update();
    }

    /** @return those of the runs that are still this process's */
    public Set<Long> beat(String owner, Collection<Long> ids) {
        return ids.isEmpty()
                ? Set.of()
                : Set.copyOf(jdbc.sql(
                                "update run set beat_at = clock_timestamp() where owner = ? and id = any (?) returning id")
                        .params(owner, ids.toArray(Long[]::new))
                        .query(Long.class)
                        .list());
    }

    /** A run whose owner has not been heard of, taken over. */
    public record Orphan(Tenure tenure, RunState state) {
        public long id() {
            return tenure.runId();
        }
    }

    /**
     * Takes over runs whose owner fell silent, and runs of this process that nobody in it works on any more, such as
     * those whose work ended when the database was gone.
     *
     * @param working runs this process works on
     */
    public List<Orphan> takeOver(String owner, Collection<Long> working, Duration silence) {
        return jdbc.sql("""
                        update run set owner = :owner, epoch = epoch + 1, beat_at = clock_timestamp()
                        where state in ('PREPARING', 'SENDING')
                          and beat_at < clock_timestamp() - make_interval(secs => :silence)
                          and (owner <> :owner or id <> all (:working))
                        returning id, epoch, state
                        """)
                .param("owner", owner)
                .param("working", working.toArray(Long[]::new))
                .param("silence", silence.toMillis() / 1000.0)
                .query((row, number) -> new Orphan(
                        new Tenure(row.getLong("id"), owner, row.getInt("epoch")),
                        RunState.valueOf(row.getString("state"))))
                .list();
    }
}

package remitto.server.job;

import java.util.Optional;
import org.springframework.jdbc.core.simple.JdbcClient;
import org.springframework.stereotype.Component;
import remitto.server.platform.Rows;

/** Jobs as every server sees them. Times are the database's. */
@Component
class JobTable {
    /** A server that beats no more does not go on. */
    private static final String LOST = "beat_at < now() - interval '20 seconds'";

    private final JdbcClient jdbc;

    JobTable(JdbcClient jdbc) {
        this.jdbc = jdbc;
    }

    long add(String who) {
        return jdbc.sql("insert into job (asked_by, state) values (?, 'UNDER_WAY') returning id")
                .param(who)
                .query(Long.class)
                .single();
    }

    /** Looks at one's own job. */
    Optional<Job> look(long id, String who) {
        return jdbc.sql(
                        "update job set looked_at = now() where id = ? and asked_by = ? returning id, state, doing, rows_done, "
                                + "result, problem, " + LOST + " as lost")
                .params(id, who)
                .query((row, number) -> {
                    Job.State state = Job.State.valueOf(row.getString("state"));
                    boolean lost = state == Job.State.UNDER_WAY && row.getBoolean("lost");
                    return new Job(
                            row.getLong("id"),
                            lost ? Job.State.FAILED : state,
                            row.getString("doing"),
                            row.getLong("rows_done"),
                            Rows.optionalText(row, "result"),
                            lost ? "The server that worked on it stopped. Try again." : row.getString("problem"));
                })
                .optional();
    }

    /** @return whether it was under way */
    boolean cancel(long id, String who) {
        return jdbc.sql("update job set state = 'CANCELLED' where id = ? and asked_by = ? and state = 'UNDER_WAY'")
                        .params(id, who)
                        .update()
                > 0;
    }

    /** @return whether it is to go on: not cancelled, and looked at within a minute */
    boolean beat(long id, String doing, long rows) {
        return jdbc.sql("""
                        update job set beat_at = now(), doing = ?, rows_done = ?,
                          state = case when looked_at < now() - interval '1 minute' then 'CANCELLED' else state end
                        where id = ? and state = 'UNDER_WAY' returning state = 'UNDER_WAY'
                        """)
                .params(doing, rows, id)
                .query(Boolean.class)
                .optional()
                .orElse(false);
    }

    void done(long id, String result, long rows) {
        jdbc.sql("""
                        update job set state = 'DONE', result = ?::jsonb, rows_done = ?, beat_at = now()
                        where id = ? and state = 'UNDER_WAY'
                        """).params(result, rows, id).update();
    }

    void failed(long id, String problem) {
        jdbc.sql("update job set state = 'FAILED', problem = ?, beat_at = now() where id = ? and state = 'UNDER_WAY'")
                .params(problem, id)
                .update();
    }

    void ended(long id) {
        jdbc.sql("update job set state = 'CANCELLED' where id = ? and state = 'UNDER_WAY'")
                .param(id)
                .update();
    }

    /** Results hold values of records, so that they are not kept. */
    void removeOld() {
        jdbc.sql("delete from job where asked_at < now() - interval '1 hour' and (state <> 'UNDER_WAY' or " + LOST
                        + ")")
                .update();
    }
}

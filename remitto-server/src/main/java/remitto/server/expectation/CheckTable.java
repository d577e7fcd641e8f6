package remitto.server.expectation;

import java.time.Duration;
import java.time.Instant;
import java.util.List;
import org.springframework.jdbc.core.simple.JdbcClient;
import org.springframework.stereotype.Component;
import remitto.server.platform.Rows;

/** Which datasets are to be checked, and which are being checked. */
@Component
class CheckTable {
    /** A check that has not ended by then belonged to a server that stopped. */
    private static final Duration LOST = Duration.ofHours(3);

    private static final Duration DAY = Duration.ofHours(24);
    private static final Duration HOUR = Duration.ofHours(1);

    private final JdbcClient jdbc;

    CheckTable(JdbcClient jdbc) {
        this.jdbc = jdbc;
    }

    /**
     * How checking a dataset goes.
     *
     * @param checking whether a check was asked for or is under way
     * @param problem why the last one failed; blank if it went well
     */
    record CheckState(boolean checking, String problem) {}

    CheckState of(long dataset) {
        return jdbc.sql(
                        "select asked or begun_at is not null as checking, problem from dataset_check where dataset_id = ?")
                .param(dataset)
                .query((row, number) -> new CheckState(row.getBoolean("checking"), row.getString("problem")))
                .optional()
                .orElse(new CheckState(false, ""));
    }

    /** A check that is under way may have read what has changed since, so that another follows it. */
    void ask(long dataset) {
        jdbc.sql("""
                        insert into dataset_check (dataset_id, asked) values (?, true)
                        on conflict (dataset_id) do update set asked = true
                        """).param(dataset).update();
    }

    /** Datasets to be read: somebody asked for it, or something is expected of them and nobody read them for a day, nor tried to. */
    List<Long> due(Instant now) {
        return jdbc.sql("""
                        select d.id from dataset d left join dataset_check c on c.dataset_id = d.id
                        where d.archived_at is null and d.live_version is not null
                          and (c.begun_at is null or c.begun_at < :lost)
                          and (coalesce(c.asked, false)
                            or (c.tried_at is null or c.tried_at < :day)
                              and not exists (select from dataset_read r where r.dataset_id = d.id and r.read_at >= :day)
                              and exists (select from dataset_version v where v.dataset_id = d.id
                                and v.number = d.live_version
                                and jsonb_array_length(coalesce(v.definition -> 'expectations', '[]')) > 0))
                        order by coalesce(c.asked, false) desc, d.id
                        """)
                .param("lost", Rows.time(now.minus(LOST)))
                .param("day", Rows.time(now.minus(DAY)))
                .query(Long.class)
                .list();
    }

    /** @return whether no other server begins it or has begun it since it was due */
    boolean begin(long dataset, Instant now) {
        return jdbc.sql("""
                        insert into dataset_check (dataset_id, begun_at, tried_at) values (:dataset, :now, :now)
                        on conflict (dataset_id) do update set begun_at = :now, tried_at = :now, asked = false
                        where (dataset_check.begun_at is null or dataset_check.begun_at < :lost)
                          and (dataset_check.asked or dataset_check.tried_at is null or dataset_check.tried_at < :day)
                        """)
                        .param("dataset", dataset)
                        .param("now", Rows.time(now))
                        .param("lost", Rows.time(now.minus(LOST)))
                        .param("day", Rows.time(now.minus(DAY)))
                        .update()
                == 1;
    }

    void end(long dataset, String problem) {
        jdbc.sql("update dataset_check set begun_at = null, problem = ? where dataset_id = ?")
                .params(problem, dataset)
                .update();
    }

    /** Datasets whose rows are to be counted: something is expected of their number or age, and nobody looked for an hour. */
    List<Long> toBeCounted(Instant now) {
        return jdbc.sql("""
                        select d.id from dataset d join dataset_version v on v.dataset_id = d.id and v.number = d.live_version
                        left join dataset_check c on c.dataset_id = d.id
                        where d.archived_at is null and (d.seen_at is null or d.seen_at < :hour)
                          and (c.counted_at is null or c.counted_at < :hour)
                          and jsonb_path_exists(v.definition,
                            '$.expectations[*].demand.kind ? (@ == "fresh" || @ == "row-count")')
                        """)
                .param("hour", Rows.time(now.minus(HOUR)))
                .query(Long.class)
                .list();
    }

    void counted(long dataset, Instant now) {
        jdbc.sql("""
                        insert into dataset_check (dataset_id, counted_at) values (:dataset, :now)
                        on conflict (dataset_id) do update set counted_at = :now
                        """).param("dataset", dataset).param("now", Rows.time(now)).update();
    }
}

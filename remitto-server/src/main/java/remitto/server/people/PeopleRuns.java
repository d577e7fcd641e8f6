package remitto.server.people;

import jakarta.annotation.PreDestroy;
import java.time.Clock;
import java.time.Duration;
import java.time.Instant;
import java.util.Optional;
import java.util.concurrent.ExecutorService;
import java.util.concurrent.Executors;
import java.util.concurrent.ScheduledExecutorService;
import java.util.concurrent.TimeUnit;
import org.slf4j.Logger;
import org.slf4j.LoggerFactory;
import org.springframework.dao.DuplicateKeyException;
import org.springframework.jdbc.core.simple.JdbcClient;
import org.springframework.stereotype.Component;
import remitto.connect.warehouse.WarehouseProblem;
import remitto.server.platform.Json;
import remitto.server.platform.Problem;
import remitto.server.platform.Rows;

/** Runs that join records into persons, one at a time over all server processes. */
@Component
class PeopleRuns {
    private static final Logger LOG = LoggerFactory.getLogger(PeopleRuns.class);
    private static final Duration SILENT = Duration.ofSeconds(60);
    private static final int BEAT_SECONDS = 5;

    private final JdbcClient jdbc;
    private final Json json;
    private final PeopleResolver resolver;
    private final Clock clock;
    private final ExecutorService pool = Executors.newSingleThreadExecutor(task -> new Thread(task, "people"));
    private final ScheduledExecutorService heart =
            Executors.newSingleThreadScheduledExecutor(task -> new Thread(task, "people-beat"));

    PeopleRuns(JdbcClient jdbc, Json json, PeopleResolver resolver, Clock clock) {
        this.jdbc = jdbc;
        this.json = json;
        this.resolver = resolver;
        this.clock = clock;
    }

    /** @param finishedAt absent while it goes on, @param summary present once it went well */
    record PeopleRun(
            long id,
            Instant startedAt,
            String startedBy,
            Optional<Instant> finishedAt,
            String problem,
            Optional<PeopleSummary> summary) {}

    /** The latest run, and the latest that went well, which may be the same. */
    Optional<PeopleRun> latest() {
        return jdbc.sql("select * from identity_run order by id desc limit 1")
                .query((row, number) -> run(row))
                .optional();
    }

    Optional<PeopleRun> latestGood() {
        return jdbc.sql("select * from identity_run where summary is not null order by id desc limit 1")
                .query((row, number) -> run(row))
                .optional();
    }

    private PeopleRun run(java.sql.ResultSet row) throws java.sql.SQLException {
        return new PeopleRun(
                row.getLong("id"),
                Rows.time(row, "started_at"),
                row.getString("started_by"),
                Rows.optionalTime(row, "finished_at"),
                row.getString("problem"),
                Rows.optionalText(row, "summary").map(text -> json.read(text, PeopleSummary.class)));
    }

    /** @throws Problem if one is under way */
    long start(String who) {
        Instant now = clock.instant();
        jdbc.sql("""
                        update identity_run set finished_at = :now, problem = 'Its server stopped; nothing was changed.'
                        where finished_at is null and beat_at < :silent
                        """)
                .param("now", Rows.time(now))
                .param("silent", Rows.time(now.minus(SILENT)))
                .update();
        long id;
        try {
            id = jdbc.sql(
                            "insert into identity_run (started_at, started_by, beat_at) values (:now, :who, :now) returning id")
                    .param("now", Rows.time(now))
                    .param("who", who)
                    .query(Long.class)
                    .single();
        } catch (DuplicateKeyException e) {
            throw Problem.conflict("Records are being joined already; wait until that is done.");
        }
        pool.execute(() -> run(id));
        return id;
    }

    private void run(long id) {
        var beat = heart.scheduleAtFixedRate(() -> beat(id), BEAT_SECONDS, BEAT_SECONDS, TimeUnit.SECONDS);
        try {
            resolver.resolve(id);
        } catch (WarehouseProblem | Problem e) {
            fail(id, e.getMessage() + " Nothing was changed.");
        } catch (RuntimeException e) {
            LOG.error("Joining records in run {} failed", id, e);
            fail(id, "This is our fault; the server's log says what happened. Nothing was changed.");
        } finally {
            beat.cancel(false);
        }
    }

    private void beat(long id) {
        jdbc.sql("update identity_run set beat_at = ? where id = ?")
                .params(Rows.time(clock.instant()), id)
                .update();
    }

    private void fail(long id, String problem) {
        jdbc.sql("update identity_run set finished_at = ?, problem = ? where id = ? and finished_at is null")
                .params(Rows.time(clock.instant()), problem, id)
                .update();
    }

    @PreDestroy
    void stop() {
        heart.shutdownNow();
        pool.shutdownNow();
    }
}

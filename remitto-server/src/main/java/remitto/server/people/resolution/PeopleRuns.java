package remitto.server.people.resolution;

import jakarta.annotation.PreDestroy;
import java.sql.ResultSet;
import java.sql.SQLException;
import java.time.Clock;
import java.time.Duration;
import java.time.Instant;
import java.util.List;
import java.util.Optional;
import java.util.concurrent.ExecutorService;
import java.util.concurrent.Executors;
import java.util.concurrent.ScheduledExecutorService;
import java.util.concurrent.TimeUnit;
import org.slf4j.Logger;
import org.slf4j.LoggerFactory;
import org.springframework.context.ApplicationEventPublisher;
import org.springframework.dao.DuplicateKeyException;
import org.springframework.jdbc.core.simple.JdbcClient;
import org.springframework.stereotype.Component;
import remitto.connect.source.SourceProblem;
import remitto.core.approval.FourEyes;
import remitto.server.people.EntityType;
import remitto.server.people.source.RunProgress;
import remitto.server.platform.ActorName;
import remitto.server.platform.Json;
import remitto.server.platform.Problem;
import remitto.server.platform.Rows;

/** Runs that join records into persons or companies, one at a time over all server processes. */
@Component
public class PeopleRuns {
    private static final Logger LOG = LoggerFactory.getLogger(PeopleRuns.class);
    private static final Duration SILENT = Duration.ofSeconds(60);
    private static final int BEAT_SECONDS = 2;

    private final JdbcClient jdbc;
    private final Json json;
    private final PeopleResolver resolver;
    private final Clock clock;
    private final ApplicationEventPublisher events;
    private final ExecutorService pool = Executors.newSingleThreadExecutor(task -> new Thread(task, "people"));
    private final ScheduledExecutorService heart =
            Executors.newSingleThreadScheduledExecutor(task -> new Thread(task, "people-beat"));

    PeopleRuns(JdbcClient jdbc, Json json, PeopleResolver resolver, Clock clock, ApplicationEventPublisher events) {
        this.jdbc = jdbc;
        this.json = json;
        this.resolver = resolver;
        this.clock = clock;
        this.events = events;
    }

    /**
     * A matching run.
     *
     * @param finishedAt absent while it goes on
     * @param whole whether everything was judged again
     * @param stage what it does now, with {@code done} records dealt with
     * @param stopped why it changed nothing and waits for an approver
     * @param decidedBy who approved or discarded what waited; blank while nobody did
     * @param summary present once it went well
     */
    public record PeopleRun(
            long id,
            EntityType entityType,
            Instant startedAt,
            @ActorName String startedBy,
            Optional<Instant> finishedAt,
            boolean whole,
            String stage,
            long done,
            String problem,
            Optional<PeopleGuard.GuardStop> stopped,
            @ActorName String decidedBy,
            Optional<PeopleSummary> summary) {
        boolean waits() {
            return stopped.isPresent() && decidedBy.isEmpty();
        }
    }

    /** The latest run, and the latest that went well, which may be the same. */
    public Optional<PeopleRun> latest(EntityType entityType) {
        return jdbc.sql("select * from identity_run where about = ? order by id desc limit 1")
                .param(entityType.name())
                .query((row, number) -> run(row))
                .optional();
    }

    public Optional<PeopleRun> latestGood(EntityType entityType) {
        return jdbc.sql("select * from identity_run where about = ? and summary is not null order by id desc limit 1")
                .param(entityType.name())
                .query((row, number) -> run(row))
                .optional();
    }

    /** The latest first. */
    List<PeopleRun> all(EntityType entityType) {
        return jdbc.sql("select * from identity_run where about = ? order by id desc limit 20")
                .param(entityType.name())
                .query((row, number) -> run(row))
                .list();
    }

    public PeopleRun get(long id) {
        return jdbc.sql("select * from identity_run where id = ?")
                .param(id)
                .query((row, number) -> run(row))
                .optional()
                .orElseThrow(() -> Problem.notFound("matching run " + id));
    }

    private PeopleRun run(ResultSet row) throws SQLException {
        return new PeopleRun(
                row.getLong("id"),
                EntityType.valueOf(row.getString("about")),
                Rows.time(row, "started_at"),
                row.getString("started_by"),
                Rows.optionalTime(row, "finished_at"),
                row.getBoolean("whole"),
                row.getString("stage"),
                row.getLong("done"),
                row.getString("problem"),
                Rows.optionalText(row, "stopped").map(text -> json.read(text, PeopleGuard.GuardStop.class)),
                row.getString("decided_by"),
                Rows.optionalText(row, "summary").map(text -> json.read(text, PeopleSummary.class)));
    }

    /**
     * How a run is to be done.
     *
     * @param allowed what an approver allowed it to do
     */
    record Request(EntityType entityType, boolean whole, boolean estimate, Optional<PeopleGuard.Allowed> allowed) {}

    /** @throws Problem if one is under way */
    long start(Request request, String who) {
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
            id = jdbc.sql("""
                            insert into identity_run (about, started_at, started_by, beat_at, whole, stage)
                            values (:about, :now, :who, :now, :whole, 'waiting to begin') returning id
                            """)
                    .param("about", request.entityType().name())
                    .param("now", Rows.time(now))
                    .param("who", who)
                    .param("whole", request.whole())
                    .query(Long.class)
                    .single();
        } catch (DuplicateKeyException e) {
            throw Problem.conflict("Matching is already running. Wait until it is finished.");
        }
        // What waited is overtaken by a run that looks at everything as it is now.
        jdbc.sql("""
                        update identity_run set decided_by = 'a later matching run'
                        where about = ? and id < ? and stopped is not null and decided_by = ''
                        """).params(request.entityType().name(), id).update();
        pool.execute(() -> run(new PeopleResolver.Task(
                id, request.entityType(), request.whole(), request.estimate(), request.allowed())));
        return id;
    }

    /** Does what a stopped run would have done, unless it has become more meanwhile. */
    long approve(long id, List<FourEyes.Part> parts, String who) {
        PeopleRun run = get(id);
        if (!run.waits()) {
            throw Problem.conflict("This matching run does not wait for approval.");
        }
        FourEyes.against(who, true, parts).ifPresent(why -> {
            throw Problem.conflict(why);
        });
        PeopleGuard.GuardStop seen = run.stopped().orElseThrow();
        decided(id, who);
        jdbc.sql("update identity_run set approved = true where id = ?")
                .param(id)
                .update();
        return start(
                new Request(
                        run.entityType(),
                        run.whole(),
                        false,
                        Optional.of(new PeopleGuard.Allowed(seen.joined(), seen.split(), seen.gone()))),
                who);
    }

    void discard(long id, String who) {
        if (!get(id).waits()) {
            throw Problem.conflict("This matching run does not wait for approval.");
        }
        decided(id, who);
    }

    private void decided(long id, String who) {
        jdbc.sql("update identity_run set decided_by = ? where id = ?")
                .params(who, id)
                .update();
    }

    private void run(PeopleResolver.Task task) {
        Stages stages = new Stages();
        var beat = heart.scheduleAtFixedRate(
                () -> beat(task.runId(), stages), BEAT_SECONDS, BEAT_SECONDS, TimeUnit.SECONDS);
        try {
            resolver.resolve(task, stages);
            if (get(task.runId()).summary().isPresent()) {
                events.publishEvent(new PeopleJoined(task.entityType()));
            }
        } catch (SourceProblem | Problem e) {
            fail(task.runId(), e.getMessage() + " Nothing was changed.");
        } catch (RuntimeException e) {
            LOG.error("Matching run {} failed", task.runId(), e);
            fail(task.runId(), "Something unexpected failed. The server's log has the details. Nothing was changed.");
        } finally {
            beat.cancel(false);
        }
    }

    /** Written by the run, read by the heart. */
    private static final class Stages implements RunProgress {
        private volatile String stage = "beginning";
        private volatile long done;

        @Override
        public void stage(String words) {
            stage = words;
        }

        @Override
        public void done(long records) {
            done = records;
        }
    }

    private void beat(long id, Stages stages) {
        jdbc.sql("update identity_run set beat_at = ?, stage = ?, done = ? where id = ? and finished_at is null")
                .params(Rows.time(clock.instant()), stages.stage, stages.done, id)
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

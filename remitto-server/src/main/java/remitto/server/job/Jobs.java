package remitto.server.job;

import jakarta.annotation.PreDestroy;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.concurrent.ArrayBlockingQueue;
import java.util.concurrent.ConcurrentHashMap;
import java.util.concurrent.Executors;
import java.util.concurrent.RejectedExecutionException;
import java.util.concurrent.ScheduledExecutorService;
import java.util.concurrent.ThreadPoolExecutor;
import java.util.concurrent.TimeUnit;
import java.util.function.Function;
import org.slf4j.Logger;
import org.slf4j.LoggerFactory;
import org.springframework.http.HttpStatus;
import org.springframework.security.concurrent.DelegatingSecurityContextRunnable;
import org.springframework.stereotype.Component;
import remitto.server.asker.Askers;
import remitto.server.platform.Json;
import remitto.server.platform.Problem;

/**
 * Does what somebody asked for by threads of its own, as whoever asked. A job ends when it is cancelled, or when nobody has looked at it
 * for a minute: its queries are ended, and it is told at its next step. Any server can be asked how a job of another goes on.
 */
@Component
public class Jobs {
    private static final Logger LOG = LoggerFactory.getLogger(Jobs.class);
    private static final int AT_A_TIME = 2;
    private static final int WAITING = 10;
    private static final long BEAT_SECONDS = 2;

    private final JobTable table;
    private final Askers askers;
    private final Json json;
    private final Map<Long, UnderWay> underWay = new ConcurrentHashMap<>();
    private final ThreadPoolExecutor pool = new ThreadPoolExecutor(
            AT_A_TIME,
            AT_A_TIME,
            1,
            TimeUnit.MINUTES,
            new ArrayBlockingQueue<>(WAITING),
            task -> new Thread(task, "job"));
    private final ScheduledExecutorService beats =
            Executors.newSingleThreadScheduledExecutor(task -> new Thread(task, "job-beats"));

    Jobs(JobTable table, Askers askers, Json json) {
        this.table = table;
        this.askers = askers;
        this.json = json;
        beats.scheduleWithFixedDelay(this::beat, BEAT_SECONDS, BEAT_SECONDS, TimeUnit.SECONDS);
        beats.scheduleWithFixedDelay(this::removeOld, 1, 1, TimeUnit.MINUTES);
    }

    private static final class UnderWay implements JobProgress {
        private volatile String doing = "";
        private volatile long rows;
        private volatile boolean ended;

        @Override
        public void doing(String words) {
            doing = words;
            goOn();
        }

        /** Told by the job's own thread alone. */
        @Override
        public void rows(int more) {
            long before = rows;
            rows = before + more;
            goOn();
        }

        private void goOn() {
            if (ended) {
                throw new JobCancelled();
            }
        }
    }

    /**
     * Begins a job as the current user.
     *
     * @param work gives the result, which is kept as JSON
     * @throws Problem if too many are waiting
     */
    public Job begin(String who, Function<JobProgress, ?> work) {
        long id = table.add(who);
        UnderWay job = new UnderWay();
        underWay.put(id, job);
        try {
            pool.execute(new DelegatingSecurityContextRunnable(
                    () -> askers.asking(() -> job.ended, () -> run(id, job, work))));
        } catch (RejectedExecutionException e) {
            underWay.remove(id);
            table.ended(id);
            throw new Problem(
                    HttpStatus.SERVICE_UNAVAILABLE, "Too many jobs are running. Try again shortly.", List.of());
        }
        return look(id, who);
    }

    private void run(long id, UnderWay job, Function<JobProgress, ?> work) {
        try {
            job.goOn();
            Object result = work.apply(job);
            table.done(id, json.write(result), job.rows);
        } catch (JobCancelled e) {
            table.ended(id);
        } catch (Problem e) {
            table.failed(id, String.valueOf(e.getMessage()));
        } catch (RuntimeException e) {
            if (job.ended) {
                table.ended(id);
            } else {
                LOG.error("Job {} failed", id, e);
                table.failed(id, "Something unexpected failed. The server's log has the details.");
            }
        } finally {
            underWay.remove(id);
        }
    }

    /** Looks at one's own job, which keeps it going. */
    public Job look(long id, String who) {
        return table.look(id, who).orElseThrow(() -> Problem.notFound("job " + id));
    }

    /** Ends one's own job. */
    public Job cancel(long id, String who) {
        if (table.cancel(id, who)) {
            Optional.ofNullable(underWay.get(id)).ifPresent(job -> job.ended = true);
        }
        return look(id, who);
    }

    private void beat() {
        underWay.forEach((id, job) -> {
            try {
                if (!table.beat(id, job.doing, job.rows)) {
                    job.ended = true;
                }
            } catch (RuntimeException e) {
                LOG.warn("The beat of job {} failed: {}", id, e.toString());
            }
        });
    }

    private void removeOld() {
        try {
            table.removeOld();
        } catch (RuntimeException e) {
            LOG.warn("Old jobs are removed later: {}", e.toString());
        }
    }

    @PreDestroy
    void stop() {
        beats.shutdownNow();
        underWay.values().forEach(job -> job.ended = true);
        pool.shutdown();
    }
}

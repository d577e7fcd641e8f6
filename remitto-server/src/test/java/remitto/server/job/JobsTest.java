package remitto.server.job;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import java.time.Duration;
import java.util.ArrayList;
import java.util.List;
import java.util.concurrent.CountDownLatch;
import java.util.concurrent.TimeUnit;
import java.util.concurrent.atomic.AtomicReference;
import java.util.function.Predicate;
import org.junit.jupiter.api.AfterAll;
import org.junit.jupiter.api.BeforeAll;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.TestInstance;
import org.springframework.jdbc.core.simple.JdbcClient;
import remitto.server.harness.TestServer;
import remitto.server.platform.Problem;

/** Work that somebody waits for goes on without their request, tells how far it is, and ends when nobody waits any more. */
@TestInstance(TestInstance.Lifecycle.PER_CLASS)
class JobsTest {
    private static final String ME = "7";
    /** How long a loop waits before it says that what it waits for does not come. */
    private static final Duration PATIENCE = Duration.ofSeconds(60);

    private TestServer server;
    private Jobs jobs;
    private JdbcClient jdbc;

    @BeforeAll
    void start() {
        server = TestServer.start();
        jobs = server.bean(Jobs.class);
        jdbc = server.bean(JdbcClient.class);
    }

    @AfterAll
    void stop() {
        server.close();
    }

    private Job until(long id, Predicate<Job> wanted) throws InterruptedException {
        long end = System.nanoTime() + PATIENCE.toNanos();
        Job job = jobs.look(id, ME);
        while (!wanted.test(job)) {
            assertThat(System.nanoTime()).as("still %s", job).isLessThan(end);
            Thread.sleep(50);
            job = jobs.look(id, ME);
        }
        return job;
    }

    private Job ended(long id) throws InterruptedException {
        return until(id, job -> job.state() != Job.State.UNDER_WAY);
    }

    @Test
    void itTellsHowFarItIsAndThenWhatCameOfIt() throws Exception {
        CountDownLatch half = new CountDownLatch(1);
        Job begun = jobs.begin(ME, progress -> {
            progress.doing("the first half");
            progress.rows(500);
            progress.rows(40);
            await(half);
            progress.rows(60);
            return List.of("a", "b");
        });
        assertThat(begun.state()).isEqualTo(Job.State.UNDER_WAY);
        Job seen = until(begun.id(), job -> job.rows() > 0);
        assertThat(seen.rows()).isEqualTo(540);
        assertThat(seen.doing()).isEqualTo("the first half");
        assertThat(seen.result()).isEmpty();
        half.countDown();
        Job done = ended(begun.id());
        assertThat(done.state()).isEqualTo(Job.State.DONE);
        assertThat(done.rows()).isEqualTo(600);
        assertThat(done.result()).contains("[\"a\", \"b\"]");
    }

    private static void await(CountDownLatch latch) {
        try {
            assertThat(latch.await(PATIENCE.toSeconds(), TimeUnit.SECONDS)).isTrue();
        } catch (InterruptedException e) {
            Thread.currentThread().interrupt();
            throw new IllegalStateException(e);
        }
    }

    /** Goes on for ever unless it is told to end. */
    private static Object forEver(JobProgress progress, AtomicReference<String> end) {
        try {
            while (true) {
                progress.rows(1);
                Thread.onSpinWait();
            }
        } catch (JobCancelled e) {
            end.set("told");
            throw e;
        }
    }

    @Test
    void whoeverAskedCanEndIt() throws Exception {
        AtomicReference<String> end = new AtomicReference<>("not told");
        Job job = jobs.begin(ME, progress -> forEver(progress, end));
        until(job.id(), one -> one.rows() > 0);
        assertThatThrownBy(() -> jobs.cancel(job.id(), "8")).isInstanceOf(Problem.class);
        assertThatThrownBy(() -> jobs.look(job.id(), "8")).isInstanceOf(Problem.class);
        assertThat(jobs.cancel(job.id(), ME).state()).isEqualTo(Job.State.CANCELLED);
        becomes(end, "told");
    }

    private static void becomes(AtomicReference<String> end, String wanted) throws InterruptedException {
        long until = System.nanoTime() + PATIENCE.toNanos();
        while (!end.get().equals(wanted) && System.nanoTime() < until) {
            Thread.sleep(50);
        }
        assertThat(end).hasValue(wanted);
    }

    @Test
    void nobodyLooksForAMinuteAndItEnds() throws Exception {
        AtomicReference<String> end = new AtomicReference<>("not told");
        Job job = jobs.begin(ME, progress -> forEver(progress, end));
        jdbc.sql("update job set looked_at = now() - interval '61 seconds' where id = ?")
                .param(job.id())
                .update();
        becomes(end, "told");
        assertThat(ended(job.id()).state()).isEqualTo(Job.State.CANCELLED);
    }

    /** Its thread is in a query of hours, where nothing asks whether to go on. */
    @Test
    void aQueryThatItWaitsForIsEndedToo() throws Exception {
        Job job = jobs.begin(ME, progress -> {
            progress.rows(1);
            return jdbc.sql("select count(*) from generate_series(1, 1000000) x, generate_series(1, 1000000) y")
                    .query(Long.class)
                    .single();
        });
        until(job.id(), one -> one.rows() > 0);
        jobs.cancel(job.id(), ME);
        long until = System.nanoTime() + PATIENCE.toNanos();
        String running = "select count(*) from pg_stat_activity where state = 'active' and datname = '"
                + server.database() + "' and query like 'select count(*) from generate_series(1, 1000000) x%'";
        while (!server.cluster().text("postgres", running).equals("0") && System.nanoTime() < until) {
            Thread.sleep(100);
        }
        assertThat(server.cluster().text("postgres", running)).isEqualTo("0");
        assertThat(jobs.look(job.id(), ME).state()).isEqualTo(Job.State.CANCELLED);
    }

    @Test
    void aProblemIsToldAndAFaultOfOursIsNot() throws Exception {
        Job problem = jobs.begin(ME, progress -> {
            throw Problem.invalid("The route cannot be used.");
        });
        assertThat(ended(problem.id()).problem()).isEqualTo("The route cannot be used.");
        Job fault = jobs.begin(ME, progress -> {
            throw new IllegalStateException("secret of the house");
        });
        Job seen = ended(fault.id());
        assertThat(seen.state()).isEqualTo(Job.State.FAILED);
        assertThat(seen.problem()).doesNotContain("secret");
    }

    @Test
    void oneWhoseServerStoppedIsSeenToHaveFailed() {
        long id = jdbc.sql("""
                        insert into job (asked_by, state, beat_at) values ('7', 'UNDER_WAY', now() - interval '21 seconds')
                        returning id
                        """).query(Long.class).single();
        assertThat(jobs.look(id, ME).state()).isEqualTo(Job.State.FAILED);
        assertThat(jobs.look(id, ME).problem()).contains("Try again");
    }

    @Test
    void tooManyAreRefusedAndNothingIsLeftBehind() throws Exception {
        CountDownLatch go = new CountDownLatch(1);
        List<Long> begun = new ArrayList<>();
        try {
            assertThatThrownBy(() -> {
                        for (int i = 0; i < 50; i++) {
                            begun.add(jobs.begin(ME, progress -> {
                                        await(go);
                                        return "done";
                                    })
                                    .id());
                        }
                    })
                    .isInstanceOf(Problem.class)
                    .hasMessageContaining("Try again");
        } finally {
            go.countDown();
        }
        assertThat(begun).hasSizeBetween(2, 49);
        for (long id : begun) {
            assertThat(ended(id).state()).isEqualTo(Job.State.DONE);
        }
    }

    @Test
    void resultsAreNotKept() {
        long old = jdbc.sql("""
                        insert into job (asked_by, state, asked_at) values ('7', 'DONE', now() - interval '61 minutes') returning id
                        """).query(Long.class).single();
        server.bean(JobTable.class).removeOld();
        assertThatThrownBy(() -> jobs.look(old, ME)).isInstanceOf(Problem.class);
    }
}

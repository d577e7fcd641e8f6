package remitto.server.source;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import java.time.Duration;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import java.util.TimeZone;
import java.util.concurrent.CountDownLatch;
import java.util.concurrent.ExecutorService;
import java.util.concurrent.Executors;
import java.util.concurrent.Future;
import org.junit.jupiter.api.AfterAll;
import org.junit.jupiter.api.AfterEach;
import org.junit.jupiter.api.BeforeAll;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.TestInstance;
import remitto.connect.database.CheckedTexts;
import remitto.connect.database.DatabaseConnections;
import remitto.connect.database.DatabaseSettings;
import remitto.connect.database.DatabaseSource;
import remitto.connect.outgoing.AddressGuard;
import remitto.connect.postgres.PostgresDialect;
import remitto.connect.source.Readers;
import remitto.connect.source.Reading;
import remitto.connect.source.RowSource;
import remitto.connect.source.SourceProblem;
import remitto.connect.source.SourceProblem.Kind;
import remitto.connect.source.SourceQuery;
import remitto.server.harness.Awaited;
import remitto.server.harness.TestCluster;
import remitto.server.harness.TestServer;

/** A connection to a warehouse serves one reading after the other, and the next finds nothing of the one before. */
@TestInstance(TestInstance.Lifecycle.PER_CLASS)
class KeptConnectionsTest {
    private static final Duration LONG = Duration.ofSeconds(20);

    private TestServer server;
    private TestCluster cluster;
    private DatabaseConnections<DatabaseSettings> connections;

    @BeforeAll
    void start() {
        server = TestServer.start();
        cluster = server.cluster();
    }

    @AfterAll
    void stop() {
        server.close();
    }

    @BeforeEach
    void open() {
        connections = DatabaseConnections.kept(PostgresDialect.dialect());
    }

    @AfterEach
    void close() {
        connections.close();
    }

    private RowSource warehouse(String password, Readers readers) {
        return new DatabaseSource<>(
                new DatabaseSettings(
                        "127.0.0.1",
                        cluster.port(),
                        server.warehouse().database(),
                        "shop_reader",
                        password,
                        DatabaseSettings.Tls.OFF),
                new DatabaseSource.Tools<>(
                        new AddressGuard(List.of("127.0.0.1")), connections, new CheckedTexts(), readers));
    }

    private RowSource warehouse() {
        return warehouse(cluster.password(), cancel -> () -> {});
    }

    private static String first(RowSource warehouse, String sql, Duration timeout) {
        return warehouse
                .preview(SourceQuery.text(sql), 1, timeout)
                .rows()
                .get(0)
                .get(0)
                .orElse("nothing");
    }

    private static Reading reading(String sql, String column) {
        return Reading.all(SourceQuery.text(sql), List.of(column), LONG);
    }

    private String first(String sql) {
        return first(warehouse(), sql, LONG);
    }

    private String backend() {
        return first("select pg_backend_pid()");
    }

    @Test
    void oneServesReadingsOneAfterTheOther() {
        String backend = backend();
        assertThat(first("select count(*) from shop.customers")).isEqualTo("40");
        assertThat(backend()).isEqualTo(backend);
        connections.close();
        assertThat(cluster.text("postgres", "select count(*) from pg_stat_activity where pid = " + backend))
                .as("closed with the server")
                .isEqualTo("0");
    }

    @Test
    void twoReadingsAtATimeHaveTwo() {
        RowSource other = warehouse();
        warehouse().read(reading("select pg_backend_pid() as pid", "pid"), cells -> {
            assertThat(first(other, "select pg_backend_pid()", LONG)).isNotEqualTo(cells[0]);
            return true;
        });
    }

    @Test
    void whatAReadingSetInItsSessionIsForgotten() {
        String backend = backend();
        String path = first("select current_setting('search_path')");
        assertThat(first("select set_config('search_path', 'pg_temp', false)")).isEqualTo("pg_temp");
        assertThat(first("select set_config('default_transaction_read_only', 'off', false)"))
                .isEqualTo("off");
        assertThat(first("select set_config('TimeZone', 'Asia/Tokyo', false)")).isEqualTo("Asia/Tokyo");
        assertThat(first("select current_setting('search_path')")).isEqualTo(path);
        assertThat(first("select current_setting('default_transaction_read_only')"))
                .isEqualTo("on");
        assertThat(first("select current_setting('transaction_read_only')")).isEqualTo("on");
        assertThat(first("select current_setting('TimeZone')")).isEqualTo("UTC");
        assertThat(backend()).as("all on one connection").isEqualTo(backend);
    }

    /** A time with its zone is told as a text, which must not depend on where the server stands. */
    @Test
    void timesAreToldInUtcWhateverTheZoneOfThisMachine() {
        TimeZone here = TimeZone.getDefault();
        TimeZone.setDefault(TimeZone.getTimeZone("Asia/Tokyo"));
        try {
            for (int i = 0; i < 2; i++) {
                assertThat(first("select timestamptz '2026-11-30 12:00:00+01'")).isEqualTo("2026-11-30 11:00:00+00");
            }
        } finally {
            TimeZone.setDefault(here);
        }
    }

    @Test
    void whatAReadingLockedIsLetGoOf() {
        String backend = backend();
        first("select 'locked' from (select pg_advisory_lock(4711)) as x");
        assertThat(cluster.text(
                        "postgres", "select count(*) from pg_locks where locktype = 'advisory' and pid = " + backend))
                .isEqualTo("0");
        assertThat(backend()).isEqualTo(backend);
    }

    @Test
    void eachReadingHasATimeLimitOfItsOwn() {
        String backend = backend();
        assertThatThrownBy(() -> first(warehouse(), "select pg_sleep(20)", Duration.ofMillis(200)))
                .isInstanceOf(SourceProblem.class)
                .satisfies(
                        problem -> assertThat(((SourceProblem) problem).kind()).isEqualTo(Kind.TOOK_TOO_LONG));
        assertThat(first("select 'awake' from (select pg_sleep(0.5)) as x")).isEqualTo("awake");
        assertThat(first(warehouse(), "select current_setting('statement_timeout')", Duration.ofSeconds(7)))
                .isEqualTo("7s");
        assertThat(backend()).isEqualTo(backend);
    }

    @Test
    void aReadingThatStopsBeforeItsEndLeavesTheConnectionUsable() {
        String backend = backend();
        int[] seen = new int[1];
        warehouse().read(reading("select n from generate_series(1, 100000) as n", "n"), cells -> ++seen[0] < 10);
        assertThat(seen[0]).isEqualTo(10);
        assertThat(backend()).isEqualTo(backend);
    }

    /** A cancellation that the server hears late must not end somebody else's query. */
    @Test
    void whatWasCancelledIsNotUsedAgain() throws Exception {
        String backend = backend();
        CountDownLatch begun = new CountDownLatch(1);
        Runnable[] cancel = new Runnable[1];
        RowSource watched = warehouse(cluster.password(), how -> {
            cancel[0] = how;
            begun.countDown();
            return () -> {};
        });
        ExecutorService asker = Executors.newSingleThreadExecutor();
        try {
            Future<String> answer = asker.submit(() -> first(watched, "select pg_sleep(20)", LONG));
            begun.await();
            Awaited.until("the query sleeps", () -> !cluster.text(
                            "postgres",
                            "select count(*) from pg_stat_activity where wait_event = 'PgSleep' and pid = " + backend)
                    .equals("0"));
            cancel[0].run();
            assertThatThrownBy(answer::get).cause().isInstanceOf(SourceProblem.class);
        } finally {
            asker.shutdownNow();
        }
        assertThat(backend()).isNotEqualTo(backend);
        cancel[0].run();
        assertThat(backend()).as("a word that comes after the end ends nothing").isNotEmpty();
    }

    @Test
    void oneThatTheServerEndedIsReplaced() {
        String backend = backend();
        cluster.run("postgres", "select pg_terminate_backend(" + backend + ")");
        Awaited.until("the backend is gone", () -> cluster.text(
                        "postgres", "select count(*) from pg_stat_activity where pid = " + backend)
                .equals("0"));
        assertThat(backend()).isNotEqualTo(backend);
    }

    @Test
    void aWrongPasswordGetsNoConnectionThatARightOneMade() {
        backend();
        Optional<Kind> kind = Optional.empty();
        try {
            first(warehouse("not it", cancel -> () -> {}), "select 1", LONG);
        } catch (SourceProblem problem) {
            kind = Optional.of(problem.kind());
        }
        assertThat(kind).contains(Kind.SIGN_IN_REFUSED);
    }

    /** So many readings at a time, each within another, and then one more. */
    private void nested(int more, Runnable last) {
        if (more == 0) {
            last.run();
            return;
        }
        warehouse().read(reading("select 1 as n", "n"), cells -> {
            nested(more - 1, last);
            return false;
        });
    }

    @Test
    void whoeverGetsNoTurnWithinTheirOwnTimeIsTold() {
        nested(40, () -> assertThatThrownBy(() -> first(warehouse(), "select 1", Duration.ofMillis(300)))
                .isInstanceOfSatisfying(SourceProblem.class, problem -> assertThat(problem.kind())
                        .isEqualTo(Kind.BUSY)));
        nested(39, () -> assertThat(first("select 1")).isEqualTo("1"));
    }

    @Test
    void whoeverHasTimeWaitsForATurn() throws Exception {
        ExecutorService asker = Executors.newSingleThreadExecutor();
        try {
            List<Future<String>> waiting = new ArrayList<>();
            nested(40, () -> waiting.add(asker.submit(() -> first("select 'my turn'"))));
            assertThat(waiting.get(0).get()).isEqualTo("my turn");
        } finally {
            asker.shutdownNow();
        }
    }
}

package remitto.server.manifest;

import static org.assertj.core.api.Assertions.assertThat;

import java.sql.Connection;
import java.sql.Statement;
import java.util.List;
import java.util.concurrent.Callable;
import java.util.concurrent.ExecutorService;
import java.util.concurrent.Executors;
import java.util.concurrent.Future;
import java.util.stream.IntStream;
import org.junit.jupiter.api.AfterAll;
import org.junit.jupiter.api.BeforeAll;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.TestInstance;
import remitto.server.harness.TestServer;

/** Partitions are there before a run needs them, however many ask for them at once, and nobody who reads waits for one. */
@TestInstance(TestInstance.Lifecycle.PER_CLASS)
class LinePartitionsTest {
    private TestServer server;

    @BeforeAll
    void start() {
        server = TestServer.start();
    }

    @AfterAll
    void stop() {
        server.close();
    }

    private String attached(String table) {
        return server.cluster()
                .text(
                        server.database(),
                        "select string_agg(inhrelid::regclass::text, ' ' order by inhrelid::regclass::text) from pg_inherits"
                                + " where inhparent = '" + table + "'::regclass");
    }

    @Test
    void thoseOfTheNextRunsAreThereFromTheStart() {
        assertThat(attached("manifest_line")).startsWith("manifest_line_0 manifest_line_500");
        assertThat(attached("line_outcome")).startsWith("line_outcome_0 line_outcome_500");
    }

    @Test
    void manyAtOnceMakeEachOnce() throws Exception {
        LinePartitions partitions = server.bean(LinePartitions.class);
        ExecutorService pool = Executors.newFixedThreadPool(8);
        try {
            for (int block = 10; block < 16; block++) {
                long run = block * 500L + 3;
                List<Callable<Boolean>> asks = IntStream.range(0, 8)
                        .<Callable<Boolean>>mapToObj(i -> () -> {
                            partitions.ensure(run);
                            return true;
                        })
                        .toList();
                for (Future<Boolean> asked : pool.invokeAll(asks)) {
                    assertThat(asked.get()).isTrue();
                }
                assertThat(attached("manifest_line")).contains("manifest_line_" + block * 500);
            }
        } finally {
            pool.shutdownNow();
        }
    }

    /** A reader in the middle of a long look at the lines keeps no partition from being made. */
    @Test
    void nobodyWhoReadsIsWaitedFor() throws Exception {
        try (Connection reader = server.cluster().superuser(server.database());
                Statement statement = reader.createStatement()) {
            reader.setAutoCommit(false);
            statement.executeQuery("select count(*) from manifest_line");
            server.bean(LinePartitions.class).ensure(90_001);
            assertThat(attached("manifest_line")).contains("manifest_line_90000");
        }
    }
}

package remitto.server.landing;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import java.sql.Connection;
import java.sql.Statement;
import java.time.Duration;
import javax.sql.DataSource;
import org.junit.jupiter.api.Test;
import org.springframework.jdbc.core.JdbcTemplate;
import org.springframework.jdbc.core.simple.JdbcClient;
import org.springframework.transaction.support.TransactionTemplate;
import remitto.server.harness.TestServer;
import remitto.server.platform.Problem;

/** Whoever brings rows in keeps others out until it is done; whoever waits for that too long is told. */
class LandedLockTest {
    @Test
    void isWaitedForAndNotForever() throws Exception {
        try (TestServer server = TestServer.start();
                Connection other = server.bean(DataSource.class).getConnection();
                Statement statement = other.createStatement()) {
            JdbcTemplate template = server.bean(JdbcTemplate.class);
            LandedLock lock = new LandedLock(template, server.bean(JdbcClient.class), Duration.ofMillis(200));
            TransactionTemplate transactions = server.bean(TransactionTemplate.class);
            other.setAutoCommit(false);
            statement.execute("select pg_advisory_xact_lock(7041890, 4)");
            assertThat(transactions.<Boolean>execute(status -> lock.isFree(LandedLock.Of.FILE_SET, 4)))
                    .isFalse();
            assertThat(transactions.<Boolean>execute(status -> lock.isFree(LandedLock.Of.RECEIVER, 4)))
                    .isTrue();
            assertThatThrownBy(() -> transactions.executeWithoutResult(
                            status -> lock.take(LandedLock.Of.FILE_SET, 4, "Berth lists")))
                    .isInstanceOf(Problem.class)
                    .hasMessage("Rows of Berth lists are being imported, and a row that is not yet stored cannot be"
                            + " erased. Try again when the import has finished.");
            other.rollback();
            transactions.executeWithoutResult(status -> {
                String before = template.queryForObject("show lock_timeout", String.class);
                lock.take(LandedLock.Of.FILE_SET, 4, "Berth lists");
                assertThat(template.queryForObject("show lock_timeout", String.class))
                        .isEqualTo(before);
            });
        }
    }
}

package remitto.server.platform;

import static org.assertj.core.api.Assertions.assertThat;

import java.sql.SQLException;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.ValueSource;
import org.springframework.dao.DataIntegrityViolationException;
import org.springframework.jdbc.CannotGetJdbcConnectionException;
import org.springframework.transaction.CannotCreateTransactionException;

/** SQLSTATEs are those of PostgreSQL's manual, appendix A. */
class DatabaseTroubleTest {
    private static RuntimeException wrapped(String state) {
        return new IllegalStateException(
                "sending failed", new DataIntegrityViolationException("x", new SQLException("why", state)));
    }

    @ParameterizedTest
    @ValueSource(
            strings = {"08006", "08001", "25P02", "40001", "40P01", "53100", "53300", "57P01", "57P02", "57P03", "58030"
            })
    void whatEndsWithTheDatabaseGoesOnWithIt(String state) {
        assertThat(DatabaseTrouble.ended(wrapped(state))).isTrue();
    }

    @ParameterizedTest
    @ValueSource(strings = {"22001", "23505", "42P01", "42501", "XX000", "57014", "53400", "", "0800"})
    void whatIsOurOwnFaultStaysOne(String state) {
        assertThat(DatabaseTrouble.ended(wrapped(state))).isFalse();
    }

    @Test
    void noConnectionIsTroubleWhateverItsState() {
        assertThat(DatabaseTrouble.ended(new CannotGetJdbcConnectionException("none free")))
                .isTrue();
        assertThat(DatabaseTrouble.ended(new CannotCreateTransactionException("none free")))
                .isTrue();
        assertThat(DatabaseTrouble.ended(new NullPointerException("ours"))).isFalse();
        assertThat(DatabaseTrouble.ended(wrappedNone())).isFalse();
    }

    private static RuntimeException wrappedNone() {
        return new IllegalStateException(new SQLException("no state"));
    }
}

package remitto.server.platform;

import java.util.List;
import java.util.function.Supplier;
import org.springframework.dao.DataAccessException;
import org.springframework.dao.QueryTimeoutException;
import org.springframework.http.HttpStatus;
import org.springframework.jdbc.CannotGetJdbcConnectionException;
import org.springframework.stereotype.Component;
import org.springframework.transaction.CannotCreateTransactionException;

/** Questions over everybody that people ask while they edit: from a small pool of their own, with a time limit. */
@Component
public class Questions {
    private final LargeQueries large;

    Questions(LargeQueries large) {
        this.large = large;
    }

    /** @throws Problem if too many are asked at once, or the answer takes too long */
    public <T> T ask(Supplier<T> work) {
        try {
            return Lane.QUESTIONS.call(() -> large.ask(work));
        } catch (CannotCreateTransactionException | CannotGetJdbcConnectionException e) {
            throw new Problem(
                    HttpStatus.SERVICE_UNAVAILABLE,
                    "Too many requests are being answered. Try again shortly.",
                    List.of());
        } catch (QueryTimeoutException e) {
            throw tooLong();
        } catch (DataAccessException e) {
            if (e.getMostSpecificCause() instanceof java.sql.SQLException sql && "57014".equals(sql.getSQLState())) {
                throw tooLong();
            }
            throw e;
        }
    }

    private static Problem tooLong() {
        return new Problem(
                HttpStatus.UNPROCESSABLE_CONTENT,
                "The answer takes more than 30 s. Use fewer conditions, or save the audience and count it.",
                List.of());
    }
}

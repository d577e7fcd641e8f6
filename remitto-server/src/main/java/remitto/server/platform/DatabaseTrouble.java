package remitto.server.platform;

import java.sql.SQLException;
import java.sql.SQLRecoverableException;
import java.sql.SQLTransientException;
import java.util.Set;
import org.springframework.dao.DataAccessResourceFailureException;
import org.springframework.dao.QueryTimeoutException;
import org.springframework.dao.RecoverableDataAccessException;
import org.springframework.dao.TransientDataAccessException;
import org.springframework.transaction.CannotCreateTransactionException;
import org.springframework.transaction.TransactionSystemException;

/** Tells when work ended because Remitto's own database was gone, full or overloaded: it may go on as it is once that is over. */
public final class DatabaseTrouble {
    /**
     * Classes of SQLSTATE, as PostgreSQL's manual lists them (appendix A): 08 connection, 25 a transaction that was broken off, 40
     * rolled back, 53 too few resources (a full disk too), 57 ended by an operator or a crash, 58 the system's fault.
     */
    private static final Set<String> CLASSES = Set.of("08", "25", "40", "53", "57", "58");

    /** What meets a limit would meet it again: a statement that took too long, a limit of the configuration. */
    private static final Set<String> LIMITS = Set.of("57014", "53400");

    private DatabaseTrouble() {}

    /** @param thrown with all that caused it */
    public static boolean ended(Throwable thrown) {
        for (Throwable cause = thrown; cause != null; cause = cause.getCause()) {
            if (cause instanceof QueryTimeoutException
                    || cause instanceof SQLException sql
                            && sql.getSQLState() != null
                            && LIMITS.contains(sql.getSQLState())) {
                return false;
            }
        }
        for (Throwable cause = thrown; cause != null; cause = cause.getCause()) {
            if (cause instanceof DataAccessResourceFailureException
                    || cause instanceof TransientDataAccessException
                    || cause instanceof RecoverableDataAccessException
                    || cause instanceof CannotCreateTransactionException
                    || cause instanceof TransactionSystemException
                    || cause instanceof SQLTransientException
                    || cause instanceof SQLRecoverableException
                    || cause instanceof SQLException sql && isTrouble(sql)) {
                return true;
            }
        }
        return false;
    }

    private static boolean isTrouble(SQLException sql) {
        String state = sql.getSQLState();
        return state != null && state.length() == 5 && CLASSES.contains(state.substring(0, 2));
    }
}

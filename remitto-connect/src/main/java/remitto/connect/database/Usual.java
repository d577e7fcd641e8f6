package remitto.connect.database;

import java.sql.Types;
import java.time.Duration;
import java.util.Optional;
import remitto.connect.source.SourceProblem.Kind;
import remitto.core.dataset.ColumnType;

/** What most kinds of database have in common. */
public final class Usual {
    private Usual() {}

    /** @param type of {@link Types} */
    public static ColumnType type(int type) {
        return switch (type) {
            case Types.TINYINT, Types.SMALLINT, Types.INTEGER, Types.BIGINT -> ColumnType.INTEGER;
            case Types.NUMERIC, Types.DECIMAL, Types.REAL, Types.FLOAT, Types.DOUBLE -> ColumnType.DECIMAL;
            case Types.BIT, Types.BOOLEAN -> ColumnType.BOOLEAN;
            case Types.DATE -> ColumnType.DATE;
            case Types.TIMESTAMP, Types.TIMESTAMP_WITH_TIMEZONE -> ColumnType.TIMESTAMP;
            default -> ColumnType.TEXT;
        };
    }

    /** What is said of a failure that needs no words of the server; empty where it does. */
    public static Optional<String> words(Kind kind, DatabaseSettings settings, Duration timeout) {
        return switch (kind) {
            case SIGN_IN_REFUSED -> Optional.of("The database refused user " + settings.user() + ".");
            case UNREACHABLE -> Optional.of("The database at " + settings + " did not answer.");
            case WOULD_WRITE -> Optional.of("Reading never writes, and this query would.");
            case TOOK_TOO_LONG -> Optional.of("Stopped after " + timeout.toSeconds() + " s, the time limit.");
            case NOT_PERMITTED -> Optional.of("User " + settings.user() + " may not read this.");
            default -> Optional.empty();
        };
    }
}

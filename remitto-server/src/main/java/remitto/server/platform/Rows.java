package remitto.server.platform;

import java.sql.ResultSet;
import java.sql.SQLException;
import java.sql.Timestamp;
import java.time.Instant;
import java.time.OffsetDateTime;
import java.time.ZoneOffset;
import java.util.Optional;

/** Times and absent values between Java and JDBC. */
public final class Rows {
    private Rows() {}

    /** The driver takes no Instant; PostgreSQL keeps microseconds. */
    public static OffsetDateTime time(Instant instant) {
        return instant.atOffset(ZoneOffset.UTC);
    }

    /** For arrays of times, which go over as texts. The end of time is one that PostgreSQL can say. */
    public static String timeText(Instant instant) {
        return instant.equals(Instant.MAX) ? "infinity" : instant.toString();
    }

    public static Instant time(ResultSet row, String column) throws SQLException {
        return optionalTime(row, column).orElseThrow();
    }

    public static Optional<Instant> optionalTime(ResultSet row, String column) throws SQLException {
        Timestamp timestamp = row.getTimestamp(column);
        return Optional.ofNullable(timestamp).map(Timestamp::toInstant);
    }

    public static Optional<Integer> optionalInt(ResultSet row, String column) throws SQLException {
        int value = row.getInt(column);
        return row.wasNull() ? Optional.empty() : Optional.of(value);
    }

    public static Optional<Long> optionalLong(ResultSet row, String column) throws SQLException {
        long value = row.getLong(column);
        return row.wasNull() ? Optional.empty() : Optional.of(value);
    }

    public static Optional<String> optionalText(ResultSet row, String column) throws SQLException {
        return Optional.ofNullable(row.getString(column));
    }
}

package remitto.server.platform;

import java.sql.ResultSet;
import java.sql.SQLException;
import java.time.Instant;

/** Who saved a version of something, when, and what they say of it. */
public record VersionNote(int number, @ActorName String author, Instant savedAt, String note) {
    /** Reads a row with columns of these names; {@code place} is not used. */
    public static VersionNote read(ResultSet row, int place) throws SQLException {
        return new VersionNote(
                row.getInt("number"), row.getString("author"), Rows.time(row, "saved_at"), row.getString("note"));
    }
}

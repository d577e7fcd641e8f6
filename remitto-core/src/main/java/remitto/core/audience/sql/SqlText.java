package remitto.core.audience.sql;

import java.time.Instant;
import java.time.LocalDate;
import java.util.Collection;
import java.util.stream.Collectors;
import remitto.core.audience.AudienceFault;

/** Names and values as they are written in SQL. */
final class SqlText {
    private SqlText() {}

    static String name(String name) {
        return "\"" + plain(name).replace("\"", "\"\"") + "\"";
    }

    static String text(String text) {
        return "'" + plain(text).replace("'", "''") + "'";
    }

    static String texts(Collection<String> texts) {
        return texts.stream().map(SqlText::text).collect(Collectors.joining(", "));
    }

    static String day(LocalDate day) {
        return "date '" + day + "'";
    }

    static String moment(Instant instant) {
        return "timestamptz '" + instant + "'";
    }

    private static String plain(String text) {
        if (text.indexOf('\0') >= 0) {
            throw new AudienceFault("A text with the character NUL cannot be looked for.");
        }
        return text;
    }
}

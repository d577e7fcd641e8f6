package remitto.connect.mariadb;

import java.time.Instant;
import java.time.ZoneOffset;
import java.time.format.DateTimeFormatter;
import java.util.List;
import java.util.Set;
import remitto.connect.database.Lexis;
import remitto.connect.database.Spelling;
import remitto.connect.source.SourceQuery;
import remitto.connect.source.TableText;
import remitto.core.dataset.ColumnType;
import remitto.core.value.Value;

/**
 * SQL as MariaDB reads it in the mode that {@link MariaSessions} sets; lexical rules after the MariaDB documentation, "Identifier
 * Names", "String Literals" and "Comment Syntax".
 *
 * <p>Columns compare by collations that take letters of both cases, or with and without marks, for the same. Keys are texts that are
 * the same only if every character is, so that texts are compared by code points, without padding.
 */
final class MariaSpelling implements Spelling {
    private static final Lexis LEXIS = new Lexis(
            "'\"`",
            "'\"",
            Set.of(Lexis.Rule.HASH_COMMENTS, Lexis.Rule.DASHES_NEED_A_SPACE, Lexis.Rule.SOME_COMMENTS_ARE_RUN),
            List.of("select", "with", "values"));
    private static final DateTimeFormatter MOMENT =
            DateTimeFormatter.ofPattern("yyyy-MM-dd HH:mm:ss.SSSSSS").withZone(ZoneOffset.UTC);

    @Override
    public String query(String text) {
        return LEXIS.query(text);
    }

    @Override
    public String table(SourceQuery.OfTable table) {
        return TableText.select(table, this::quoted, LEXIS::condition);
    }

    @Override
    public String quoted(String name) {
        return name(name);
    }

    static String name(String name) {
        return "`" + name.replace("`", "``") + "`";
    }

    @Override
    public String asText(String expression) {
        return "convert(" + expression + " using utf8mb4) collate utf8mb4_nopad_bin";
    }

    @Override
    public String exact(String column) {
        return asText(column);
    }

    @Override
    public String place(ColumnType type) {
        return switch (type) {
            case TEXT -> "?";
            case INTEGER -> "cast(? as integer)";
            case DECIMAL -> "cast(? as decimal(65, 30))";
            case BOOLEAN -> "cast(? as integer)";
            case DATE -> "cast(? as date)";
            case TIMESTAMP -> "cast(? as datetime(6))";
        };
    }

    /** Moments without their zone, since the session's is UTC; and truth as the number that it is here. */
    @Override
    public String argument(ColumnType type, String text) {
        if (type == ColumnType.TIMESTAMP && type.read(text) instanceof Value.Moment moment) {
            return MOMENT.format(moment.instant());
        }
        if (type == ColumnType.BOOLEAN && type.read(text) instanceof Value.Truth truth) {
            return truth.truth() ? "1" : "0";
        }
        return text;
    }

    @Override
    public String moment(Instant at) {
        return "timestamp '" + MOMENT.format(at) + "'";
    }

    @Override
    public String contains(String column) {
        return "lower(" + asText(column) + ") like lower(?)";
    }

    @Override
    public String pattern(String text) {
        return "%" + text.replace("\\", "\\\\").replace("%", "\\%").replace("_", "\\_") + "%";
    }

    @Override
    public String blank(String column) {
        return "coalesce(trim(convert(" + column + " using utf8mb4)), '') = ''";
    }

    @Override
    public String order(String column, boolean newestFirst) {
        return column + " is null, " + column + (newestFirst ? " desc" : "");
    }

    @Override
    public String atMost(String select, int rows) {
        return select + " limit " + rows;
    }
}

package remitto.connect.postgres;

import java.time.Instant;
import remitto.connect.database.Spelling;
import remitto.connect.source.SourceQuery;
import remitto.connect.source.TableText;
import remitto.core.dataset.ColumnType;

/** SQL as PostgreSQL reads it; lexical rules, casts and patterns after chapters 4, 8 and 9.7 of its manual. */
final class PostgresSpelling implements Spelling {
    @Override
    public String query(String text) {
        return PostgresText.query(text);
    }

    @Override
    public String table(SourceQuery.OfTable table) {
        return PostgresText.query(PostgresTables.select(table));
    }

    @Override
    public String quoted(String name) {
        return TableText.quoted(name);
    }

    @Override
    public String asText(String expression) {
        return expression + "::text";
    }

    @Override
    public String place(ColumnType type) {
        return switch (type) {
            case TEXT -> "?";
            case INTEGER -> "?::bigint";
            case DECIMAL -> "?::numeric";
            case BOOLEAN -> "?::boolean";
            case DATE -> "?::date";
            case TIMESTAMP -> "?::timestamptz";
        };
    }

    @Override
    public String moment(Instant at) {
        return "timestamptz '" + at + "'";
    }

    @Override
    public String contains(String column) {
        return column + "::text ilike ?";
    }

    @Override
    public String pattern(String text) {
        return "%" + text.replace("\\", "\\\\").replace("%", "\\%").replace("_", "\\_") + "%";
    }

    @Override
    public String blank(String column) {
        return "coalesce(btrim(" + column + "::text), '') = ''";
    }

    @Override
    public String order(String column, boolean newestFirst) {
        return column + (newestFirst ? " desc" : "") + " nulls last";
    }

    @Override
    public String atMost(String select, int rows) {
        return select + " limit " + rows;
    }
}

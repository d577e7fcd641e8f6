package remitto.connect.postgres;

import remitto.connect.source.SourceProblem;
import remitto.connect.source.SourceQuery;
import remitto.connect.source.TableText;

/** Names and tables as PostgreSQL takes them. */
final class PostgresTables {
    private PostgresTables() {}

    /** @throws SourceProblem if the filter is not a single condition */
    static String select(SourceQuery.OfTable table) {
        return TableText.select(table, TableText::quoted, PostgresText::condition);
    }

    static String name(String name) {
        return TableText.plain(name, TableText::quoted);
    }
}

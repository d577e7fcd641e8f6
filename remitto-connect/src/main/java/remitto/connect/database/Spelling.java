package remitto.connect.database;

import java.time.Instant;
import remitto.connect.source.SourceProblem;
import remitto.connect.source.SourceQuery;
import remitto.core.dataset.ColumnType;

/** How a kind of database spells what is asked of it. Every expression that goes in comes from here or is quoted by it. */
public interface Spelling {
    /**
     * What somebody wrote, as a query that may stand within other SQL.
     *
     * @throws SourceProblem that says what is wrong and where
     */
    String query(String text);

    /** @throws SourceProblem if the filter is not a single condition */
    String table(SourceQuery.OfTable table);

    /** A name, whatever it holds. */
    String quoted(String name);

    /** An expression as the text that reading it gives. */
    String asText(String expression);

    /** A place for an argument, given as text, that is compared with a column of this type. */
    String place(ColumnType type);

    /** An argument as {@link #place} of its type takes it. */
    default String argument(ColumnType type, String text) {
        return text;
    }

    /** A column so that two values are equal only if they are the same, whatever the server thinks alike. */
    default String exact(String column) {
        return column;
    }

    String moment(Instant at);

    /** A condition with one place, for a {@link #pattern}: that a column contains a text, in whatever letters. */
    String contains(String column);

    /** The argument of {@link #contains}, every character of which stands for itself. */
    String pattern(String text);

    /** That a cell holds nothing but white space, or nothing. */
    String blank(String column);

    /** An order by a column in which rows without a value come last. */
    String order(String column, boolean newestFirst);

    /** A whole select with a limit of rows. */
    String atMost(String select, int rows);

    /** The same query, whichever of the two it is made of. */
    default String of(SourceQuery query) {
        return query instanceof SourceQuery.OfTable table ? table(table) : query(((SourceQuery.OfText) query).text());
    }
}

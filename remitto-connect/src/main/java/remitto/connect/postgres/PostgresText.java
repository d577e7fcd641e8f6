package remitto.connect.postgres;

import java.util.List;
import java.util.Set;
import remitto.connect.database.Lexis;
import remitto.connect.source.SourceProblem;

/** SQL that somebody wrote for PostgreSQL; lexical rules after the PostgreSQL 15 manual, 4.1. */
public final class PostgresText {
    private static final Lexis LEXIS = new Lexis(
            "'\"",
            "",
            Set.of(
                    Lexis.Rule.DOLLAR_QUOTES,
                    Lexis.Rule.ESCAPED_BY_E,
                    Lexis.Rule.COMMENTS_NEST,
                    Lexis.Rule.QUESTION_MARKS_ARE_OPERATORS),
            List.of("select", "with", "values", "table"));

    private PostgresText() {}

    /**
     * A query, without its closing semicolon; a question mark outside quotes is doubled, which the driver reads as the operator that it
     * is in PostgreSQL rather than as a place for an argument.
     *
     * @throws SourceProblem that says what is wrong and where
     */
    public static String query(String sql) {
        return LEXIS.query(sql);
    }

    /**
     * A condition that stands after WHERE, with nothing behind it but a line of its own.
     *
     * @throws SourceProblem that says what is wrong and where
     */
    public static String condition(String sql) {
        return LEXIS.condition(sql);
    }
}

package remitto.connect.database;

import java.util.List;
import java.util.Locale;
import java.util.Set;

/**
 * How a kind of database tells the parts of a text apart: what is quoted, what is a comment, and what a query begins with. Texts are
 * looked at by it before they stand within other SQL, so it has to agree with what the server does in the sessions we open.
 *
 * @param quotes characters that begin and end a constant or a name, doubled where they stand within
 * @param escaping those of them within which a backslash escapes the next character
 * @param queries words that a query begins with, in small letters
 */
public record Lexis(String quotes, String escaping, Set<Rule> rules, List<String> queries) {
    public Lexis {
        rules = Set.copyOf(rules);
        queries = List.copyOf(queries);
    }

    /** What not every kind of database does. */
    public enum Rule {
        /** {@code $tag$ … $tag$} is a constant; else a dollar sign is part of a name. */
        DOLLAR_QUOTES,
        /** {@code E'…'} is a constant with backslashes. */
        ESCAPED_BY_E,
        COMMENTS_NEST,
        /** {@code #} begins a comment. */
        HASH_COMMENTS,
        /** {@code --} begins a comment only before white space. */
        DASHES_NEED_A_SPACE,
        /** The server runs what stands within some comments; such a comment is refused. */
        SOME_COMMENTS_ARE_RUN,
        /** A question mark is an operator; the driver wants it doubled. */
        QUESTION_MARKS_ARE_OPERATORS
    }

    /** ISO/IEC 9075-2, 5.2 and 5.3. */
    public static Lexis standard(String nameQuote) {
        return new Lexis(
                "'\"" + nameQuote.replace("\"", ""), "", Set.of(), List.of("select", "with", "values", "table"));
    }

    boolean has(Rule rule) {
        return rules.contains(rule);
    }

    String queriesInWords() {
        List<String> words =
                queries.stream().map(word -> word.toUpperCase(Locale.ROOT)).toList();
        return String.join(", ", words.subList(0, words.size() - 1)) + " or " + words.get(words.size() - 1);
    }

    /**
     * A query, without its closing semicolon, and with its question marks as the driver wants them.
     *
     * @throws remitto.connect.source.SourceProblem that says what is wrong and where
     */
    public String query(String sql) {
        return SqlText.query(this, sql);
    }

    /**
     * A condition that stands after WHERE, with nothing behind it but a line of its own.
     *
     * @throws remitto.connect.source.SourceProblem that says what is wrong and where
     */
    public String condition(String sql) {
        return SqlText.condition(this, sql);
    }
}

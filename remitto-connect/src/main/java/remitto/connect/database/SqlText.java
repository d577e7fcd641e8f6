package remitto.connect.database;

import java.util.Locale;
import java.util.OptionalInt;
import java.util.Set;
import remitto.connect.database.Lexis.Rule;
import remitto.connect.source.SourceProblem;
import remitto.connect.source.SourceProblem.Kind;

/**
 * SQL that somebody wrote, looked at by itself before it stands within other SQL: one statement, every bracket and quote closed, and
 * a query by its first word. Only then can no text step out of the brackets it is put into.
 */
public final class SqlText {
    private static final int LONGEST = 200_000;
    private static final int DEEPEST = 200;
    /** Statements that are no queries, so that a slip in writing SELECT is told apart from them. */
    private static final Set<String> OTHERS = Set.of(
            "insert",
            "update",
            "delete",
            "merge",
            "create",
            "alter",
            "drop",
            "truncate",
            "copy",
            "grant",
            "revoke",
            "call",
            "do",
            "set",
            "reset",
            "begin",
            "start",
            "commit",
            "rollback",
            "lock",
            "vacuum",
            "explain",
            "execute",
            "prepare",
            "listen",
            "notify",
            "refresh",
            "cluster",
            "reindex",
            "comment",
            "import",
            "load",
            "security",
            "show");

    private final Lexis lexis;
    private final String source;
    private final StringBuilder out = new StringBuilder();
    private int at;
    private int depth;
    private int end = -1;
    private String firstWord = "";
    private boolean saysSomething;

    private SqlText(Lexis lexis, String source) {
        this.lexis = lexis;
        this.source = source;
    }

    /**
     * A query, without its closing semicolon, and with its question marks as the driver wants them.
     *
     * @throws SourceProblem that says what is wrong and where
     */
    static String query(Lexis lexis, String sql) {
        SqlText text = new SqlText(lexis, sql);
        text.read();
        if (text.firstWord.isEmpty()) {
            throw new SourceProblem(Kind.SQL_FAULT, "There is no query yet.");
        }
        if (!lexis.queries().contains(text.firstWord)) {
            throw new SourceProblem(
                    OTHERS.contains(text.firstWord) ? Kind.WOULD_WRITE : Kind.SQL_FAULT,
                    "A query begins with " + lexis.queriesInWords() + ". Reading never writes.",
                    1);
        }
        return text.out.toString().stripTrailing();
    }

    /**
     * A condition that stands after WHERE, with nothing behind it but a line of its own.
     *
     * @throws SourceProblem that says what is wrong and where
     */
    static String condition(Lexis lexis, String sql) {
        SqlText text = new SqlText(lexis, sql);
        text.read();
        if (!text.saysSomething || text.end >= 0) {
            throw new SourceProblem(Kind.SQL_FAULT, "The filter is a single condition, without a semicolon.", 1);
        }
        return text.out.toString().strip();
    }

    private void read() {
        if (source.length() > LONGEST) {
            throw problem("The SQL text is longer than " + LONGEST + " characters.", LONGEST);
        }
        while (at < source.length()) {
            int start = at;
            char c = source.charAt(at);
            if (c == 0) {
                throw problem("The SQL text holds a NUL character.", at);
            }
            if (isComment()) {
                comment();
            } else if (Character.isWhitespace(c)) {
                at++;
            } else {
                afterTheEnd(c);
                saysSomething = true;
                token(c);
            }
            if (end < 0 || start < end) {
                out.append(source, start, at);
                if (c == '?' && at == start + 1 && lexis.has(Rule.QUESTION_MARKS_ARE_OPERATORS)) {
                    out.append('?');
                }
            }
        }
        if (depth > 0) {
            throw problem("A bracket is never closed.", source.length());
        }
    }

    private void afterTheEnd(char c) {
        if (end >= 0 && c != ';') {
            throw problem("One query at a time; this text goes on after a semicolon.", at);
        }
    }

    private void token(char c) {
        if (lexis.quotes().indexOf(c) >= 0) {
            quoted(c, lexis.escaping().indexOf(c) >= 0);
        } else if (c == '$' && lexis.has(Rule.DOLLAR_QUOTES)) {
            dollar();
        } else if (Character.isLetter(c) || c == '_') {
            word();
        } else {
            sign(c);
        }
    }

    private void sign(char c) {
        switch (c) {
            case '(' -> {
                if (++depth > DEEPEST) {
                    throw problem("Brackets are nested deeper than " + DEEPEST + ".", at);
                }
            }
            case ')' -> {
                if (--depth < 0) {
                    throw problem("This bracket closes none.", at);
                }
            }
            case '{', '}' -> throw problem("Curly brackets are not SQL.", at);
            case '?' -> {
                if (!lexis.has(Rule.QUESTION_MARKS_ARE_OPERATORS)) {
                    throw problem(
                            "A question mark stands for an argument, which a query of a dataset does not have.", at);
                }
            }
            case ';' -> {
                if (depth > 0) {
                    throw problem("A semicolon stands within brackets.", at);
                }
                end = end < 0 ? at : end;
            }
            default -> {}
        }
        at++;
    }

    private void word() {
        int start = at;
        while (at < source.length() && isWordPart(source.charAt(at))) {
            at++;
        }
        String word = source.substring(start, at).toLowerCase(Locale.ROOT);
        if (firstWord.isEmpty()) {
            firstWord = word;
        }
        boolean escapes = word.equals("e") && lexis.has(Rule.ESCAPED_BY_E);
        if (escapes && at < source.length() && source.charAt(at) == '\'') {
            quoted('\'', true);
        }
    }

    private static boolean isWordPart(char c) {
        return Character.isLetterOrDigit(c) || c == '_' || c == '$';
    }

    private void quoted(char quote, boolean escapes) {
        int start = at++;
        while (at < source.length()) {
            char c = source.charAt(at++);
            if (escapes && c == '\\') {
                at++;
            } else if (c == quote) {
                if (at < source.length() && source.charAt(at) == quote) {
                    at++;
                } else {
                    return;
                }
            }
        }
        throw problem("A quote is never closed.", start);
    }

    private void dollar() {
        int close = source.indexOf('$', at + 1);
        String tag = close < 0 ? "" : source.substring(at, close + 1);
        if (!tag.matches("\\$([\\p{L}_][\\p{L}\\p{Nd}_]*)?\\$")) {
            throw problem("A dollar sign stands for an argument, which a query of a dataset does not have.", at);
        }
        int last = source.indexOf(tag, close + 1);
        if (last < 0) {
            throw problem("A dollar quote is never closed.", at);
        }
        at = last + tag.length();
    }

    private boolean isComment() {
        return isLineComment() || source.startsWith("/*", at);
    }

    private boolean isLineComment() {
        if (source.charAt(at) == '#') {
            return lexis.has(Rule.HASH_COMMENTS);
        }
        return source.startsWith("--", at)
                && (!lexis.has(Rule.DASHES_NEED_A_SPACE) || at + 2 == source.length() || source.charAt(at + 2) <= ' ');
    }

    private void comment() {
        int start = at;
        if (lexis.has(Rule.SOME_COMMENTS_ARE_RUN) && (source.startsWith("/*!", at) || source.startsWith("/*M!", at))) {
            throw problem("The server would run what this comment holds; write it as SQL, or leave it out.", at);
        }
        if (isLineComment()) {
            while (at < source.length() && source.charAt(at) != '\n' && source.charAt(at) != '\r') {
                at++;
            }
            return;
        }
        int nested = 0;
        do {
            if (source.startsWith("/*", at) && (nested == 0 || lexis.has(Rule.COMMENTS_NEST))) {
                nested++;
                at += 2;
            } else if (source.startsWith("*/", at)) {
                nested--;
                at += 2;
            } else if (at++ >= source.length()) {
                throw problem("A comment is never closed.", start);
            }
        } while (nested > 0);
    }

    private static SourceProblem problem(String message, int index) {
        return new SourceProblem(
                Kind.SQL_FAULT, message, OptionalInt.of(index + 1), new IllegalArgumentException(message));
    }
}

package remitto.connect.mariadb;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import java.util.List;
import java.util.Optional;
import java.util.Random;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;
import remitto.connect.source.SourceProblem;
import remitto.connect.source.SourceQuery;
import remitto.core.dataset.ColumnType;

/** Texts as MariaDB reads them; the rules are those of its documentation, "String Literals", "Identifier Names" and "Comment Syntax". */
class MariaSpellingTest {
    private final MariaSpelling spelling = new MariaSpelling();

    @ParameterizedTest
    @CsvSource(
            delimiter = '|',
            quoteCharacter = '~',
            value = {
                "select 1;                        | select 1",
                "select 1 ; # end                 | select 1",
                "select 1; -- end                 | select 1",
                "select '?', \"?\", `?`           | select '?', \"?\", `?`",
                "select 'a\\'; b'                 | select 'a\\'; b'",
                "select \"a\\\"; b\"             | select \"a\\\"; b\"",
                "select `a``; b`                  | select `a``; b`",
                "select `a\\`                     | select `a\\`",
                "select price$1 from t            | select price$1 from t",
                "select 2--1                      | select 2--1",
                "select 1 /* a /* b */            | select 1 /* a /* b */",
                "values (1), (2)                  | values (1), (2)",
            })
    void aQueryIsTakenWithoutItsSemicolon(String sql, String taken) {
        assertThat(spelling.query(sql)).isEqualTo(taken);
    }

    @ParameterizedTest
    @CsvSource(
            delimiter = '|',
            quoteCharacter = '~',
            value = {
                "select 1)                        | 9  | closes none",
                "select 1; select 2               | 11 | One query at a time",
                "select 'a\\'                     | 8  | quote is never closed",
                "select `a                        | 8  | quote is never closed",
                "select ?                         | 8  | question mark",
                "select 1 /*! + 1 */              | 10 | would run what this comment holds",
                "select 1 /*M! + 1 */             | 10 | would run what this comment holds",
                "select 1 /*                      | 10 | comment is never closed",
                "table guests                     | 1  | begins with SELECT, WITH or VALUES",
                "handler guests open              | 1  | begins with SELECT",
                "set @a = 1                       | 1  | begins with SELECT",
            })
    void whatIsWrongIsSaidWithItsPlace(String sql, int position, String words) {
        assertThatThrownBy(() -> spelling.query(sql))
                .hasMessageContaining(words)
                .satisfies(thrown ->
                        assertThat(((SourceProblem) thrown).position()).hasValue(position));
    }

    /** Whatever pieces a text is made of, one that is taken can be put into brackets and nothing of it is outside them. */
    @Test
    void aTextThatIsTakenNeverLeavesItsBrackets() {
        List<String> pieces = List.of(
                "select 1",
                "(",
                ")",
                ";",
                "'",
                "\"",
                "`",
                "\\",
                "\\'",
                "''",
                "--",
                "-- ",
                "#",
                "\n",
                "/*",
                "*/",
                "/*!",
                "$",
                "$$",
                " ",
                "a",
                "E'",
                "?",
                "{",
                "delete from t");
        Random random = new Random(20261201);
        int taken = 0;
        for (int round = 0; round < 60_000; round++) {
            StringBuilder text = new StringBuilder(random.nextBoolean() ? "select " : "");
            for (int i = random.nextInt(9); i >= 0; i--) {
                text.append(pieces.get(random.nextInt(pieces.size())));
            }
            try {
                String query = spelling.query(text.toString());
                taken++;
                assertThat(depthAtTheEnd("(" + query + "\n"))
                        .as(text.toString())
                        .isEqualTo(1);
            } catch (SourceProblem refused) {
                continue;
            }
        }
        assertThat(taken).isGreaterThan(500);
    }

    /** Read by itself, in the plainest way: how many brackets are open at the end; -1 when one closed that was not, or a quote is open. */
    private static int depthAtTheEnd(String text) {
        int depth = 0;
        int i = 0;
        while (i < text.length()) {
            char c = text.charAt(i);
            if (c == '\'' || c == '"' || c == '`') {
                int j = i + 1;
                while (j < text.length() && text.charAt(j) != c) {
                    j += text.charAt(j) == '\\' && c != '`' ? 2 : 1;
                }
                if (j >= text.length()) {
                    return -1;
                }
                i = j + 1;
            } else if (c == '#' || text.startsWith("-- ", i) || text.startsWith("--\n", i)) {
                i = text.indexOf('\n', i);
                if (i < 0) {
                    return -1;
                }
            } else if (text.startsWith("/*", i)) {
                int close = text.indexOf("*/", i + 2);
                if (close < 0 || text.charAt(i + 2) == '!') {
                    return -1;
                }
                i = close + 2;
            } else {
                depth += c == '(' ? 1 : c == ')' ? -1 : 0;
                if (depth < 1 || c == ';') {
                    return -1;
                }
                i++;
            }
        }
        return depth;
    }

    @Test
    void everyNameOfATableIsQuoted() {
        assertThat(spelling.of(new SourceQuery.OfTable(
                        "hotel", "order", List.of("user", "odd ` name"), Optional.of("`user` = 'x' # only these"))))
                .isEqualTo("select `user`, `odd `` name`\nfrom `hotel`.`order`\nwhere `user` = 'x' # only these");
    }

    @Test
    void momentsAreComparedInUtcWithoutTheirZone() {
        assertThat(spelling.argument(ColumnType.TIMESTAMP, "2026-06-01T10:00:00.25+02:00"))
                .isEqualTo("2026-06-01 08:00:00.250000");
        assertThat(spelling.argument(ColumnType.BOOLEAN, "true")).isEqualTo("1");
        assertThat(spelling.argument(ColumnType.TEXT, "true")).isEqualTo("true");
    }
}

package remitto.connect.postgres;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import java.util.List;
import java.util.Random;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;
import org.junit.jupiter.params.provider.ValueSource;
import remitto.connect.source.SourceProblem;

class PostgresTextTest {
    @ParameterizedTest
    @CsvSource(
            delimiter = '|',
            value = {
                "select 1;                          | select 1",
                "select 1 ; -- end                  | select 1",
                "select a ? 'b'                     | select a ?? 'b'",
                "select '?', \"?\"                 | select '?', \"?\"",
                "select $$?$$ /* ? */ -- ?          | select $$?$$ /* ? */ -- ?",
                "SELECT e'\\'?'                     | SELECT e'\\'?'",
                "select price$1 from t              | select price$1 from t",
            })
    void aQueryIsTakenWithoutItsSemicolonAndWithItsQuestionMarksKept(String sql, String taken) {
        assertThat(PostgresText.query(sql)).isEqualTo(taken);
    }

    @ParameterizedTest
    @CsvSource(
            delimiter = '|',
            value = {
                "select 1)                  | 9  | closes none",
                "select (1                  | 10 | never closed",
                "select 1; select 2         | 11 | One query at a time",
                "select (1; 2)              | 10 | within brackets",
                "select 'a                  | 8  | quote is never closed",
                "select $a$ x               | 8  | dollar quote is never closed",
                "select $1                  | 8  | stands for an argument",
                "select 1 /* a /* b */      | 10 | comment is never closed",
                "select {fn now()}          | 8  | Curly brackets",
                "insert into t values (1)   | 1  | begins with SELECT",
            })
    void whatIsWrongIsSaidWithItsPlace(String sql, int position, String words) {
        assertThatThrownBy(() -> PostgresText.query(sql))
                .hasMessageContaining(words)
                .satisfies(thrown ->
                        assertThat(((SourceProblem) thrown).position()).hasValue(position));
    }

    @ParameterizedTest
    @ValueSource(strings = {"true) or (true", "a = 1;", "", "a = 'x"})
    void aConditionThatIsNoneIsRefused(String sql) {
        assertThatThrownBy(() -> PostgresText.condition(sql)).isInstanceOf(SourceProblem.class);
    }

    @Test
    void aConditionNeedsNoWordOutsideQuotes() {
        assertThat(PostgresText.condition("\"nice name\" <> 'none'")).isEqualTo("\"nice name\" <> 'none'");
        assertThatThrownBy(() -> PostgresText.condition("-- nothing")).isInstanceOf(SourceProblem.class);
    }

    @Test
    void aConditionIsTakenAsItStands() {
        assertThat(PostgresText.condition(" town = 'A)' or (x ? 'b') -- only these"))
                .isEqualTo("town = 'A)' or (x ?? 'b') -- only these");
    }

    @Test
    void nothingIsReadForEver() {
        assertThatThrownBy(() -> PostgresText.query("select " + "(".repeat(5_000)))
                .hasMessageContaining("nested deeper");
        assertThatThrownBy(() -> PostgresText.query("select '" + "a".repeat(300_000) + "'"))
                .hasMessageContaining("longer than");
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
                "$$",
                "$a$",
                "--",
                "\n",
                "/*",
                "*/",
                "E'",
                "\\",
                " as a ",
                "delete from t");
        Random random = new Random(17);
        int taken = 0;
        for (int i = 0; i < 200_000; i++) {
            StringBuilder text = new StringBuilder("select ");
            for (int piece = random.nextInt(8); piece >= 0; piece--) {
                text.append(pieces.get(random.nextInt(pieces.size())));
            }
            String query;
            try {
                query = PostgresText.query(text.toString());
            } catch (SourceProblem refused) {
                continue;
            }
            taken++;
            assertThat(PostgresText.query("select * from (" + query + "\n) as dataset"))
                    .as("%s, in brackets", text)
                    .endsWith("\n) as dataset");
        }
        assertThat(taken).isGreaterThan(5_000);
    }
}

package remitto.core.expression;

import static org.assertj.core.api.Assertions.assertThat;

import java.time.Duration;
import java.util.Collections;
import java.util.List;
import org.junit.jupiter.api.Assertions;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;
import org.junit.jupiter.params.provider.ValueSource;
import remitto.core.dataset.Column;
import remitto.core.dataset.ColumnRole;
import remitto.core.dataset.ColumnType;
import remitto.core.dataset.Columns;
import remitto.core.dataset.Row;
import remitto.core.expression.CompiledExpression.Compilation;
import remitto.core.shaper.Shaped;
import remitto.core.value.Value;

/** An expression ends, and what it makes fits: whoever writes one cannot stop the process. */
class BoundedExpressionTest {
    private static final Columns COLUMNS = new Columns(List.of(
            new Column("name", ColumnType.TEXT, ColumnRole.KEY),
            new Column("amount", ColumnType.INTEGER, ColumnRole.ATTRIBUTE)));

    private static Shaped evaluate(String expression, String name, String amount) {
        Compilation compiled = CompiledExpression.compile(expression, COLUMNS);
        assertThat(compiled).as(expression).isInstanceOf(Compilation.Done.class);
        return ((Compilation.Done) compiled).expression().evaluate(Row.of(COLUMNS, new String[] {name, amount}));
    }

    private static void isUnusable(String expression, String words) {
        Shaped shaped = Assertions.assertTimeoutPreemptively(
                Duration.ofSeconds(20), () -> evaluate(expression, "abcdefghij", "7"));
        assertThat(shaped).as(expression).isInstanceOf(Shaped.Unusable.class);
        assertThat(((Shaped.Unusable) shaped).reason()).contains(words);
    }

    @Test
    void textsThatGrowByReplacingAreStopped() {
        String bomb = "name" + ".replace('', 'name name name name')".repeat(12);
        isUnusable(bomb, "longer than 65536 characters");
        isUnusable("name.replace('', name)" + ".replace('a', name + name + name)".repeat(9), "longer than 65536");
    }

    @Test
    void loopsWithinLoopsAreStopped() {
        String list = "[0, 1, 2, 3, 4, 5, 6, 7, 8, 9]";
        String nested = "name == ''";
        for (String variable : List.of("a", "b", "c", "d", "e", "f", "g", "h", "i")) {
            nested = list + ".all(" + variable + ", " + list + ".exists(x" + variable + ", x" + variable + " == 9 && "
                    + nested + ") || true)";
        }
        isUnusable(nested, "teration");
    }

    @Test
    void joiningManyTextsIsStopped() {
        String texts = "["
                + String.join(
                        ", ",
                        Collections.nCopies(
                                40, "name.replace('', 'xxxxxxxxxxxxxxxxxxxxxxxxxxxxxxxxxxxxxxxxxxxxxxxxx')"))
                + "]";
        isUnusable(texts + ".map(t, t.replace('', 'yyyyyyyyyy')).join(',')", "longer than 65536");
    }

    @ParameterizedTest
    @ValueSource(strings = {"round(1.5, 2000000000)", "round(1.5, -2000000000)", "money(1.5, 'nothing')"})
    void numbersThatNobodyCanWriteAreStopped(String expression) {
        assertThat(evaluate(expression, "a", "1")).isInstanceOf(Shaped.Unusable.class);
    }

    /** A whole number that is too large for CEL's int is unusable for this record and stops no other. */
    @Test
    void aNumberBeyondTheRangeIsUnusable() {
        assertThat(evaluate("amount + 1", "a", "99999999999999999999")).isInstanceOf(Shaped.Unusable.class);
        assertThat(evaluate("amount + 1", "a", "9223372036854775807")).isInstanceOf(Shaped.Unusable.class);
    }

    @Test
    void anExpressionThatIsTooLongOrTooDeepIsAFault() {
        assertThat(CompiledExpression.compile("name + '" + "x".repeat(10_000) + "'", COLUMNS))
                .isInstanceOf(Compilation.Faulty.class);
        assertThat(CompiledExpression.compile("(".repeat(500) + "name" + ")".repeat(500), COLUMNS))
                .isInstanceOf(Compilation.Faulty.class);
    }

    @Test
    void aCellThatIsTooLongIsUnusable() {
        assertThat(evaluate("name + '!'", "x".repeat(70_000), "1")).isInstanceOf(Shaped.Unusable.class);
    }

    /** Examples of the string library's documentation (cel-java, extensions, Strings) hold for ours. */
    @ParameterizedTest
    @CsvSource(
            delimiter = ';',
            value = {
                "'hello hello'.replace('he', 'we'); wello wello",
                "'hello hello'.replace('he', 'we', -1); wello wello",
                "'hello hello'.replace('he', 'we', 1); wello hello",
                "'hello hello'.replace('he', 'we', 0); hello hello",
                "'hello hello'.replace('', '_'); _h_e_l_l_o_ _h_e_l_l_o_",
                "'hello hello'.replace('h', ''); ello ello",
                "['hello', 'mellow'].join(); hellomellow",
                "['hello', 'mellow'].join(' '); hello mellow",
                "name.lowerAscii().split('d').join('-'); abc-efghij"
            })
    void replaceAndJoinGiveWhatTheLibraryGives(String expression, String given) {
        assertThat(evaluate(expression, "ABCDEFGHIJ", "1")).isEqualTo(new Shaped.Usable(new Value.Text(given)));
    }
}

package remitto.core.expression;

import static org.assertj.core.api.Assertions.assertThat;

import java.math.BigDecimal;
import java.util.HashMap;
import java.util.Map;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;
import remitto.core.TestRows;
import remitto.core.dataset.Columns;
import remitto.core.dataset.Row;
import remitto.core.shaper.Shaped;
import remitto.core.value.Value;

class CompiledExpressionTest {
    private static final Columns COLUMNS = TestRows.columns(
            "id:TEXT:KEY",
            "name:TEXT",
            "visits:INTEGER",
            "score:DECIMAL",
            "active:BOOLEAN",
            "joined:DATE",
            "seen:TIMESTAMP");

    private static Row row(String... pairs) {
        Map<String, String> cells = new HashMap<>();
        for (int i = 0; i < pairs.length; i += 2) {
            cells.put(pairs[i], pairs[i + 1]);
        }
        return TestRows.row(COLUMNS, cells);
    }

    private static Shaped evaluate(String text, Row row) {
        var compilation = CompiledExpression.compile(text, COLUMNS);
        assertThat(compilation).as(text).isInstanceOf(CompiledExpression.Compilation.Done.class);
        return ((CompiledExpression.Compilation.Done) compilation).expression().evaluate(row);
    }

    /** Cases of the language definition at cel.dev (operators, macros, conversions) and its conformance tests. */
    @ParameterizedTest
    @CsvSource(
            delimiter = ';',
            value = {
                "1 + 2 * 3 ; 7",
                "7 / 2 ; 3",
                "-7 % 3 ; -1",
                "7.0 / 2.0 ; 3.5",
                "true ? 'left' : 'right' ; left",
                "'abc' < 'abd' ; true",
                "'x' + 'y' ; xy",
                "size('four') ; 4",
                "size([1, 2, 3]) ; 3",
                "'hello world'.startsWith('hello') ; true",
                "'hello'.matches('^h.*o$') ; true",
                "2 in [1, 2, 3] ; true",
                "[1, 2, 3].exists(x, x > 2) ; true",
                "[1, 2, 3].all(x, x > 2) ; false",
                "int('42') + 1 ; 43",
                "string(12) ; 12",
                "true || 1 / 0 == 1 ; true",
                "false && 1 / 0 == 1 ; false",
                "timestamp('2009-02-13T23:31:30Z').getFullYear() ; 2009"
            })
    void caseOfTheLanguageDefinition(String text, String expected) {
        Shaped shaped = evaluate(text, row());
        assertThat(shaped).isInstanceOf(Shaped.Usable.class);
        assertThat(((Shaped.Usable) shaped).value().display()).isEqualTo(expected);
    }

    @Test
    void columnsAreVariablesOfTheirType() {
        Row row = row("name", "Ingrid", "visits", "12", "score", "41.5", "active", "t", "joined", "2024-02-29");
        assertThat(evaluate("name + ' ' + string(visits)", row)).isEqualTo(new Shaped.Usable(Value.text("Ingrid 12")));
        assertThat(evaluate("score > 40", row)).isEqualTo(new Shaped.Usable(new Value.Truth(true)));
        assertThat(evaluate("visits >= 12 && active", row)).isEqualTo(new Shaped.Usable(new Value.Truth(true)));
        assertThat(evaluate("joined.getFullYear()", row)).isEqualTo(new Shaped.Usable(Value.number(2024)));
        assertThat(evaluate("score", row)).isEqualTo(new Shaped.Usable(Value.number(new BigDecimal("41.5"))));
    }

    @Test
    void anEmptyColumnIsNullAndNotAnUnknown() {
        assertThat(evaluate("name == null ? 'nobody' : name", row()))
                .isEqualTo(new Shaped.Usable(Value.text("nobody")));
        assertThat(evaluate("name", row())).isEqualTo(new Shaped.Usable(Value.EMPTY));
    }

    @Test
    void failingOnOneRowIsUnusableForThatRowOnly() {
        assertThat(evaluate("100 / visits", row("visits", "0"))).isInstanceOf(Shaped.Unusable.class);
        assertThat(evaluate("100 / visits", row("visits", "4"))).isEqualTo(new Shaped.Usable(Value.number(25)));
        assertThat(evaluate("name + '!'", row())).isInstanceOf(Shaped.Unusable.class);
        assertThat(evaluate("visits + 1", row("visits", "many"))).isInstanceOf(Shaped.Unusable.class);
    }

    @Test
    void faultsAreToldAtTheirPlace() {
        var compilation = CompiledExpression.compile("name + vists", COLUMNS);
        assertThat(compilation).isInstanceOf(CompiledExpression.Compilation.Faulty.class);
        var fault =
                ((CompiledExpression.Compilation.Faulty) compilation).faults().get(0);
        assertThat(fault.line()).isEqualTo(1);
        assertThat(fault.column()).isEqualTo(7);
        assertThat(fault.message()).contains("vists");
    }

    @Test
    void typesAreChecked() {
        assertThat(CompiledExpression.compile("name * 2", COLUMNS))
                .isInstanceOf(CompiledExpression.Compilation.Faulty.class);
        assertThat(CompiledExpression.compile("", COLUMNS)).isInstanceOf(CompiledExpression.Compilation.Faulty.class);
    }

    @Test
    void columnsReadAreKnown() {
        var done = (CompiledExpression.Compilation.Done)
                CompiledExpression.compile("active ? name : string(visits)", COLUMNS);
        assertThat(done.expression().columns()).containsExactlyInAnyOrder("active", "name", "visits");
    }

    /** The functions of our own, each by an example. */
    @ParameterizedTest
    @CsvSource(
            delimiter = ';',
            value = {
                "day(seen, 'Europe/Oslo') ; 2026-11-25",
                "day(seen, 'UTC') ; 2026-11-24",
                "spell(seen, 'd MMM uuuu HH:mm', 'Europe/Oslo') ; 25 Nov 2026 00:30",
                "days_between(joined, seen) ; 297",
                "years_between(timestamp('2000-11-25T00:00:00Z'), seen) ; 25",
                "string(add_days(joined, 10)) ; 2026-02-10T00:00:00Z",
                "phone('912 44 870', 'no') ; +4791244870",
                "phone_type('+4791244870') ; mobile",
                "phone_type('+12015550123') ; mobile or landline",
                "email(' Ada@KAI.example') ; ada@kai.example",
                "domain('Ada Lie <ada@kai.example>') ; kai.example",
                "distinct(['b', 'a', 'b']) ; b, a",
                "sorted(['b', 'a']) ; a, b",
                "round(2.345, 2) ; 2.35",
                "money(1234.5, 'nok') ; 1234.50 NOK",
                "money(1234.5, 'isk') ; 1235 ISK"
            })
    void ourFunctions(String text, String expected) {
        Row row = row("id", "1", "joined", "2026-01-31", "seen", "2026-11-24T23:30:00Z");
        assertThat(evaluate(text, row)).isInstanceOfSatisfying(Shaped.Usable.class, usable -> assertThat(
                        usable.value().display())
                .isEqualTo(expected));
    }

    @ParameterizedTest
    @CsvSource(
            delimiter = ';',
            value = {
                "phone('the harbour', 'NO') ; is not a phone number",
                "email('nobody') ; is not an e-mail address",
                "day(seen, 'Nowhere/Land') ; failed",
                "money(1.0, 'XXQ') ; failed"
            })
    void aFunctionThatCannotSayTellsWhy(String text, String why) {
        assertThat(evaluate(text, row("id", "1", "seen", "2026-11-24T23:30:00Z")))
                .isInstanceOfSatisfying(Shaped.Unusable.class, unusable -> assertThat(unusable.reason())
                        .contains(why));
    }

    @Test
    void theTypesOfFunctionsAreChecked() {
        assertThat(CompiledExpression.compile("round(name, 2)", COLUMNS))
                .isInstanceOf(CompiledExpression.Compilation.Faulty.class);
        assertThat(CompiledExpression.compile("days_between(seen, 'soon')", COLUMNS))
                .isInstanceOf(CompiledExpression.Compilation.Faulty.class);
    }
}

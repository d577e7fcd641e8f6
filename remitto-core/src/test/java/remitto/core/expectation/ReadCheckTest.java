package remitto.core.expectation;

import static org.assertj.core.api.Assertions.assertThat;

import java.time.Instant;
import java.util.Arrays;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.stream.Stream;
import org.jspecify.annotations.Nullable;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.Arguments;
import org.junit.jupiter.params.provider.CsvSource;
import org.junit.jupiter.params.provider.MethodSource;
import remitto.core.dataset.Column;
import remitto.core.dataset.ColumnRole;
import remitto.core.dataset.ColumnType;
import remitto.core.dataset.Columns;
import remitto.core.dataset.Row;

class ReadCheckTest {
    private static final Instant NOW = Instant.parse("2026-11-29T12:00:00Z");
    private static final Columns COLUMNS = new Columns(List.of(
            new Column("id", ColumnType.INTEGER, ColumnRole.KEY),
            new Column("text", ColumnType.TEXT, ColumnRole.ATTRIBUTE),
            new Column("score", ColumnType.DECIMAL, ColumnRole.ATTRIBUTE),
            new Column("born", ColumnType.DATE, ColumnRole.ATTRIBUTE),
            new Column("seen", ColumnType.TIMESTAMP, ColumnRole.UPDATED_AT)));

    private static Expectation on(String column, Demand demand, Response response) {
        return new Expectation(Optional.of(column), demand, response);
    }

    private static Expectation on(String column, Demand demand) {
        return on(column, demand, Response.HOLD_ROWS);
    }

    private static Expectation whole(Demand demand) {
        return new Expectation(Optional.empty(), demand, Response.STOP_ROUTES);
    }

    private static @Nullable String[] row(String column, @Nullable String cell) {
        String[] cells = new String[COLUMNS.list().size()];
        cells[0] = "1";
        cells[COLUMNS.position(column).orElseThrow()] = cell;
        return cells;
    }

    private static Optional<HeldRows.Reason> held(Expectation expectation, @Nullable String cell) {
        return HeldRows.of(List.of(expectation), COLUMNS, SharedValues.NONE)
                .of(Row.of(COLUMNS, row(expectation.column().orElseThrow(), cell)));
    }

    private static Demand.ValueRange within(String least, String most) {
        return new Demand.ValueRange(
                Optional.of(least).filter(text -> !text.isEmpty()),
                Optional.of(most).filter(text -> !text.isEmpty()));
    }

    static Stream<Arguments> cells() {
        return Stream.of(
                Arguments.of("text", new Demand.NeverEmpty(), "x", ""),
                Arguments.of("text", new Demand.NeverEmpty(), null, "text is empty"),
                Arguments.of("text", new Demand.NeverEmpty(), "", "text is empty"),
                Arguments.of("text", new Demand.NeverEmpty(), " \t ", "text is empty"),
                Arguments.of("text", new Demand.ListedValues(List.of("gold", "blue")), "gold", ""),
                Arguments.of("text", new Demand.ListedValues(List.of("gold", "blue")), null, ""),
                Arguments.of("text", new Demand.ListedValues(List.of("gold", "blue")), "  ", ""),
                Arguments.of(
                        "text",
                        new Demand.ListedValues(List.of("gold", "blue")),
                        "Gold",
                        "text is \"Gold\", which is not expected"),
                Arguments.of("text", new Demand.TextPattern("[0-9]{4}"), "0150", ""),
                Arguments.of(
                        "text",
                        new Demand.TextPattern("[0-9]{4}"),
                        "01501",
                        "text is \"01501\", which does not match [0-9]{4}"),
                Arguments.of("score", within("0", "75"), "75", ""),
                Arguments.of("score", within("0", "75"), "75.000", ""),
                Arguments.of("score", within("0", "75"), "75.001", "score is \"75.001\", more than 75"),
                Arguments.of("score", within("0", ""), "-0", ""),
                Arguments.of("score", within("0", ""), "-1", "score is \"-1\", less than 0"),
                Arguments.of("score", within("0", ""), "many", "score is \"many\", which is not a number"),
                Arguments.of("born", within("1900-01-01", ""), "1900-01-01", ""),
                Arguments.of(
                        "born", within("1900-01-01", ""), "1899-12-31", "born is \"1899-12-31\", less than 1900-01-01"),
                Arguments.of("seen", within("", "2026-01-01 00:00:00+00"), "2026-01-01 01:00:00+01", ""),
                Arguments.of(
                        "seen",
                        within("", "2026-01-01 00:00:00+00"),
                        "2026-01-01 00:00:00-01",
                        "seen is \"2026-01-01 00:00:00-01\", more than 2026-01-01 00:00:00+00"));
    }

    @ParameterizedTest
    @MethodSource("cells")
    void aRowIsHeldForACellThatDoesNotMeetADemand(String column, Demand demand, @Nullable String cell, String reason) {
        assertThat(held(on(column, demand), cell).map(HeldRows.Reason::reason).orElse(""))
                .isEqualTo(reason);
    }

    @ParameterizedTest
    @MethodSource("cells")
    void theSameRowsAreCountedInARead(String column, Demand demand, @Nullable String cell, String reason) {
        ReadCheck check = new ReadCheck(List.of(on(column, demand, Response.TELL)), COLUMNS, SharedValues.NONE);
        check.see(row(column, cell));

        Finding finding = check.findings(facts(1)).get(0);

        assertThat(finding.met()).isEqualTo(reason.isEmpty());
        assertThat(finding.rows()).isEqualTo(reason.isEmpty() ? 0 : 1);
    }

    @Test
    void rowsAreHeldOnlyWhereThatIsTheResponse() {
        HeldRows held = HeldRows.of(
                List.of(
                        on("text", new Demand.NeverEmpty(), Response.TELL),
                        on("score", new Demand.NeverEmpty(), Response.STOP_ROUTES)),
                COLUMNS,
                SharedValues.NONE);

        assertThat(held.of(Row.of(COLUMNS, row("text", null)))).isEmpty();
        assertThat(held.isNone()).isTrue();
    }

    @Test
    void valuesThatSeveralRowsShareAreHeldAndToldByNumber() {
        Expectation unique = on("text", new Demand.UniqueValues());
        SharedValues shared = new SharedValues(Map.of("text", Set.of("a@b.example")), Map.of("text", 1L));
        ReadCheck check = new ReadCheck(List.of(unique), COLUMNS, shared);
        for (String cell : Arrays.asList("a@b.example", "c@d.example", null, "a@b.example")) {
            check.see(row("text", cell));
        }

        assertThat(check.findings(facts(4)))
                .containsExactly(new Finding(unique, false, 2, false, "1 value is in more than one row."));
        assertThat(HeldRows.of(List.of(unique), COLUMNS, shared)
                        .of(Row.of(COLUMNS, row("text", "a@b.example")))
                        .map(HeldRows.Reason::reason))
                .contains("text is \"a@b.example\" in more than one row");
    }

    /** More rows share a value than can be told apart: held one by one, some of them would go. */
    @Test
    void rowsThatCannotAllBeHeldStopRoutesInstead() {
        SharedValues cut = new SharedValues(Map.of("text", Set.of("a@b.example")), Map.of("text", 2L));

        for (Response response : Response.values()) {
            Expectation unique = on("text", new Demand.UniqueValues(), response);
            Finding finding = new ReadCheck(List.of(unique), COLUMNS, cut)
                    .findings(facts(4))
                    .get(0);
            assertThat(finding.stopsRoutes()).as("%s", response).isEqualTo(response != Response.TELL);
        }
    }

    @Test
    void theReasonDoesNotTellTheValueOfASensitiveColumn() {
        Columns columns = new Columns(List.of(new Column("born", ColumnType.DATE, ColumnRole.SENSITIVE)));
        HeldRows held = HeldRows.of(List.of(on("born", within("1900-01-01", ""))), columns, SharedValues.NONE);

        assertThat(held.of(Row.of(columns, new String[] {"1899-12-31"})).map(HeldRows.Reason::reason))
                .contains("The value does not meet the expectation that born is at least 1900-01-01");
    }

    private static ReadFacts facts(long rows, Long... earlier) {
        return new ReadFacts(rows, Optional.empty(), NOW, List.of(earlier));
    }

    private static String detail(Demand demand, ReadFacts facts) {
        return ReadCheck.withoutRows(List.of(whole(demand)), facts).get(0).detail();
    }

    @ParameterizedTest
    @CsvSource({
        "99, 'It has 99 rows.'",
        "100, ''",
        "200, ''",
        "201, 'It has 201 rows.'",
    })
    void theNumberOfRowsMayBeWithinBounds(long rows, String detail) {
        assertThat(detail(new Demand.RowCount(Optional.of(100L), Optional.of(200L), Optional.empty()), facts(rows)))
                .isEqualTo(detail);
    }

    @ParameterizedTest
    @CsvSource({
        "70, ''",
        "69, 'It has 69 rows; the median of the last 4 reads is 100.'",
        "130, ''",
        "131, 'It has 131 rows; the median of the last 4 reads is 100.'",
    })
    void theNumberOfRowsIsComparedWithTheMedianOfTheLastReads(long rows, String detail) {
        Demand.RowCount demand = new Demand.RowCount(Optional.empty(), Optional.empty(), Optional.of(30));

        assertThat(detail(demand, facts(rows, 100L, 5_000L, 100L, 1L))).isEqualTo(detail);
        assertThat(detail(demand, facts(rows, 100L, 100L)))
                .as("two reads do not tell what is usual")
                .isEmpty();
    }

    @Test
    void whatWasEmptyBeforeIsExpectedToStayEmpty() {
        Demand.RowCount demand = new Demand.RowCount(Optional.empty(), Optional.empty(), Optional.of(30));

        assertThat(detail(demand, facts(0, 0L, 0L, 0L))).isEmpty();
        assertThat(detail(demand, facts(5, 0L, 0L, 0L))).contains("median of the last 3 reads is 0");
    }

    @ParameterizedTest
    @CsvSource({
        "2026-11-29T06:00:00Z, ''",
        "2026-11-29T05:59:59Z, 'Its newest row is 6 hours old.'",
        "2026-11-29T13:00:00Z, ''",
        "2026-11-26T12:00:00Z, 'Its newest row is 72 hours old.'",
    })
    void theNewestRowMayBeOfACertainAge(Instant newest, String detail) {
        assertThat(detail(new Demand.FreshRows(6), new ReadFacts(10, Optional.of(newest), NOW, List.of())))
                .isEqualTo(detail);
    }

    @Test
    void withoutAnyDateOfChangeNothingIsFresh() {
        assertThat(detail(new Demand.FreshRows(6), facts(10))).isEqualTo("It has no row with a date of change.");
    }

    @Test
    void findingsComeInTheOrderOfTheExpectationsAndOnlyThoseThatStopRoutesStopThem() {
        List<Expectation> expectations = List.of(
                whole(new Demand.RowCount(Optional.of(5L), Optional.empty(), Optional.empty())),
                on("text", new Demand.NeverEmpty(), Response.STOP_ROUTES),
                on("score", new Demand.NeverEmpty(), Response.TELL));
        ReadCheck check = new ReadCheck(expectations, COLUMNS, SharedValues.NONE);
        check.see(row("text", "x"));

        List<Finding> findings = check.findings(facts(1));

        assertThat(findings).extracting(Finding::expectation).isEqualTo(expectations);
        assertThat(findings).extracting(Finding::met).containsExactly(false, true, false);
        assertThat(findings).extracting(Finding::stopsRoutes).containsExactly(true, false, false);
        assertThat(findings.get(2).sentence())
                .isEqualTo("Expected that score is never empty. 1 row does not meet this.");
        assertThat(findings.get(0).sentenceOf("Guests"))
                .isEqualTo("Guests: expected that the dataset has at least 5 rows. It has 1 row.");
    }

    static Stream<Arguments> faults() {
        return Stream.of(
                Arguments.of(on("gone", new Demand.NeverEmpty()), "no column gone"),
                Arguments.of(
                        new Expectation(Optional.empty(), new Demand.UniqueValues(), Response.TELL),
                        "Choose the column"),
                Arguments.of(
                        on("text", new Demand.FreshRows(2), Response.TELL), "about the dataset, not about a column"),
                Arguments.of(
                        new Expectation(Optional.empty(), new Demand.FreshRows(2), Response.HOLD_ROWS),
                        "Rows cannot be held"),
                Arguments.of(whole(new Demand.FreshRows(0)), "1 to 8784 hours"),
                Arguments.of(
                        whole(new Demand.RowCount(Optional.empty(), Optional.empty(), Optional.empty())),
                        "Enter how many rows"),
                Arguments.of(
                        whole(new Demand.RowCount(Optional.of(9L), Optional.of(8L), Optional.empty())),
                        "fewer than the least"),
                Arguments.of(
                        whole(new Demand.RowCount(Optional.of(-1L), Optional.empty(), Optional.empty())),
                        "fewer than the least"),
                Arguments.of(
                        whole(new Demand.RowCount(Optional.empty(), Optional.empty(), Optional.of(0))),
                        "1 to 1000 percent"),
                Arguments.of(on("text", new Demand.ListedValues(List.of())), "List 1 to 1000 values"),
                Arguments.of(on("text", new Demand.TextPattern("(")), "cannot be read: missing closing )"),
                Arguments.of(on("text", new Demand.TextPattern("(?=x)")), "cannot be read"),
                Arguments.of(on("text", new Demand.TextPattern(" ")), "1 to 500 characters"),
                Arguments.of(on("text", within("a", "b")), "not a number, date or time"),
                Arguments.of(on("score", within("", "")), "Enter the least or the greatest"),
                Arguments.of(on("score", within("ten", "")), "\"ten\" is not a number. Column score holds numbers."),
                Arguments.of(on("born", within("", "2026-02-30")), "\"2026-02-30\" is not a date"),
                Arguments.of(on("score", within("10", "9")), "less than the least"));
    }

    @ParameterizedTest
    @MethodSource("faults")
    void whatIsWrongWithAnExpectationIsTold(Expectation expectation, String words) {
        assertThat(ExpectationFaults.of(List.of(expectation), COLUMNS))
                .singleElement()
                .asString()
                .contains(words);
    }

    @Test
    void freshnessNeedsADateOfChange() {
        Columns without = new Columns(List.of(new Column("id", ColumnType.INTEGER, ColumnRole.KEY)));

        assertThat(ExpectationFaults.of(List.of(whole(new Demand.FreshRows(2))), without))
                .singleElement()
                .asString()
                .contains("role updated at");
        assertThat(ExpectationFaults.of(List.of(whole(new Demand.FreshRows(2))), COLUMNS))
                .isEmpty();
    }

    @Test
    void theSameIsNotExpectedTwice() {
        Expectation told = on("text", new Demand.NeverEmpty(), Response.TELL);

        assertThat(ExpectationFaults.of(List.of(told, on("text", new Demand.NeverEmpty())), COLUMNS))
                .containsExactly("Duplicate expectation: text is never empty.");
    }
}

package remitto.server.source;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import java.time.Duration;
import java.time.Instant;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Random;
import java.util.stream.Stream;
import org.jspecify.annotations.Nullable;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;
import remitto.connect.source.LookUp;
import remitto.connect.source.Preview;
import remitto.connect.source.Reading;
import remitto.connect.source.RowFilter;
import remitto.connect.source.RowSource;
import remitto.connect.source.SourceProblem;
import remitto.connect.source.SourceProblem.Kind;
import remitto.connect.source.SourceQuery;
import remitto.core.dataset.Column;
import remitto.core.dataset.ColumnType;
import remitto.core.fieldrule.DatasetLookUp;
import remitto.core.fieldrule.DatasetLookUp.Comparison;
import remitto.core.fieldrule.DatasetLookUp.Condition;
import remitto.core.fieldrule.DatasetLookUp.Hop;
import remitto.core.fieldrule.DatasetLookUp.Pick;
import remitto.core.fieldrule.DatasetLookUp.RowPart;
import remitto.server.harness.Awaited;

/** What every kind of source does alike. */
abstract class RowSourceContract {
    private static final Duration TIME = Duration.ofSeconds(20);
    private static final Instant NOW = Instant.parse("2026-06-01T12:00:00.5Z");

    /** A source that holds these tables. */
    abstract RowSource source(SourceTable... tables);

    /** Columns that this kind adds to every table, after its own. */
    List<String> added() {
        return List.of();
    }

    /** How this kind spells a cell that was laid; blank spaces and all. Keys, conditions and findings are compared by it. */
    String spelled(ColumnType type, String laid) {
        return laid;
    }

    private String decimal(String laid) {
        return spelled(ColumnType.DECIMAL, laid);
    }

    private String moment(String laid) {
        return spelled(ColumnType.TIMESTAMP, laid);
    }

    private String row(SourceTable table, int row, String... names) {
        List<@Nullable String> cells = new ArrayList<>();
        for (String name : names) {
            int at = table.names().indexOf(name);
            String laid = table.rows().get(row).get(at);
            cells.add(laid == null ? null : spelled(table.columns().get(at).type(), laid));
        }
        return cells.toString();
    }

    /** Where they lie; blank where the source has no schemas. */
    abstract String schema();

    private static SourceTable berths() {
        return SourceTable.of(
                        "Berth list",
                        "no INTEGER",
                        "harbour TEXT",
                        "Len \"m\"? DECIMAL",
                        "open BOOLEAN",
                        "built DATE",
                        "seen at TIMESTAMP")
                .row("1", "Sandvik", "12.50", "t", "1998-04-01", "2026-05-30 08:00:00+00")
                .row("2", "100 % North", "7", "f", null, null)
                .row("3", "back\\slash_quay", null, "t", "2024-02-29", "2026-05-31 23:59:59.123456+00")
                .row("4", "  ", "0.0", null, "2011-11-11", "2026-05-31 00:00:00+00")
                .row("5", "SANDVIK o'Hara", "-3", "f", "2011-11-11", null)
                .row("6", null, "9", "f", "2011-11-12", "2026-05-29 10:00:00+00");
    }

    private List<String> read(RowSource source, Reading reading) {
        List<String> rows = new ArrayList<>();
        source.read(reading, cells -> rows.add(Arrays.toString(cells)));
        return rows.stream().sorted().toList();
    }

    private Reading reading(SourceTable table, String... columns) {
        return Reading.all(table.query(schema()), List.of(columns), TIME);
    }

    @Test
    void columnsAreDescribedInTheirOrderWithTheirTypes() {
        SourceTable berths = berths();
        assertThat(source(berths).describe(berths.query(schema()), TIME))
                .extracting(Preview.PreviewColumn::name, Preview.PreviewColumn::type)
                .containsExactlyElementsOf(berths.columns().stream()
                        .map(column -> org.assertj.core.groups.Tuple.tuple(column.name(), column.type()))
                        .toList());
    }

    @Test
    void whatMayBeReadIsListed() {
        SourceTable berths = berths();
        assertThat(source(berths).check().schemas())
                .filteredOn(one -> one.name().equals(schema()))
                .singleElement()
                .satisfies(one -> assertThat(one.tables())
                        .filteredOn(table -> table.name().equals("Berth list"))
                        .singleElement()
                        .satisfies(table -> {
                            assertThat(table.readable()).isTrue();
                            assertThat(table.columns())
                                    .extracting(column -> column.name())
                                    .isEqualTo(Stream.concat(berths.names().stream(), added().stream())
                                            .toList());
                        }));
    }

    @Test
    void cellsComeAsTheyAreInTheOrderAskedFor() {
        SourceTable berths = berths();
        String[] wanted = {"harbour", "no", "Len \"m\"?", "open", "built", "seen at"};
        List<String> expected = new ArrayList<>();
        for (int i = 0; i < berths.rows().size(); i++) {
            expected.add(row(berths, i, wanted));
        }
        assertThat(read(source(berths), reading(berths, wanted))).containsExactlyInAnyOrderElementsOf(expected);
        assertThat(expected.get(0)).as("texts are never spelled otherwise").startsWith("[Sandvik, 1, 12.50, ");
        assertThat(expected.get(3)).startsWith("[  , 4, 0.0");
    }

    @Test
    void namesThatMeanSomethingElseInQueriesAreNames() {
        SourceTable group = SourceTable.of("group", "user TEXT", "order INTEGER", "current_date TEXT")
                .row("Ada", "1", "never")
                .row("Bo", "2", null);
        RowSource source = source(group);
        assertThat(read(source, reading(group, "user", "order", "current_date")))
                .containsExactly("[Ada, 1, never]", "[Bo, 2, null]");
        assertThat(source.checkKey(group.query(schema()), List.of("user", "order"), 3, TIME)
                        .doubled())
                .isZero();
        assertThat(source.words(group.query(schema()), "user", 3, TIME))
                .extracting(RowSource.Word::text)
                .containsExactly("Ada", "Bo");
        RowFilter keys = new RowFilter.OfKeys(group.columns().subList(0, 2), List.of(List.of("Bo", "2")));
        assertThat(read(source, reading(group, "order").only(keys))).containsExactly("[2]");
    }

    @Test
    void aReadingStopsWhenItIsToldTo() {
        SourceTable berths = berths();
        int[] seen = new int[1];
        source(berths).read(reading(berths, "no"), cells -> ++seen[0] < 2);
        assertThat(seen[0]).isEqualTo(2);
        assertThat(read(source(berths), reading(berths, "no").atMost(4))).hasSize(4);
        assertThat(read(source(berths), reading(berths, "no").atMost(40))).hasSize(6);
    }

    @Test
    void aPreviewTellsWhetherThereIsMore() {
        SourceTable berths = berths();
        Preview some = source(berths).preview(berths.query(schema()), 4, TIME);
        assertThat(some.rows()).hasSize(4);
        assertThat(some.cut()).isTrue();
        Preview all = source(berths).preview(berths.query(schema()), 6, TIME);
        assertThat(all.cut()).isFalse();
        assertThat(all.rows()).anySatisfy(row -> assertThat(row)
                .containsExactly(
                        Optional.of("2"),
                        Optional.of("100 % North"),
                        Optional.of(decimal("7")),
                        Optional.of(spelled(ColumnType.BOOLEAN, "f")),
                        Optional.empty(),
                        Optional.empty()));
    }

    @Test
    void whatIsNotThereIsSaid() {
        SourceTable berths = berths();
        RowSource source = source(berths);
        assertThatThrownBy(() -> read(source, reading(berths, "no", "depth")))
                .isInstanceOfSatisfying(SourceProblem.class, problem -> assertThat(problem.kind())
                        .isEqualTo(Kind.COLUMN_GONE))
                .hasMessageContaining("depth");
        SourceQuery gone = new SourceQuery.OfTable(schema(), "cranes", List.of("no"), Optional.empty());
        assertThatThrownBy(() -> source.describe(gone, TIME)).isInstanceOf(SourceProblem.class);
        assertThatThrownBy(() -> source.probe(gone, Optional.empty(), TIME)).isInstanceOf(SourceProblem.class);
    }

    @Test
    void queriesOfOnesOwnAreTakenByThoseThatSaySo() {
        RowSource source = source(berths());
        Reading own = Reading.all(SourceQuery.text("select 7 as \"n\""), List.of("n"), TIME);
        if (source.abilities().contains(RowSource.Ability.OWN_QUERIES)) {
            assertThat(read(source, own)).containsExactly("[7]");
            assertThat(read(source, own.only(new RowFilter.Containing(List.of("n"), "8"))))
                    .isEmpty();
        } else {
            assertThatThrownBy(() -> read(source, own))
                    .isInstanceOfSatisfying(SourceProblem.class, problem -> assertThat(problem.kind())
                            .isEqualTo(Kind.NOT_OFFERED));
        }
    }

    @ParameterizedTest
    @CsvSource(
            delimiter = '|',
            value = {
                "3               | 1",
                "03              | 0",
                "+3              | 0",
                "3.0             | 0",
                "-0              | 0",
                "three           | 0",
                "99999999999999999999 | 0",
                "''              | 0",
                "7               | 0"
            })
    void aWholeNumberIsFoundByItsUsualSpelling(String key, int found) {
        SourceTable berths = berths();
        RowFilter filter = new RowFilter.OfKeys(berths.columns().subList(0, 1), List.of(List.of(key)));
        assertThat(read(source(berths), reading(berths, "no").only(filter))).hasSize(found);
    }

    @Test
    void keysOfSeveralColumnsAreFoundTogether() {
        SourceTable berths = berths();
        List<Column> columns = List.of(
                berths.columns().get(1),
                berths.columns().get(0),
                berths.columns().get(2));
        RowFilter filter = new RowFilter.OfKeys(
                columns,
                List.of(
                        List.of("Sandvik", "1", decimal("12.50")),
                        List.of("SANDVIK o'Hara", "5", decimal("-3")),
                        List.of("Sandvik", "2", decimal("7")),
                        List.of("Sandvik", "1"),
                        List.of("  ", "4", decimal("0.0"))));
        assertThat(read(source(berths), reading(berths, "no").only(filter))).containsExactly("[1]", "[4]", "[5]");
        assertThat(read(source(berths), reading(berths, "no").only(new RowFilter.OfKeys(columns, List.of()))))
                .isEmpty();
    }

    @ParameterizedTest
    @CsvSource(
            delimiter = '|',
            value = {
                "sandVIK  | [1][5]",
                "%        | [2]",
                "_        | [3]",
                "\\       | [3]",
                "k\\s     | [3]",
                "o'h      | [5]",
                "'  '     | [4]",
                "northern | ''"
            })
    void aTextIsLookedForAsItStandsInWhateverLetters(String text, String found) {
        SourceTable berths = berths();
        RowFilter filter = new RowFilter.Containing(List.of("harbour"), text);
        assertThat(String.join("", read(source(berths), reading(berths, "no").only(filter))))
                .isEqualTo(found);
    }

    @Test
    void aTextIsLookedForInAnyOfTheColumns() {
        SourceTable berths = berths();
        RowFilter filter = new RowFilter.Containing(List.of("harbour", "no", "Len \"m\"?"), "3");
        assertThat(read(source(berths), reading(berths, "no").only(filter))).containsExactly("[3]", "[5]");
        RowFilter none = new RowFilter.Containing(List.of(), "3");
        assertThat(read(source(berths), reading(berths, "no").only(none))).isEmpty();
    }

    @Test
    void rowsSinceAMomentComeWithThoseThatHaveNone() {
        SourceTable berths = berths();
        RowFilter filter = new RowFilter.SinceOrWithout("seen at", Instant.parse("2026-05-31T00:00:00Z"));
        assertThat(read(source(berths), reading(berths, "no").only(filter)))
                .containsExactly("[2]", "[3]", "[4]", "[5]");
        RowFilter days = new RowFilter.SinceOrWithout("built", Instant.parse("2011-11-12T00:00:00Z"));
        assertThat(read(source(berths), reading(berths, "no").only(days))).containsExactly("[2]", "[3]", "[6]");
    }

    @Test
    void aKeyIsCheckedForBlanksAndDoubles() {
        SourceTable crew = SourceTable.of("crew", "ship TEXT", "seat INTEGER")
                .row("Ternen", "1")
                .row("Ternen", "2")
                .row("Ternen", "1")
                .row("Ternen", "1")
                .row("Lommen", "2")
                .row("Lommen", "2")
                .row(" ", "2")
                .row(" ", "2")
                .row(null, "3")
                .row("Lommen", null);
        RowSource source = source(crew);
        RowSource.KeyFindings both = source.checkKey(crew.query(schema()), List.of("ship", "seat"), 5, TIME);
        assertThat(both.rows()).isEqualTo(10);
        assertThat(both.blanks()).isEqualTo(4);
        assertThat(both.doubled()).isEqualTo(2);
        assertThat(both.examples()).containsExactlyInAnyOrder(List.of("Ternen", "1"), List.of("Lommen", "2"));
        RowSource.KeyFindings seats = source.checkKey(crew.query(schema()), List.of("seat"), 1, TIME);
        assertThat(seats.doubled()).isEqualTo(2);
        assertThat(seats.blanks()).isEqualTo(1);
        assertThat(seats.examples()).hasSize(1);
    }

    @Test
    void howManyRowsThereAreAndHowNewTheNewestIs() {
        SourceTable berths = berths();
        RowSource source = source(berths, SourceTable.of("empty", "at TIMESTAMP"));
        assertThat(source.probe(berths.query(schema()), Optional.of("seen at"), TIME))
                .isEqualTo(new RowSource.Extent(6, Optional.of(moment("2026-05-31 23:59:59.123456+00"))));
        assertThat(source.probe(berths.query(schema()), Optional.of("built"), TIME)
                        .newest())
                .contains("2024-02-29");
        assertThat(source.probe(berths.query(schema()), Optional.empty(), TIME))
                .isEqualTo(new RowSource.Extent(6, Optional.empty()));
        SourceQuery empty = SourceTable.of("empty", "at TIMESTAMP").query(schema());
        assertThat(source.probe(empty, Optional.of("at"), TIME)).isEqualTo(new RowSource.Extent(0, Optional.empty()));
    }

    @Test
    void theMarkIsTheSameUntilSomethingIsWritten() {
        SourceTable berths = berths();
        RowSource source = source(berths);
        Optional<String> seen = Optional.of("seen at");
        // What a server counts it tells a moment after the commit.
        RowSource.Mark before = Awaited.value(
                "the mark to stand still", () -> source.mark(berths.query(schema()), seen, TIME), first -> {
                    pause();
                    return first.equals(source.mark(berths.query(schema()), seen, TIME));
                });
        SourceTable more = berths().row("7", "Ness", "1", "t", "2024-01-01", "2026-06-01 00:00:00+00");
        RowSource after = source(more);
        assertThat(Awaited.value(
                                "the mark to differ",
                                () -> after.mark(more.query(schema()), seen, TIME),
                                mark -> !mark.equals(before))
                        .means())
                .isEqualTo(before.means());
    }

    private static void pause() {
        try {
            Thread.sleep(300);
        } catch (InterruptedException e) {
            throw new IllegalStateException(e);
        }
    }

    @Test
    void theTextsOfAColumnByHowOftenTheyStandThere() {
        SourceTable berths = berths();
        assertThat(source(berths).words(berths.query(schema()), "built", 3, TIME))
                .containsExactly(
                        new RowSource.Word("2011-11-11", 2),
                        new RowSource.Word("1998-04-01", 1),
                        new RowSource.Word("2011-11-12", 1));
        assertThat(source(berths).words(berths.query(schema()), "open", 9, TIME))
                .as("texts as a reading gives them, or as the source writes them in a text")
                .extracting(RowSource.Word::rows)
                .containsExactly(3L, 2L);
    }

    private static SourceTable trips() {
        return SourceTable.of(
                        "trips", "id INTEGER", "pass TEXT", "ship INTEGER", "fare DECIMAL", "day DATE", "at TIMESTAMP")
                .row("1", "P-1", "10", "20.00", "2026-05-01", "2026-05-01 10:00:00+00")
                .row("2", "P-1", "11", "100.00", "2026-05-20", "2026-05-20 10:00:00+00")
                .row("3", "P-2", "10", "9.50", "2026-05-25", "2026-05-25 12:00:00+00")
                .row("4", "P-1", "12", "9.5", null, null)
                .row("5", "P-2", null, "30.00", "2026-05-25", "2026-05-25 12:00:00+00")
                .row("6", null, "10", "1.00", "2026-05-31", "2026-05-31 12:00:00+00");
    }

    private static SourceTable ships() {
        return SourceTable.of("ships", "no INTEGER", "name TEXT", "built DATE")
                .row("10", "Ternen", "2001-01-01")
                .row("11", "Lommen", null)
                .row("12", "Alken", "1990-06-30");
    }

    private List<String> found(RowSource source, DatasetLookUp way, String... keys) {
        List<String> found = new ArrayList<>();
        LookUp lookUp = new LookUp(way, Map.of(1L, trips().dataset(schema()), 2L, ships().dataset(schema())), NOW);
        source.lookUp(lookUp, List.of(keys), TIME, cells -> found.add(Arrays.toString(cells)));
        return found;
    }

    private static DatasetLookUp way(String give, List<Condition> only, Pick pick) {
        return new DatasetLookUp(1, "pass", List.of(), give, only, Optional.of(pick));
    }

    @Test
    void theNewestComeFirstAndThoseWithoutADayLast() {
        RowSource source = source(trips(), ships());
        assertThat(found(source, way("id", List.of(), new Pick("day", true, 0)), "P-1"))
                .containsExactly("[P-1, 2]", "[P-1, 1]", "[P-1, 4]");
        assertThat(found(source, way("id", List.of(), new Pick("day", false, 0)), "P-1"))
                .containsExactly("[P-1, 1]", "[P-1, 2]", "[P-1, 4]");
        assertThat(found(source, way("fare", List.of(), new Pick("at", true, 0)), "P-2"))
                .as("equally new ones by what is given")
                .containsExactly("[P-2, " + decimal("9.50") + "]", "[P-2, " + decimal("30.00") + "]");
    }

    @Test
    void onlySoManyOfEachAndNoOlderOnes() {
        RowSource source = source(trips(), ships());
        assertThat(found(source, way("id", List.of(), new Pick("at", true, 0, 1)), "P-1", "P-2", "P-3"))
                .containsExactlyInAnyOrder("[P-1, 2]", "[P-2, 3]");
        assertThat(found(source, way("id", List.of(), new Pick("at", false, 12, 5)), "P-1", "P-2"))
                .as("twelve days back is 20 May, 12:00")
                .containsExactlyInAnyOrder("[P-2, 3]", "[P-2, 5]");
        assertThat(found(source, way("id", List.of(), new Pick("at", false, 13, 5)), "P-1"))
                .containsExactly("[P-1, 2]");
    }

    @Test
    void conditionsCompareByTextOrByType() {
        RowSource source = source(trips(), ships());
        Pick pick = new Pick("id", false, 0);
        assertThat(found(source, way("id", List.of(new Condition("fare", Comparison.MORE_THAN, "9.50")), pick), "P-1"))
                .as("as numbers")
                .containsExactly("[P-1, 1]", "[P-1, 2]");
        assertThat(found(
                        source,
                        way("id", List.of(new Condition("fare", Comparison.IS, decimal("9.5"))), pick),
                        "P-1",
                        "P-2"))
                .as("as text")
                .contains("[P-1, 4]")
                .hasSize(decimal("9.5").equals("9.5") ? 1 : 2);
        assertThat(found(
                        source, way("id", List.of(new Condition("ship", Comparison.IS_NOT, "10")), pick), "P-1", "P-2"))
                .as("what has no value is neither")
                .containsExactly("[P-1, 2]", "[P-1, 4]");
        assertThat(found(source, way("id", List.of(new Condition("ship", Comparison.LESS_THAN, "11.5")), pick), "P-1"))
                .containsExactly("[P-1, 1]", "[P-1, 2]");
        assertThat(found(
                        source,
                        way("id", List.of(new Condition("day", Comparison.LESS_THAN, "2026-05-20")), pick),
                        "P-1"))
                .containsExactly("[P-1, 1]");
    }

    @Test
    void aWayLeadsThroughFurtherDatasets() {
        RowSource source = source(trips(), ships());
        DatasetLookUp way = new DatasetLookUp(
                1,
                "pass",
                List.of(new Hop("ship", 2, "no")),
                "",
                List.of(new RowPart("name", "ship"), new RowPart("built", "year")),
                List.of(),
                Optional.of(new Pick("built", true, 0)));
        assertThat(found(source, way, "P-1", "P-2"))
                .contains("[P-2, Ternen, 2001-01-01]")
                .filteredOn(row -> row.startsWith("[P-1"))
                .containsExactly("[P-1, Ternen, 2001-01-01]", "[P-1, Alken, 1990-06-30]", "[P-1, Lommen, null]");
        assertThat(found(source, DatasetLookUp.of(1, "pass", "id")))
                .as("every one there is")
                .containsExactlyInAnyOrder("[P-1, 1]", "[P-1, 2]", "[P-2, 3]", "[P-1, 4]", "[P-2, 5]");
    }

    /** Against the plainest way there is, which goes over all rows. */
    @Test
    void anyWayFindsWhatGoingOverAllRowsFinds() {
        Random random = new Random(20261130);
        SourceTable first = SourceTable.of("first", "k TEXT", "n INTEGER", "d DATE", "t TEXT");
        SourceTable second = SourceTable.of("second", "n INTEGER", "f DECIMAL", "w TEXT");
        for (int i = 0; i < 60; i++) {
            first.row(
                    random.nextInt(9) == 0 ? null : "k" + random.nextInt(6),
                    random.nextInt(9) == 0 ? null : "" + random.nextInt(5),
                    random.nextInt(5) == 0 ? null : "2026-05-" + (10 + random.nextInt(20)),
                    "t" + i);
            second.row("" + random.nextInt(5), "" + random.nextInt(30), random.nextInt(4) == 0 ? null : "w" + i);
        }
        RowSource source = source(first, second);
        RowSource plain = new MemorySource(List.of(first, second));
        Map<Long, LookUp.Dataset> here = Map.of(1L, first.dataset(schema()), 2L, second.dataset(schema()));
        for (int round = 0; round < 60; round++) {
            DatasetLookUp way = anyWay(random);
            List<String> keys = random.nextBoolean() ? List.of() : List.of("k1", "k4", "nobody");
            LookUp lookUp = new LookUp(way, here, NOW);
            List<String> found = new ArrayList<>();
            source.lookUp(lookUp, keys, TIME, cells -> found.add(Arrays.toString(cells)));
            List<String> expected = new ArrayList<>();
            plain.lookUp(lookUp, keys, TIME, cells -> expected.add(Arrays.toString(cells)));
            assertThat(found).as("%s for %s", way, keys).containsExactlyInAnyOrderElementsOf(expected);
        }
    }

    private static DatasetLookUp anyWay(Random random) {
        boolean far = random.nextBoolean();
        List<Condition> only = random.nextBoolean()
                ? List.of()
                : List.of(
                        far
                                ? new Condition(
                                        "f", random.nextBoolean() ? Comparison.MORE_THAN : Comparison.LESS_THAN, "12.5")
                                : new Condition(
                                        "d",
                                        random.nextBoolean() ? Comparison.MORE_THAN : Comparison.IS,
                                        "2026-05-14"));
        int back = far || random.nextBoolean() ? 0 : random.nextInt(20);
        Optional<Pick> pick = random.nextInt(4) == 0
                ? Optional.empty()
                : Optional.of(new Pick(far ? "f" : "d", random.nextBoolean(), back, random.nextInt(4)));
        return new DatasetLookUp(1, "k", far ? List.of(new Hop("n", 2, "n")) : List.of(), far ? "w" : "t", only, pick);
    }

    /** Columns of every type, for those who have to make tables of them. */
    static String sqlType(ColumnType type) {
        return switch (type) {
            case TEXT -> "text";
            case INTEGER -> "bigint";
            case DECIMAL -> "numeric";
            case BOOLEAN -> "boolean";
            case DATE -> "date";
            case TIMESTAMP -> "timestamptz";
        };
    }
}

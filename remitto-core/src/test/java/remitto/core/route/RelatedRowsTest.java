package remitto.core.route;

import static org.assertj.core.api.Assertions.assertThat;

import java.math.BigDecimal;
import java.time.Instant;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.OptionalInt;
import org.junit.jupiter.api.Test;
import remitto.core.TestRows;
import remitto.core.dataset.Columns;
import remitto.core.destination.Field;
import remitto.core.destination.FieldKind;
import remitto.core.destination.ObjectDescription;
import remitto.core.fieldrule.DatasetLookUp;
import remitto.core.fieldrule.DatasetLookUp.Pick;
import remitto.core.fieldrule.DatasetLookUp.RowPart;
import remitto.core.fieldrule.FieldRule;
import remitto.core.fieldrule.Receives;
import remitto.core.fieldrule.RuleSentence;
import remitto.core.guard.Guards;
import remitto.core.shaper.AsJson;
import remitto.core.shaper.JoinList;
import remitto.core.shaper.Shaper;
import remitto.core.shaper.SpellRows;
import remitto.core.shaper.Stores;
import remitto.core.timetable.Schedule;
import remitto.core.value.JsonForm;
import remitto.core.value.Value;

class RelatedRowsTest {
    private static final long BOOKINGS = 9;
    private static final Columns PEOPLE = TestRows.columns("person_id:INTEGER:KEY", "given_name:TEXT");
    private static final Columns EVENTS = TestRows.columns(
            "event_no:INTEGER:KEY",
            "person_id:INTEGER:IDENTIFIER",
            "at:TIMESTAMP:EVENT_TIME",
            "line:TEXT",
            "amount:DECIMAL",
            "card:TEXT:SENSITIVE");
    private static final ObjectDescription PERSON = ObjectDescription.of(
            "person",
            "Person",
            true,
            List.of(field("id", FieldKind.TEXT), field("trips", FieldKind.ROWS), field("note", FieldKind.TEXT)));

    private static Field field(String name, FieldKind kind) {
        return new Field(
                name, name, kind, false, name.equals("id"), false, true, false, OptionalInt.empty(), List.of());
    }

    private static DatasetLookUp latest(int most, RowPart... parts) {
        return new DatasetLookUp(
                BOOKINGS,
                "person_id",
                List.of(),
                parts.length == 0 ? "line" : "",
                List.of(parts),
                List.of(),
                Optional.of(new Pick("at", true, 90, most)));
    }

    private static final RowPart WHEN = new RowPart("at", "when");
    private static final RowPart LINE = new RowPart("line", "line");
    private static final RowPart PRICE = new RowPart("amount", "price");

    private static FieldRule rule(String field, DatasetLookUp way, Shaper... shapers) {
        return FieldRule.of(field, new Receives.FromDataset(way, "person_id", Receives.IfMany.LIST), shapers);
    }

    private static RouteCompiler.Compilation compile(FieldRule rule) {
        return RouteCompiler.compile(
                RouteSpec.of(
                                Mode.ADD_OR_UPDATE,
                                List.of("id"),
                                List.of(FieldRule.of("id", new Receives.FromColumn("person_id")), rule),
                                new Basis.Stated("contract"),
                                Guards.defaults(),
                                new Schedule.ByHand("UTC"))
                        .firstRun(FirstRun.AlreadyThere.ADOPT, FirstRun.OlderRows.SEND),
                PEOPLE,
                PERSON,
                new Surroundings() {
                    @Override
                    public Stores stores() {
                        return Stores.NONE;
                    }

                    @Override
                    public Optional<Columns> columns(long dataset) {
                        return dataset == BOOKINGS ? Optional.of(EVENTS) : Optional.empty();
                    }

                    @Override
                    public Optional<Long> source(long dataset) {
                        return Optional.of(1L);
                    }
                });
    }

    private static List<String> blocking(FieldRule rule) {
        return compile(rule).faults().stream()
                .filter(RouteFault::blocking)
                .map(RouteFault::message)
                .toList();
    }

    private static Value shaped(FieldRule rule, Value... found) {
        DatasetLookUp way = ((Receives.FromDataset) rule.receives()).where();
        LookUps lookUps =
                LookUps.of(Map.of(new LookUps.Wanted.RowsOf(way, "4"), new LookUps.Found.Values(List.of(found))));
        ShapedRecord shaped =
                compile(rule).route().shape("4", TestRows.row(PEOPLE, Map.of("person_id", "4")), lookUps, Trace.NONE);
        return shaped.value(rule.field());
    }

    private static Value booking(String when, String line, String price) {
        return new Value.Parts(Map.of(
                "when",
                new Value.Moment(Instant.parse(when)),
                "line",
                new Value.Text(line),
                "price",
                new Value.Decimal(new BigDecimal(price))));
    }

    private static final Value FIRST = booking("2026-10-18T01:33:50Z", "LYS-BRE", "167.60");
    private static final Value SECOND = booking("2026-01-31T08:53:23Z", "BRE-HAL", "125.87");

    @Test
    void rowsArriveAsTheyReadBack() {
        Value rows = shaped(rule("trips", latest(3, WHEN, LINE, PRICE)), FIRST, SECOND);
        assertThat(JsonForm.read(JsonForm.write(rows))).isEqualTo(rows);
        assertThat(JsonForm.write(rows).orElseThrow())
                .isEqualTo(List.of(
                        Map.of("when", "2026-10-18T01:33:50Z", "line", "LYS-BRE", "price", new BigDecimal("167.6")),
                        Map.of("when", "2026-01-31T08:53:23Z", "line", "BRE-HAL", "price", new BigDecimal("125.87"))));
    }

    @Test
    void oneRowIsAListToo() {
        assertThat(shaped(rule("trips", latest(3, WHEN, LINE, PRICE)), FIRST)).isInstanceOf(Value.Items.class);
        assertThat(shaped(rule("note", latest(3), new AsJson()), Value.text("LYS-BRE")))
                .isEqualTo(Value.text("[\"LYS-BRE\"]"));
    }

    @Test
    void equalValuesOfTheLatestRowsAreNotPutTogether() {
        assertThat(shaped(
                        rule("note", latest(3), new JoinList(", ")),
                        Value.text("LYS-BRE"),
                        Value.text("LYS-BRE"),
                        Value.text("BRE-HAL")))
                .isEqualTo(Value.text("LYS-BRE, LYS-BRE, BRE-HAL"));
    }

    @Test
    void whoHasNoSuchRowsLosesNothingElse() {
        FieldRule rule = rule("trips", latest(3, WHEN, LINE));
        ShapedRecord shaped = compile(rule)
                .route()
                .shape("4", TestRows.row(PEOPLE, Map.of("person_id", "4")), LookUps.NONE, Trace.NONE);
        assertThat(shaped.value("trips")).isEqualTo(Value.EMPTY);
        assertThat(shaped.value("id")).isEqualTo(Value.text("4"));
    }

    @Test
    void eachRowCanBeSpelledAsText() {
        assertThat(shaped(
                        rule(
                                "note",
                                latest(2, WHEN, LINE, PRICE),
                                new SpellRows("{line} for {price}"),
                                new JoinList("; ")),
                        FIRST,
                        new Value.Parts(Map.of("line", Value.text("$1 {price}"), "price", Value.EMPTY))))
                .isEqualTo(Value.text("LYS-BRE for 167.6; $1 {price} for "));
        assertThat(blocking(rule("note", latest(2, LINE), new SpellRows("{line} on {day}"))))
                .containsExactly("The rows have nothing called day.");
    }

    /** RFC 8259, section 7: quotation marks and control characters are escaped, in names as well. */
    @Test
    void rowsAsJson() {
        Value row = new Value.Parts(Map.of(
                "a \"b\"", Value.text("x\ty"), "n", Value.number(3), "t", new Value.Truth(true), "z", Value.EMPTY));
        assertThat(AsJson.json(new Value.Items(List.of(row))))
                .isEqualTo("[{\"a \\\"b\\\"\":\"x\\u0009y\",\"n\":3,\"t\":true,\"z\":null}]");
    }

    @Test
    void aValueThatIsNoRowDoesNotFit() {
        assertThat(compile(FieldRule.of("trips", new Receives.Fixed("three"))).faults())
                .anyMatch(fault -> fault.message().contains("is no list of rows"));
    }

    @Test
    void whatIsSensitiveInARowStaysHere() {
        assertThat(blocking(rule("trips", latest(3, LINE, new RowPart("card", "card")))))
                .anyMatch(message -> message.contains("sensitive"));
    }

    @Test
    void namesAndNumbersOfRowsAreChecked() {
        assertThat(blocking(rule("trips", latest(3, LINE, new RowPart("amount", "line")))))
                .containsExactly("Two columns of a row are called the same.");
        assertThat(blocking(rule("trips", latest(3, new RowPart("line", "a{b}")))))
                .containsExactly("Give every column of a row a name without braces.");
        assertThat(blocking(rule("trips", latest(101, LINE)))).containsExactly("At most 100 rows are received.");
        assertThat(blocking(rule("trips", latest(3, new RowPart("gone", "gone")))))
                .containsExactly("The dataset that is looked up in has no column gone.");
    }

    @Test
    void theSentenceSaysWhichRowsAndWhatTheyAreCalled() {
        assertThat(new RuleSentence(id -> "", id -> "Bookings", id -> "")
                        .of(rule("trips", latest(3, WHEN, LINE, PRICE))))
                .startsWith(
                        "trips receives at as when, line, amount as price of Bookings, last 3 by at within 90 days");
    }
}

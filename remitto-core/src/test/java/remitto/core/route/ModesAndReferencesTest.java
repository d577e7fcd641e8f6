package remitto.core.route;

import static org.assertj.core.api.Assertions.assertThat;

import java.math.BigDecimal;
import java.time.Instant;
import java.util.List;
import java.util.Map;
import java.util.OptionalInt;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;
import remitto.core.TestRows;
import remitto.core.dataset.Columns;
import remitto.core.destination.Abilities;
import remitto.core.destination.Field;
import remitto.core.destination.FieldKind;
import remitto.core.destination.ObjectDescription;
import remitto.core.fieldrule.FieldRule;
import remitto.core.fieldrule.IfUnusable;
import remitto.core.fieldrule.Receives;
import remitto.core.guard.Guards;
import remitto.core.manifest.Decision;
import remitto.core.manifest.Judge;
import remitto.core.manifest.MatchResult;
import remitto.core.manifest.Verdict;
import remitto.core.timetable.Schedule;
import remitto.core.value.Value;

class ModesAndReferencesTest {
    private static final Instant NOW = Instant.parse("2026-11-24T09:00:00Z");
    private static final Columns COLUMNS = TestRows.columns("id:TEXT:KEY", "vat:TEXT", "agreed:TEXT:CONSENT");

    private static Field field(String name, boolean required, boolean unique) {
        return new Field(
                name, name, FieldKind.TEXT, required, unique, false, true, false, OptionalInt.empty(), List.of());
    }

    private static ObjectDescription object(Abilities abilities, Field... fields) {
        return new ObjectDescription("contact", "Contact", false, abilities, List.of(fields));
    }

    private static final ObjectDescription CONTACT =
            object(Abilities.all(), field("ref", true, true), field("company", false, false));
    private static final ObjectDescription LIST =
            object(new Abilities(true, false, false, true), field("ref", true, true));

    private static RouteSpec spec(Mode mode, FieldRule... rules) {
        return RouteSpec.of(
                        mode,
                        List.of("ref"),
                        List.of(rules),
                        new Basis.NotStated(),
                        Guards.defaults(),
                        new Schedule.ByHand("UTC"))
                .firstRun(FirstRun.AlreadyThere.ADOPT, FirstRun.OlderRows.SEND);
    }

    private static final FieldRule REF = FieldRule.of("ref", new Receives.FromColumn("id"));
    private static final FieldRule COMPANY = FieldRule.of("company", new Receives.RecordOf(7, "vat"));

    private static List<String> blocking(RouteSpec spec, ObjectDescription object) {
        return RouteCompiler.compile(spec, COLUMNS, object).faults().stream()
                .filter(RouteFault::blocking)
                .map(RouteFault::message)
                .toList();
    }

    @Test
    void aListTakesMembershipAndNothingElse() {
        assertThat(blocking(spec(Mode.MEMBERSHIP, REF).leavers(new Leavers.TakeOff()), LIST))
                .isEmpty();
        assertThat(blocking(spec(Mode.ADD_OR_UPDATE, REF), LIST))
                .contains(
                        "Contact is a list; a route to it uses the mode that keeps a list.",
                        "Records of Contact cannot be changed in the destination.");
        assertThat(blocking(spec(Mode.MEMBERSHIP, REF).leavers(new Leavers.Delete()), CONTACT))
                .containsExactly("Contact is not a list; choose another mode.");
    }

    @Test
    void whatTheDestinationCannotDoCannotBePromised() {
        ObjectDescription hook = object(new Abilities(false, false, false, false), field("ref", true, true));
        assertThat(blocking(spec(Mode.APPEND, REF), hook)).isEmpty();
        assertThat(blocking(spec(Mode.REMOVE, REF), hook))
                .containsExactly("Records of Contact cannot be removed from the destination.");
        assertThat(blocking(spec(Mode.APPEND, REF).leavers(new Leavers.ClearFields(List.of("ref"))), hook))
                .contains("In this mode, rows that leave the dataset are left untouched.");
    }

    @Test
    void aRouteInServiceRunsOnWithoutARuleItsDestinationNoLongerTakes() {
        FieldRule gone = FieldRule.of("gone", new Receives.FromColumn("vat"));
        var compiled = RouteCompiler.compile(spec(Mode.ADD_OR_UPDATE, REF, gone), COLUMNS, CONTACT);
        assertThat(compiled.usable()).as("it could not be put in service so").isFalse();
        assertThat(compiled.faults()).noneMatch(RouteFault::stopsRuns);
        assertThat(shape(compiled.route(), LookUps.NONE).fields()).hasSize(1);
    }

    @Test
    void aKeyFieldThatIsGoneStopsTheRoute() {
        ObjectDescription without = object(Abilities.all(), field("company", false, false));
        assertThat(RouteCompiler.compile(spec(Mode.ADD_OR_UPDATE, REF), COLUMNS, without)
                        .faults())
                .anyMatch(RouteFault::stopsRuns);
    }

    @Test
    void aFieldThatBecameRequiredHoldsAdditionsAndLetsUpdatesPass() {
        ObjectDescription stricter = object(Abilities.all(), field("ref", true, true), field("fresh", true, false));
        RouteSpec spec = spec(Mode.ADD_OR_UPDATE, REF);
        ShapedRecord shaped =
                shape(RouteCompiler.compile(spec, COLUMNS, stricter).route(), LookUps.NONE);
        Decision adding = Judge.judge(spec, shaped, new MatchResult.Unmatched(NOW));
        assertThat(adding.verdict()).isEqualTo(Verdict.HELD);
        assertThat(adding.reason()).isEqualTo("fresh is required in the destination, and no rule writes it");
        Decision updating = Judge.judge(
                spec, shaped, MatchResult.Matched.of("1", "", Map.of("ref", Value.text("other")), NOW, Map.of()));
        assertThat(updating.verdict()).isEqualTo(Verdict.CHANGED);
        assertThat(updating.holdsAnyValue()).isFalse();
    }

    private static ShapedRecord shape(CompiledRoute route, LookUps references) {
        return route.shape(
                "1", TestRows.row(COLUMNS, Map.of("id", "1", "vat", "NO 1", "agreed", "no")), references, Trace.NONE);
    }

    @Test
    void aReferenceReceivesTheIdOfTheOtherRoutesRecordOrWaitsWithTheReason() {
        RouteSpec spec = spec(Mode.ADD_OR_UPDATE, REF, COMPANY.ifUnusable(IfUnusable.HOLD_RECORD));
        CompiledRoute route = RouteCompiler.compile(spec, COLUMNS, CONTACT).route();
        var wanted = new LookUps.Wanted.RecordOfRoute(7, "NO 1");
        assertThat(route.lookUps(TestRows.row(COLUMNS, Map.of("id", "1", "vat", " NO 1 "))))
                .containsExactly(wanted);
        assertThat(route.lookUps(TestRows.row(COLUMNS, Map.of("id", "1")))).isEmpty();
        assertThat(route.columnsUsed()).contains("vat");
        assertThat(spec.parents()).containsExactly(7L);

        ShapedRecord bound = shape(
                route,
                LookUps.of(Map.of(
                        wanted, new LookUps.Found.Values(java.util.List.of(remitto.core.value.Value.text("40007"))))));
        assertThat(bound.value("company")).isEqualTo(Value.text("40007"));
        ShapedRecord waits = shape(route, LookUps.of(Map.of(wanted, new LookUps.Found.Waits("NO 1 is held"))));
        Decision held = Judge.judge(spec, waits, new MatchResult.Unmatched(NOW));
        assertThat(held.verdict()).isEqualTo(Verdict.HELD);
        assertThat(held.reason()).isEqualTo("company waits: NO 1 is held");
    }

    @Test
    void aStatedNoTakesOffTheListAndSilenceDoesNot() {
        RouteSpec base = spec(Mode.MEMBERSHIP, REF).leavers(new Leavers.TakeOff());
        RouteSpec spec = new RouteSpec(
                base.mode(),
                base.match(),
                base.rules(),
                new Basis.Consent("mail", "agreed"),
                base.guards(),
                base.schedule(),
                base.leavers(),
                base.firstRun(),
                base.waves(),
                base.after(),
                base.joined());
        CompiledRoute route = RouteCompiler.compile(spec, COLUMNS, LIST).route();
        MatchResult.Matched member = MatchResult.Matched.of("1", "", Map.of("ref", Value.text("1")), NOW, Map.of());
        Decision no = Judge.judge(spec, shape(route, LookUps.NONE), member);
        assertThat(no.verdict()).isEqualTo(Verdict.REMOVED);
        assertThat(no.reason()).isEqualTo("No consent to mail");
        ShapedRecord silent = route.shape("1", TestRows.row(COLUMNS, Map.of("id", "1")), LookUps.NONE, Trace.NONE);
        assertThat(Judge.judge(spec, silent, member).verdict()).isEqualTo(Verdict.LEFT_OUT);
        assertThat(Judge.judge(spec, shape(route, LookUps.NONE), new MatchResult.Unmatched(NOW))
                        .verdict())
                .isEqualTo(Verdict.LEFT_OUT);
    }

    @ParameterizedTest
    @CsvSource({"100, 0, true", "100, 2, true", "100, 3, false", "10, 1, false", "0, 0, true"})
    void theRestFollowsAFirstWaveThatWasTaken(long sent, long refused, boolean goesOn) {
        assertThat(new Waves(100, true, BigDecimal.valueOf(2)).mayGoOn(sent, refused))
                .isEqualTo(goesOn);
        assertThat(new Waves(100, false, BigDecimal.valueOf(2)).mayGoOn(sent, refused))
                .isFalse();
    }
}

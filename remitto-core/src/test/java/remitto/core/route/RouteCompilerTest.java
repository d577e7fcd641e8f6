package remitto.core.route;

import static org.assertj.core.api.Assertions.assertThat;

import java.util.List;
import java.util.OptionalInt;
import org.junit.jupiter.api.Test;
import remitto.core.TestRows;
import remitto.core.dataset.Columns;
import remitto.core.destination.Field;
import remitto.core.destination.FieldKind;
import remitto.core.destination.ObjectDescription;
import remitto.core.fieldrule.FieldRule;
import remitto.core.fieldrule.Receives;
import remitto.core.guard.Guards;
import remitto.core.shaper.E164;
import remitto.core.shaper.LowerCase;
import remitto.core.shaper.Shaper;
import remitto.core.shaper.ToDate;
import remitto.core.shaper.Trim;
import remitto.core.timetable.Schedule;

class RouteCompilerTest {
    private static final Columns COLUMNS = TestRows.columns(
            "id:TEXT:KEY",
            "e_mail:TEXT",
            "last_name:TEXT",
            "phone:TEXT",
            "born:DATE:SENSITIVE",
            "seen:TIMESTAMP",
            "visits:INTEGER");
    private static final ObjectDescription CONTACT = ObjectDescription.of(
            "contact",
            "Contact",
            true,
            List.of(
                    field("ref", FieldKind.TEXT, false, true, false, true),
                    field("email", FieldKind.EMAIL, false, true, false, true),
                    field("family_name", FieldKind.TEXT, true, false, false, true),
                    field("mobile", FieldKind.PHONE, false, false, false, true),
                    field("last_seen", FieldKind.DATE, false, false, false, true),
                    field("visits", FieldKind.INTEGER, false, false, false, true),
                    field("newsletter", FieldKind.BOOLEAN, false, false, false, true),
                    field("health", FieldKind.INTEGER, false, false, true, true),
                    field("note", FieldKind.TEXT, false, false, false, false)));

    private static Field field(
            String name, FieldKind kind, boolean required, boolean unique, boolean readOnly, boolean writable) {
        return new Field(name, name, kind, required, unique, readOnly, writable, false, OptionalInt.empty(), List.of());
    }

    private static FieldRule from(String field, String column, Shaper... shapers) {
        return FieldRule.of(field, new Receives.FromColumn(column), shapers);
    }

    private static List<RouteFault> faults(Basis basis, FieldRule... rules) {
        return RouteCompiler.compile(
                        RouteSpec.of(
                                        Mode.ADD_OR_UPDATE,
                                        List.of("ref"),
                                        List.of(rules),
                                        basis,
                                        Guards.defaults(),
                                        new Schedule.ByHand("UTC"))
                                .firstRun(FirstRun.AlreadyThere.ADOPT, FirstRun.OlderRows.SEND),
                        COLUMNS,
                        CONTACT)
                .faults();
    }

    private static final Basis BASIS = new Basis.Stated("contract");

    @Test
    void everythingWrongIsSaidAtOnce() {
        List<RouteFault> faults = faults(
                new Basis.NotStated(),
                from("ref", "gone"),
                from("health", "visits"),
                from("note", "last_name"),
                from("newsletter", "visits"),
                from("last_seen", "seen"),
                from("nowhere", "id"),
                FieldRule.of("visits", new Receives.Computed("visits +")));
        assertThat(faults)
                .filteredOn(RouteFault::blocking)
                .extracting(RouteFault::field)
                .contains("ref", "health", "note", "newsletter", "last_seen", "nowhere", "visits", "family_name", "");
    }

    @Test
    void aSoundRouteHasNoBlockingFault() {
        assertThat(faults(
                        BASIS,
                        from("ref", "id"),
                        from("family_name", "last_name"),
                        from("last_seen", "seen", new ToDate("", "Europe/Oslo")),
                        from("mobile", "phone", new E164("NO", ""))))
                .filteredOn(RouteFault::blocking)
                .isEmpty();
    }

    @Test
    void aSensitiveColumnCannotBeRoutedInTheClearNorThroughAnExpression() {
        assertThat(faults(BASIS, from("ref", "id"), from("family_name", "born")))
                .anyMatch(fault -> fault.blocking() && fault.message().contains("sensitive"));
        assertThat(faults(
                        BASIS,
                        from("ref", "id"),
                        FieldRule.of("family_name", new Receives.Computed("string(born.getFullYear())"))))
                .anyMatch(fault -> fault.blocking() && fault.message().contains("sensitive"));
    }

    @Test
    void faultsInAnExpressionHaveTheirPlace() {
        assertThat(faults(
                        BASIS,
                        from("ref", "id"),
                        FieldRule.of("family_name", new Receives.Computed("last_name + nam"))))
                .anyMatch(fault -> fault.line() == 1 && fault.column() == 12);
    }

    @Test
    void namesAreMatchedAndTheRestIsLeftOver() {
        RuleProposal.Proposal proposal = RuleProposal.propose(COLUMNS, CONTACT, "NO", "Europe/Oslo");
        assertThat(proposal.rules())
                .extracting(FieldRule::field)
                .containsExactly("email", "family_name", "mobile", "visits");
        assertThat(proposal.rules().get(0).shapers()).containsExactly(new Trim(), new LowerCase());
        assertThat(proposal.fieldsLeft()).containsExactly("ref", "last_seen", "newsletter");
        assertThat(proposal.columnsLeft()).containsExactly("id", "born", "seen");
    }

    private static List<String> messages(RouteSpec spec) {
        return RouteCompiler.compile(spec, COLUMNS, CONTACT).faults().stream()
                .map(RouteFault::message)
                .toList();
    }

    @Test
    void aModeAndItsLeaversMustGoTogether() {
        RouteSpec spec = RouteSpec.of(
                Mode.KEEP_EQUAL,
                List.of("ref"),
                List.of(from("ref", "id")),
                BASIS,
                Guards.defaults(),
                new Schedule.ByHand("UTC"));
        assertThat(messages(spec))
                .contains("Choose what the first run does with records already in the destination and with older rows.")
                .contains("This mode handles rows that leave the dataset; choose what happens to them.");
        assertThat(messages(spec.leavers(new Leavers.TakeOff())))
                .contains("Contact is not a list, so records cannot be taken off it.");
        assertThat(messages(spec.leavers(new Leavers.ClearFields(List.of("family_name", "health")))))
                .contains("When a row leaves: a required field cannot be cleared.")
                .contains("When a row leaves: the object has no such field that this login may write.");
        assertThat(messages(spec.leavers(new Leavers.Delete())
                        .firstRun(FirstRun.AlreadyThere.ADOPT, FirstRun.OlderRows.SEND)))
                .noneMatch(text -> text.contains("leave"));
    }
}

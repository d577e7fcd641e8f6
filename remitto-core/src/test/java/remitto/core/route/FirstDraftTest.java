package remitto.core.route;

import static org.assertj.core.api.Assertions.assertThat;

import java.util.List;
import java.util.Optional;
import java.util.OptionalInt;
import org.junit.jupiter.api.Test;
import remitto.core.TestRows;
import remitto.core.dataset.Columns;
import remitto.core.destination.Abilities;
import remitto.core.destination.Field;
import remitto.core.destination.FieldKind;
import remitto.core.destination.ObjectDescription;
import remitto.core.fieldrule.DatasetLookUp;
import remitto.core.fieldrule.DatasetLookUp.RowPart;
import remitto.core.fieldrule.FieldRule;
import remitto.core.fieldrule.IfEmpty;
import remitto.core.fieldrule.Receives;
import remitto.core.shaper.AsJson;
import remitto.core.shaper.E164;
import remitto.core.shaper.JoinList;
import remitto.core.shaper.NormaliseEmail;
import remitto.core.shaper.Sha256;
import remitto.core.shaper.SpellRows;
import remitto.core.shaper.Trim;

class FirstDraftTest {
    private static final Columns COLUMNS =
            TestRows.columns("person_id:INTEGER:KEY", "email:TEXT:IDENTIFIER", "phone:TEXT", "given_name:TEXT");

    private static ObjectDescription object(Abilities abilities, Field... fields) {
        return new ObjectDescription("o", "O", true, abilities, List.of(fields));
    }

    private static Field field(String name, FieldKind kind, boolean unique) {
        return new Field(name, name, kind, unique, unique, false, true, false, OptionalInt.empty(), List.of());
    }

    private static FirstDraft draft(ObjectDescription object) {
        return new FirstDraft(object, COLUMNS, new Basis.NotStated(), "NO", "Europe/Oslo");
    }

    private static final ObjectDescription FILE = object(
            new Abilities(false, false, true, true),
            field("Member", FieldKind.TEXT, true),
            field("First name", FieldKind.TEXT, false),
            field("Trips", FieldKind.ROWS, false),
            field("Lines", FieldKind.LIST, false),
            field("Note", FieldKind.TEXT, false));

    private static DatasetLookUp rows(RowPart... parts) {
        return new DatasetLookUp(
                9,
                "person_id",
                List.of(),
                parts.length == 0 ? "line" : "",
                List.of(parts),
                List.of(),
                Optional.of(new DatasetLookUp.Pick("at", true, 0, 3)));
    }

    @Test
    void aFileTakesWhatWasChosenUnderTheNamesItsReceiverWants() {
        RouteSpec spec = draft(FILE)
                .of(
                        List.of(
                                new FirstDraft.SentColumn("person_id", "Member"),
                                new FirstDraft.SentColumn("given_name", "First name")),
                        List.of());
        assertThat(spec.rules()).extracting(FieldRule::field).containsExactly("Member", "First name");
        assertThat(spec.rules().get(1).receives()).isEqualTo(new Receives.FromColumn("given_name"));
        assertThat(spec.match()).containsExactly("Member");
        assertThat(spec.mode()).isEqualTo(Mode.KEEP_EQUAL);
        assertThat(spec.leavers()).isEqualTo(new Leavers.Delete());
        assertThat(spec.firstRun()).as("nobody decided it").isEmpty();
    }

    @Test
    void rowsAreShapedForWhatReceivesThem() {
        RowPart line = new RowPart("line", "line");
        RowPart at = new RowPart("at", "when");
        List<FieldRule> rules = draft(FILE)
                .of(
                        List.of(),
                        List.of(
                                new FirstDraft.CarriedRows(rows(line, at), "person_id", "Trips"),
                                new FirstDraft.CarriedRows(rows(), "person_id", "Lines"),
                                new FirstDraft.CarriedRows(rows(line, at), "person_id", "Lines"),
                                new FirstDraft.CarriedRows(rows(line, at), "person_id", "Note"),
                                new FirstDraft.CarriedRows(rows(), "person_id", "Note")))
                .rules();
        assertThat(rules.get(0).shapers()).isEmpty();
        assertThat(rules.get(1).shapers()).isEmpty();
        assertThat(rules.get(2).shapers()).containsExactly(new SpellRows("{line} / {when}"));
        assertThat(rules.get(3).shapers()).containsExactly(new AsJson());
        assertThat(rules.get(4).shapers()).containsExactly(new JoinList(", "));
        assertThat(rules).allMatch(rule -> rule.ifEmpty() == IfEmpty.CLEAR);
    }

    @Test
    void aListOfHashesReceivesTidiedAddressesHashed() {
        ObjectDescription list = object(
                new Abilities(true, false, false, true),
                field("email_sha256", FieldKind.TEXT, true),
                field("phone_sha256", FieldKind.TEXT, false));
        RouteSpec spec = draft(list)
                .of(RuleProposal.propose(COLUMNS, list, "NO", "Europe/Oslo").rules());
        assertThat(spec.mode()).isEqualTo(Mode.MEMBERSHIP);
        assertThat(spec.leavers()).isEqualTo(new Leavers.TakeOff());
        assertThat(spec.match()).containsExactly("email_sha256");
        assertThat(spec.rules().get(0).receives()).isEqualTo(new Receives.FromColumn("email"));
        assertThat(spec.rules().get(0).shapers()).containsExactly(new NormaliseEmail(false), new Sha256());
        assertThat(spec.rules().get(1).shapers()).containsExactly(new E164("NO", ""), new Sha256());
    }

    @Test
    void aMessageIsAppendedAndARecordThatCanBeReadIsKept() {
        ObjectDescription message =
                object(new Abilities(false, false, false, false), field("text", FieldKind.TEXT, false));
        ObjectDescription contact = object(Abilities.all(), field("email", FieldKind.EMAIL, true));
        assertThat(draft(message).of(List.of()).mode()).isEqualTo(Mode.APPEND);
        assertThat(draft(contact).of(List.of()).mode()).isEqualTo(Mode.ADD_OR_UPDATE);
    }

    @Test
    void whatIsNoColumnIsLeftToTheCheckOfTheRoute() {
        RouteSpec spec = draft(FILE).of(List.of(new FirstDraft.SentColumn("gone", "Note")), List.of());
        assertThat(spec.rules().get(0).receives()).isEqualTo(new Receives.FromColumn("gone"));
        assertThat(draft(FILE)
                        .of(List.of(new FirstDraft.SentColumn("given_name", "Note")), List.of())
                        .rules()
                        .get(0)
                        .shapers())
                .containsExactly(new Trim());
    }
}

package remitto.core.route;

import static org.assertj.core.api.Assertions.assertThat;

import java.util.List;
import java.util.OptionalInt;
import java.util.stream.Stream;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;
import remitto.core.dataset.Column;
import remitto.core.dataset.ColumnRole;
import remitto.core.dataset.ColumnType;
import remitto.core.dataset.Columns;
import remitto.core.destination.Abilities;
import remitto.core.destination.Field;
import remitto.core.destination.FieldKind;
import remitto.core.destination.ObjectDescription;
import remitto.core.fieldrule.FieldRule;
import remitto.core.fieldrule.Receives;
import remitto.core.shaper.E164;
import remitto.core.shaper.LowerCase;
import remitto.core.shaper.Trim;

/** Rules are proposed where names mean the same, and a phone number is read by the country of its row. */
class RuleProposalTest {
    private static Column text(String name) {
        return new Column(name, ColumnType.TEXT, ColumnRole.ATTRIBUTE);
    }

    private static Field field(String name, FieldKind kind) {
        return new Field(name, name, kind, false, false, false, true, false, OptionalInt.empty(), List.of());
    }

    private static RuleProposal.Proposal propose(String country, List<Column> columns, Field... fields) {
        return RuleProposal.propose(
                new Columns(columns),
                new ObjectDescription(
                        "contact", "Contact", true, new Abilities(true, true, true, true), List.of(fields)),
                country,
                "UTC");
    }

    private static E164 phone(RuleProposal.Proposal proposal) {
        return proposal.rules().stream()
                .flatMap(rule -> rule.shapers().stream())
                .filter(E164.class::isInstance)
                .map(E164.class::cast)
                .findFirst()
                .orElseThrow();
    }

    @ParameterizedTest
    @CsvSource({"country, country", "Country_Code, Country_Code", "land, ''", "country_of_birth, ''"})
    void theCountryOfAPhoneNumberIsTheRowsWhereAColumnTellsIt(String column, String taken) {
        RuleProposal.Proposal proposal =
                propose("SE", List.of(text("mobile"), text(column)), field("phone", FieldKind.PHONE));
        assertThat(phone(proposal)).isEqualTo(new E164("SE", taken));
    }

    @Test
    void aCountryThatIsSensitiveOrNoTextIsNotTaken() {
        Column sensitive = new Column("country", ColumnType.TEXT, ColumnRole.SENSITIVE);
        Column number = new Column("country_code", ColumnType.INTEGER, ColumnRole.ATTRIBUTE);
        assertThat(phone(propose("", List.of(text("phone"), sensitive, number), field("mobile", FieldKind.PHONE))))
                .isEqualTo(new E164("", ""));
    }

    @Test
    void whereNobodyKnowsTheCountrySomebodyIsAsked() {
        assertThat(ShaperCheck.fault(new E164("", ""))).isPresent();
        assertThat(ShaperCheck.fault(new E164("", "country"))).isEmpty();
        assertThat(ShaperCheck.fault(new E164("N", "country"))).isPresent();
        assertThat(ShaperCheck.fault(new E164("NO", ""))).isEmpty();
    }

    @Test
    void namesThatMeanTheSameMeetAndTheRestIsLeft() {
        RuleProposal.Proposal proposal = propose(
                "NO",
                List.of(
                        text("First Name"),
                        text("E-Mail"),
                        text("shoe_size"),
                        new Column("ssn", ColumnType.TEXT, ColumnRole.SENSITIVE)),
                field("given_name", FieldKind.TEXT),
                field("email_address", FieldKind.EMAIL),
                field("ssn", FieldKind.TEXT));
        assertThat(proposal.rules().stream().map(FieldRule::receives))
                .containsExactly(new Receives.FromColumn("First Name"), new Receives.FromColumn("E-Mail"));
        assertThat(proposal.rules().get(1).shapers()).containsExactly(new Trim(), new LowerCase());
        assertThat(proposal.columnsLeft()).containsExactly("shoe_size", "ssn");
        assertThat(proposal.fieldsLeft()).containsExactly("ssn");
    }

    @Test
    void aColumnIsTakenOnceAndAFieldThatMayNotBeWrittenTakesNone() {
        Field closed = new Field(
                "email", "E-mail", FieldKind.EMAIL, false, false, true, false, false, OptionalInt.empty(), List.of());
        assertThat(Stream.of(closed, field("email", FieldKind.EMAIL), field("mail", FieldKind.EMAIL))
                        .filter(Field::mayBeWritten))
                .hasSize(2);
        RuleProposal.Proposal proposal = propose(
                "NO", List.of(text("email")), closed, field("email", FieldKind.EMAIL), field("mail", FieldKind.EMAIL));
        assertThat(proposal.rules()).hasSize(1);
        assertThat(proposal.fieldsLeft()).containsExactly("mail");
    }
}

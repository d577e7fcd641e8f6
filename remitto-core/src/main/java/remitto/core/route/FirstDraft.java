package remitto.core.route;

import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import remitto.core.dataset.Columns;
import remitto.core.destination.Field;
import remitto.core.destination.FieldKind;
import remitto.core.destination.ObjectDescription;
import remitto.core.fieldrule.DatasetLookUp;
import remitto.core.fieldrule.FieldRule;
import remitto.core.fieldrule.IfEmpty;
import remitto.core.fieldrule.Receives;
import remitto.core.guard.Guards;
import remitto.core.shaper.AsJson;
import remitto.core.shaper.JoinList;
import remitto.core.shaper.Shaper;
import remitto.core.shaper.SpellRows;
import remitto.core.timetable.Schedule;

/** What a route says when it is laid, until somebody goes through it: a draft, in no way in service. */
public final class FirstDraft {
    private final ObjectDescription object;
    private final Columns columns;
    private final Basis basis;
    private final String country;
    private final String zone;

    /**
     * @param country ISO 3166 code for phone numbers spelled without one
     * @param zone IANA time zone of its days
     */
    public FirstDraft(ObjectDescription object, Columns columns, Basis basis, String country, String zone) {
        this.object = object;
        this.columns = columns;
        this.basis = basis;
        this.country = country;
        this.zone = zone;
    }

    /** A column that is sent, and the field that receives it. */
    public record SentColumn(String column, String field) {}

    /**
     * Rows of another dataset that are sent as well.
     *
     * @param column whose value the rows are found by
     */
    public record CarriedRows(DatasetLookUp where, String column, String field) {}

    /** A name that is no column or no field is left to the check of the route. */
    public RouteSpec of(List<SentColumn> carried, List<CarriedRows> rows) {
        List<FieldRule> rules = new ArrayList<>();
        carried.forEach(one -> rules.add(rule(one)));
        rows.forEach(one -> rules.add(rule(one)));
        return of(rules);
    }

    /** With rules that somebody made. */
    public RouteSpec of(List<FieldRule> rules) {
        RouteSpec spec = RouteSpec.of(mode(), match(rules), rules, basis, Guards.defaults(), new Schedule.ByHand(zone));
        return switch (mode()) {
            case MEMBERSHIP -> spec.leavers(new Leavers.TakeOff());
            case KEEP_EQUAL -> spec.leavers(new Leavers.Delete());
            default -> spec;
        };
    }

    private Mode mode() {
        if (object.abilities().list()) {
            return Mode.MEMBERSHIP;
        }
        if (object.abilities().reads()) {
            return Mode.ADD_OR_UPDATE;
        }
        return object.abilities().removes() ? Mode.KEEP_EQUAL : Mode.APPEND;
    }

    /** The first field with a rule that no two records share. */
    private List<String> match(List<FieldRule> rules) {
        return object.fields().stream()
                .filter(Field::unique)
                .map(Field::name)
                .filter(name -> rules.stream().anyMatch(rule -> rule.field().equals(name)))
                .limit(1)
                .toList();
    }

    private FieldRule rule(SentColumn one) {
        Optional<Field> field = object.field(one.field());
        return field.isPresent() && columns.find(one.column()).isPresent()
                ? RuleProposal.rule(
                        field.get(),
                        columns.find(one.column()).orElseThrow(),
                        RuleProposal.phone(columns, country),
                        zone)
                : FieldRule.of(one.field(), new Receives.FromColumn(one.column()));
    }

    /** Whoever has no such rows any more has none there either. */
    private FieldRule rule(CarriedRows one) {
        Receives receives = new Receives.FromDataset(one.where(), one.column(), Receives.IfMany.LIST);
        return FieldRule.of(
                        one.field(),
                        receives,
                        shapers(object.field(one.field()).map(Field::kind).orElse(FieldKind.TEXT), one.where()))
                .ifEmpty(IfEmpty.CLEAR);
    }

    private static Shaper[] shapers(FieldKind kind, DatasetLookUp where) {
        boolean rows = !where.parts().isEmpty();
        if (kind == FieldKind.ROWS) {
            return new Shaper[0];
        }
        if (kind == FieldKind.LIST) {
            return rows ? new Shaper[] {new SpellRows(pattern(where))} : new Shaper[0];
        }
        return new Shaper[] {rows ? new AsJson() : new JoinList(", ")};
    }

    private static String pattern(DatasetLookUp where) {
        return String.join(
                " / ", where.names().stream().map(name -> "{" + name + "}").toList());
    }
}

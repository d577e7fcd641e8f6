package remitto.core.route;

import java.util.HashSet;
import java.util.Optional;
import java.util.Set;
import remitto.core.dataset.ColumnType;
import remitto.core.dataset.Row;
import remitto.core.destination.Field;
import remitto.core.destination.Fit;
import remitto.core.expression.CompiledExpression;
import remitto.core.fieldrule.FieldRule;
import remitto.core.fieldrule.IfEmpty;
import remitto.core.fieldrule.IfUnusable;
import remitto.core.fieldrule.Receives;
import remitto.core.manifest.ShapedField;
import remitto.core.manifest.Trace;
import remitto.core.shaper.Shaped;
import remitto.core.shaper.Shaper;
import remitto.core.value.Value;

/** One field rule, ready to run. */
final class CompiledRule {
    private final FieldRule rule;
    private final Field field;
    private final Optional<CompiledExpression> expression;
    private final boolean lacking;

    CompiledRule(FieldRule rule, Field field, Optional<CompiledExpression> expression) {
        this(rule, field, expression, false);
    }

    private CompiledRule(FieldRule rule, Field field, Optional<CompiledExpression> expression, boolean lacking) {
        this.lacking = lacking;
        this.rule = rule;
        this.field = field;
        this.expression = expression;
    }

    /** Stands for a required field that no rule feeds: an addition is held, an update goes without it. */
    static CompiledRule lacking(Field field) {
        FieldRule none = FieldRule.of(field.name(), new Receives.Fixed("")).ifUnusable(IfUnusable.LEAVE);
        return new CompiledRule(none, field, Optional.empty(), true);
    }

    FieldRule rule() {
        return rule;
    }

    Set<String> columns() {
        Set<String> columns =
                new HashSet<>(expression.map(CompiledExpression::columns).orElse(Set.of()));
        if (rule.receives() instanceof Receives.FromColumn from) {
            columns.add(from.column());
        } else if (rule.receives() instanceof Receives.RecordOf reference) {
            columns.add(reference.column());
        }
        rule.shapers().forEach(shaper -> columns.addAll(shaper.columns()));
        return columns;
    }

    /** The record of another route that this rule refers to in a row; empty for other rules and empty cells. */
    Optional<References.Wanted> reference(Row row) {
        return rule.receives() instanceof Receives.RecordOf reference
                ? row.cell(reference.column())
                        .filter(cell -> !cell.isBlank())
                        .map(cell -> new References.Wanted(reference.route(), cell.strip()))
                : Optional.empty();
    }

    ShapedField shape(Row row, References references, Trace trace) {
        if (lacking) {
            return new ShapedField(
                    rule, field, new Shaped.Unusable(field.name() + " is required there, and no rule gives it"));
        }
        Shaped shaped = receive(row, references, trace);
        for (Shaper shaper : rule.shapers()) {
            if (!(shaped instanceof Shaped.Usable usable)) {
                break;
            }
            shaped = shaper.apply(usable.value(), row);
            tell(trace, shaper.title(), "", shaped);
        }
        if (shaped instanceof Shaped.Usable usable && usable.value().isEmpty() && rule.ifEmpty() == IfEmpty.DEFAULT) {
            shaped = new Shaped.Usable(new Value.Text(rule.defaultText()));
            tell(trace, "Empty", "the default is used", shaped);
        }
        if (shaped instanceof Shaped.Usable usable) {
            shaped = Fit.into(field, usable.value());
            if (shaped instanceof Shaped.Unusable) {
                tell(trace, "Does not fit", "", shaped);
            }
        }
        return new ShapedField(rule, field, shaped);
    }

    private Shaped receive(Row row, References references, Trace trace) {
        if (rule.receives() instanceof Receives.FromColumn from) {
            Shaped read = readColumn(row, from.column());
            tell(trace, "Read", from.column(), read);
            return read;
        }
        if (rule.receives() instanceof Receives.Fixed fixed) {
            Shaped text = new Shaped.Usable(new Value.Text(fixed.text()));
            tell(trace, "Fixed", "", text);
            return text;
        }
        if (rule.receives() instanceof Receives.RecordOf reference) {
            Shaped found =
                    reference(row).map(wanted -> refer(wanted, references)).orElse(new Shaped.Usable(Value.EMPTY));
            tell(trace, "Record of another route", reference.column(), found);
            return found;
        }
        Shaped computed = expression.orElseThrow().evaluate(row);
        tell(trace, "Computed", ((Receives.Computed) rule.receives()).expression(), computed);
        return computed;
    }

    private Shaped refer(References.Wanted wanted, References references) {
        References.Found found = references.find(wanted);
        return found instanceof References.Found.Bound bound
                ? new Shaped.Usable(new Value.Text(bound.remoteId()))
                : new Shaped.Unusable(field.name() + " waits: " + ((References.Found.Waits) found).reason());
    }

    private static Shaped readColumn(Row row, String column) {
        try {
            return new Shaped.Usable(row.value(column));
        } catch (ColumnType.UnreadableCell e) {
            return new Shaped.Unusable(column + ": " + e.getMessage());
        }
    }

    private void tell(Trace trace, String step, String detail, Shaped shaped) {
        if (trace == Trace.NONE) {
            return;
        }
        if (shaped instanceof Shaped.Usable usable) {
            trace.step(field.name(), step, detail, usable.value());
        } else if (shaped instanceof Shaped.Unusable unusable) {
            trace.step(field.name(), step, unusable.reason(), Value.MISSING);
        }
    }
}

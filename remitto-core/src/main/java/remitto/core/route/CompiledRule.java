package remitto.core.route;

import java.time.Instant;
import java.util.ArrayList;
import java.util.HashSet;
import java.util.List;
import java.util.Optional;
import java.util.Set;
import java.util.regex.Pattern;
import remitto.core.dataset.ColumnType;
import remitto.core.dataset.Columns;
import remitto.core.dataset.Row;
import remitto.core.destination.Field;
import remitto.core.destination.Fit;
import remitto.core.expression.CompiledExpression;
import remitto.core.fieldrule.FieldRule;
import remitto.core.fieldrule.IfEmpty;
import remitto.core.fieldrule.IfUnusable;
import remitto.core.fieldrule.Receives;
import remitto.core.known.Fingerprint;
import remitto.core.shaper.Shaped;
import remitto.core.shaper.Step;
import remitto.core.value.Value;

/** One field rule, ready to run. */
final class CompiledRule {
    private final FieldRule rule;
    private final Field field;
    private final Optional<CompiledExpression> expression;
    private final Step[] steps;
    private final boolean lacking;
    private final boolean fromColumn;
    private final int columnAt;
    /** The value depends on the row's cells alone, so that nothing is asked besides; most rules are like that. */
    private final boolean plain;

    /** @param steps the rule's shapers, ready to run, in order */
    CompiledRule(
            FieldRule rule, Field field, Optional<CompiledExpression> expression, List<Step> steps, Columns columns) {
        this(rule, field, expression, steps, columns, false);
    }

    private CompiledRule(
            FieldRule rule,
            Field field,
            Optional<CompiledExpression> expression,
            List<Step> steps,
            Columns columns,
            boolean lacking) {
        this.fromColumn = rule.receives() instanceof Receives.FromColumn;
        this.plain = rule.newer().isEmpty()
                && rule.timing().isEmpty()
                && rule.consent().isEmpty();
        this.columnAt = rule.receives() instanceof Receives.FromColumn from
                ? columns.position(from.column()).orElse(-1)
                : -1;
        this.rule = rule;
        this.field = field;
        this.expression = expression;
        this.steps = steps.toArray(Step[]::new);
        this.lacking = lacking;
    }

    /** Stands for a required field that no rule feeds: an addition is held, an update goes without it. */
    static CompiledRule lacking(Field field, Columns columns) {
        FieldRule none = FieldRule.of(field.name(), new Receives.Fixed("")).ifUnusable(IfUnusable.LEAVE);
        return new CompiledRule(none, field, Optional.empty(), List.of(), columns, true);
    }

    FieldRule rule() {
        return rule;
    }

    /** Columns whose values go into what is received; others only decide whether it is written, and when. */
    Set<String> valueColumns() {
        Set<String> columns =
                new HashSet<>(expression.map(CompiledExpression::columns).orElse(Set.of()));
        rule.receives().readColumn().ifPresent(columns::add);
        rule.shapers().forEach(shaper -> columns.addAll(shaper.columns()));
        return columns;
    }

    Set<String> columns() {
        Set<String> columns = valueColumns();
        rule.newer().ifPresent(newer -> columns.add(newer.column()));
        rule.consent().ifPresent(consent -> columns.add(consent.column()));
        rule.timing()
                .map(timing -> timing.onlyWithColumn())
                .filter(column -> !column.isBlank())
                .ifPresent(columns::add);
        return columns;
    }

    /** What this rule looks up beyond a row; nothing for other rules and empty cells. */
    List<LookUps.Wanted> lookUps(Row row) {
        Optional<String> cell = rule.receives().readColumn().flatMap(row::cell).filter(text -> !text.isBlank());
        if (cell.isEmpty()) {
            return List.of();
        }
        String key = cell.get().strip();
        if (rule.receives() instanceof Receives.RecordOf reference) {
            return List.of(new LookUps.Wanted.RecordOfRoute(reference.route(), key));
        }
        if (rule.receives() instanceof Receives.RecordsOf references) {
            return Pattern.compile(references.separator(), Pattern.LITERAL)
                    .splitAsStream(key)
                    .map(String::strip)
                    .filter(one -> !one.isEmpty())
                    .distinct()
                    .<LookUps.Wanted>map(one -> new LookUps.Wanted.RecordOfRoute(references.route(), one))
                    .toList();
        }
        if (rule.receives() instanceof Receives.FromDataset found) {
            return List.of(new LookUps.Wanted.RowsOf(found.where(), key));
        }
        return rule.receives() instanceof Receives.FoundThere there
                ? List.of(new LookUps.Wanted.RecordsThere(there.object(), there.by(), key))
                : List.of();
    }

    ShapedField shape(Row row, LookUps lookUps, Trace trace) {
        if (lacking) {
            return new ShapedField(
                    rule,
                    field,
                    new Shaped.Unusable(field.name() + " is required in the destination, and no rule writes it"));
        }
        boolean told = trace != Trace.NONE;
        Shaped shaped = receive(row, lookUps, trace);
        for (int i = 0; i < steps.length && shaped instanceof Shaped.Usable usable; i++) {
            shaped = steps[i].apply(usable.value(), row);
            if (told) {
                tell(trace, rule.shapers().get(i).title(), "", shaped);
            }
        }
        Optional<ShapedField.Emptiness> emptiness = emptiness(shaped);
        if (emptiness.isPresent() && emptiness.get().choice() == IfEmpty.DEFAULT) {
            shaped = new Shaped.Usable(new Value.Text(rule.defaultText()));
            tell(trace, emptiness.get().word(), "the default is used", shaped);
            emptiness = Optional.empty();
        }
        if (shaped instanceof Shaped.Usable usable) {
            shaped = Fit.into(field, usable);
            if (told && shaped instanceof Shaped.Unusable) {
                tell(trace, "Does not fit", "", shaped);
            }
        }
        return plain
                ? new ShapedField(rule, field, shaped, emptiness, Optional.empty(), 0, Optional.empty())
                : new ShapedField(
                        rule,
                        field,
                        shaped,
                        emptiness,
                        rule.newer().flatMap(newer -> moment(row, newer.column())),
                        mark(row),
                        rule.consent().map(consent -> ConsentCell.read(row, consent.column())));
    }

    /** Nothing, nothing but spaces, and not being there at all are three things. */
    private Optional<ShapedField.Emptiness> emptiness(Shaped shaped) {
        if (!(shaped instanceof Shaped.Usable usable) || !usable.value().isEmpty()) {
            return Optional.empty();
        }
        if (usable.value() instanceof Value.Missing) {
            return Optional.of(
                    new ShapedField.Emptiness("missing", rule.ifMissing().orElse(rule.ifEmpty())));
        }
        return Optional.of(
                usable.value() instanceof Value.Text
                        ? new ShapedField.Emptiness("blank", rule.ifBlank().orElse(rule.ifEmpty()))
                        : new ShapedField.Emptiness("empty", rule.ifEmpty()));
    }

    private static Optional<Instant> moment(Row row, String column) {
        try {
            return row.value(column) instanceof Value.Moment moment ? Optional.of(moment.instant()) : Optional.empty();
        } catch (ColumnType.UnreadableCell e) {
            return Optional.empty();
        }
    }

    private long mark(Row row) {
        return rule.timing()
                .map(timing -> timing.onlyWithColumn())
                .filter(column -> !column.isBlank())
                .map(column -> new Fingerprint().of(List.of(row.cell(column).orElse(""))))
                .orElse(0L);
    }

    private Shaped receive(Row row, LookUps lookUps, Trace trace) {
        if (fromColumn) {
            Shaped read = readColumn(row);
            if (trace != Trace.NONE) {
                tell(trace, "Read", column(), read);
            }
            return read;
        }
        if (rule.receives() instanceof Receives.Fixed fixed) {
            Shaped text = new Shaped.Usable(new Value.Text(fixed.text()));
            tell(trace, "Fixed", "", text);
            return text;
        }
        if (rule.receives() instanceof Receives.Computed computed) {
            Shaped value = expression.orElseThrow().evaluate(row);
            tell(trace, "Computed", computed.expression(), value);
            return value;
        }
        Shaped found = lookedUp(row, lookUps);
        tell(trace, steps(rule.receives()), rule.receives().readColumn().orElse(""), found);
        return found;
    }

    private static String steps(Receives receives) {
        if (receives instanceof Receives.FromDataset) {
            return "Found in another dataset";
        }
        return receives instanceof Receives.FoundThere ? "Found in the destination" : "Record of another route";
    }

    private Shaped lookedUp(Row row, LookUps lookUps) {
        List<LookUps.Wanted> wanted = lookUps(row);
        if (wanted.isEmpty()) {
            return new Shaped.Usable(Value.EMPTY);
        }
        if (rule.receives() instanceof Receives.RecordsOf) {
            return several(wanted, lookUps);
        }
        LookUps.Found found = lookUps.find(wanted.get(0));
        if (found instanceof LookUps.Found.Waits waits) {
            return new Shaped.Unusable(field.name() + " waits: " + waits.reason());
        }
        List<Value> values = ((LookUps.Found.Values) found).values();
        if (values.isEmpty()) {
            return new Shaped.Usable(Value.MISSING);
        }
        return values.size() == 1 && ifMany() != Receives.IfMany.LIST
                ? new Shaped.Usable(values.get(0))
                : many(wanted.get(0).key(), values);
    }

    private Shaped many(String key, List<Value> values) {
        return switch (ifMany()) {
            case UNUSABLE ->
                new Shaped.Unusable(field.name() + ": " + values.size() + " are found for \"" + key + "\"");
            case FIRST -> new Shaped.Usable(values.get(0));
            case LIST ->
                new Shaped.Usable(new Value.Items(
                        together() ? values : values.stream().distinct().toList()));
        };
    }

    /** Rows are received as they are; of values, each once. */
    private boolean together() {
        return rule.receives() instanceof Receives.FromDataset found
                && (found.where().most() > 0 || !found.where().parts().isEmpty());
    }

    private Receives.IfMany ifMany() {
        if (rule.receives() instanceof Receives.FromDataset found) {
            return found.ifMany();
        }
        return rule.receives() instanceof Receives.FoundThere there ? there.ifMany() : Receives.IfMany.UNUSABLE;
    }

    private Shaped several(List<LookUps.Wanted> wanted, LookUps lookUps) {
        List<Value> ids = new ArrayList<>();
        for (LookUps.Wanted one : wanted) {
            LookUps.Found found = lookUps.find(one);
            if (found instanceof LookUps.Found.Waits waits) {
                return new Shaped.Unusable(field.name() + " waits: " + waits.reason());
            }
            ids.addAll(((LookUps.Found.Values) found).values());
        }
        return new Shaped.Usable(new Value.Items(ids));
    }

    private Shaped readColumn(Row row) {
        try {
            return new Shaped.Usable(columnAt < 0 ? Value.MISSING : row.valueAt(columnAt));
        } catch (ColumnType.UnreadableCell e) {
            return new Shaped.Unusable(column() + ": " + e.getMessage());
        }
    }

    private String column() {
        return rule.receives().readColumn().orElse("");
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

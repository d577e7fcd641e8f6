package remitto.core.route;

import java.util.ArrayList;
import java.util.EnumSet;
import java.util.HashSet;
import java.util.List;
import java.util.Optional;
import java.util.Set;
import remitto.core.dataset.Column;
import remitto.core.dataset.ColumnRole;
import remitto.core.dataset.ColumnType;
import remitto.core.dataset.Columns;
import remitto.core.destination.Field;
import remitto.core.destination.FieldKind;
import remitto.core.destination.Fit;
import remitto.core.destination.ObjectDescription;
import remitto.core.expression.CompiledExpression;
import remitto.core.fieldrule.DatasetLookUp;
import remitto.core.fieldrule.FieldRule;
import remitto.core.fieldrule.IfEmpty;
import remitto.core.fieldrule.Receives;
import remitto.core.fieldrule.Timing;
import remitto.core.fieldrule.Written;
import remitto.core.shaper.E164;
import remitto.core.shaper.Shaped;
import remitto.core.shaper.Shaper;
import remitto.core.shaper.SpellRows;
import remitto.core.shaper.Step;
import remitto.core.shaper.ToDate;
import remitto.core.value.Value;

/** Binds a route to its dataset's columns and its object's fields, and says everything that is wrong at once. */
public final class RouteCompiler {
    private final RouteSpec spec;
    private final Columns columns;
    private final ObjectDescription object;
    private final Surroundings surroundings;
    private final List<RouteFault> faults = new ArrayList<>();

    private RouteCompiler(RouteSpec spec, Columns columns, ObjectDescription object, Surroundings surroundings) {
        this.surroundings = surroundings;
        this.spec = spec;
        this.columns = columns;
        this.object = object;
    }

    /**
     * @param route rules that could be compiled; rules with a blocking fault are left aside, so that a record can
     *     still be followed through the others
     * @param faults all of them, blocking and advice
     */
    public record Compilation(CompiledRoute route, List<RouteFault> faults) {
        public boolean usable() {
            return faults.stream().noneMatch(RouteFault::blocking);
        }
    }

    /** A route that reaches for nothing beyond its rows. */
    public static Compilation compile(RouteSpec spec, Columns columns, ObjectDescription object) {
        return compile(spec, columns, object, Surroundings.NONE);
    }

    public static Compilation compile(
            RouteSpec spec, Columns columns, ObjectDescription object, Surroundings surroundings) {
        return new RouteCompiler(spec, columns, object, surroundings).run();
    }

    private Compilation run() {
        List<CompiledRule> rules = new ArrayList<>();
        Set<String> seen = new HashSet<>();
        for (FieldRule rule : spec.rules()) {
            if (!seen.add(rule.field())) {
                block(rule.field(), "Two rules write this field.");
                continue;
            }
            concerningOneRule(() -> compileRule(rule).ifPresent(rules::add));
        }
        checkMatch(seen);
        concerningOneRule(() -> checkRequired(seen, rules));
        checkBasis();
        checkMode();
        checkLeavers();
        if (spec.firstRun().isEmpty() && spec.mode() != Mode.REMOVE) {
            block("", "Choose what the first run does with records already in the destination and with older rows.");
        }
        if (columns.keys().isEmpty()) {
            block("", "The dataset has no key column.");
        }
        return new Compilation(new CompiledRoute(spec, object, columns, rules), List.copyOf(faults));
    }

    /** Marks the faults found meanwhile as the rule's own, unless records are matched by its field. */
    private void concerningOneRule(Runnable check) {
        int before = faults.size();
        check.run();
        faults.subList(before, faults.size())
                .replaceAll(fault -> spec.match().contains(fault.field()) ? fault : fault.ofRuleOnly());
    }

    private Optional<CompiledRule> compileRule(FieldRule rule) {
        Optional<Field> field = object.field(rule.field());
        if (field.isEmpty()) {
            block(rule.field(), "The object has no such field.");
            return Optional.empty();
        }
        int before = faults.size();
        if (rule.written() != Written.NEVER && !field.get().mayBeWritten()) {
            block(
                    rule.field(),
                    field.get().readOnly()
                            ? "This field is read-only in the destination."
                            : "This login may not write this field.");
        }
        Optional<CompiledExpression> expression = receives(rule, field.get());
        List<Step> steps = new ArrayList<>();
        for (Shaper shaper : rule.shapers()) {
            ShaperCheck.fault(shaper).ifPresent(fault -> block(rule.field(), fault));
            shaper.columns().forEach(name -> requireColumn(rule.field(), name));
            try {
                steps.add(shaper.ready(surroundings.stores()));
            } catch (IllegalArgumentException e) {
                block(rule.field(), String.valueOf(e.getMessage()));
            }
        }
        checkWritten(rule);
        Set<IfEmpty> choices = EnumSet.of(rule.ifEmpty());
        rule.ifBlank().ifPresent(choices::add);
        rule.ifMissing().ifPresent(choices::add);
        if (choices.contains(IfEmpty.DEFAULT)
                && Fit.into(field.get(), new Value.Text(rule.defaultText())) instanceof Shaped.Unusable no) {
            block(rule.field(), "The default does not fit: " + no.reason());
        }
        if (choices.contains(IfEmpty.CLEAR) && field.get().required()) {
            block(rule.field(), "A required field cannot be cleared.");
        }
        boolean broken = faults.subList(before, faults.size()).stream().anyMatch(RouteFault::blocking);
        return broken ? Optional.empty() : Optional.of(new CompiledRule(rule, field.get(), expression, steps, columns));
    }

    private Optional<CompiledExpression> receives(FieldRule rule, Field field) {
        Receives receives = rule.receives();
        if (receives instanceof Receives.Computed computed) {
            return expression(rule, computed.expression());
        }
        if (receives instanceof Receives.Fixed && !field.theirs().isEmpty() && rule.written() != Written.NEVER) {
            advise(
                    rule.field(),
                    "The same value for everyone, although people set this in the destination themselves: whoever is "
                            + String.join(" or ", field.theirs())
                            + " keeps it, but everyone else counts as having agreed. Use a consent column instead.");
        }
        if (receives instanceof Receives.Fixed fixed) {
            if (Fit.into(field, new Value.Text(fixed.text())) instanceof Shaped.Unusable no) {
                block(rule.field(), no.reason());
            }
            return Optional.empty();
        }
        String name = receives.readColumn().orElseThrow();
        Optional<Column> column = columns.find(name);
        if (column.isEmpty()) {
            block(rule.field(), name.isBlank() ? "Choose a column." : "The dataset has no column " + name + ".");
        } else if (receives instanceof Receives.FromColumn) {
            checkSensitive(rule, column.get());
            checkTypes(rule, column.get(), field);
        }
        if (receives instanceof Receives.FromDataset found) {
            new LookUpCheck(surroundings).faults(found.where()).forEach(fault -> block(rule.field(), fault));
            found.where().given().forEach(wanted -> surroundings
                    .columns(found.where().last())
                    .flatMap(there -> there.find(wanted))
                    .ifPresent(given -> checkSensitive(rule, given)));
            checkRows(rule, found.where());
        } else if (receives instanceof Receives.RecordsOf records
                && records.separator().isEmpty()) {
            block(rule.field(), "Set the separator of the keys in " + name + ".");
        }
        return Optional.empty();
    }

    private void checkRows(FieldRule rule, DatasetLookUp way) {
        rule.shapers().forEach(shaper -> {
            if (shaper instanceof SpellRows spelled) {
                spelled.names().stream()
                        .filter(name -> !way.names().contains(name))
                        .forEach(name -> block(rule.field(), "The rows have nothing called " + name + "."));
            }
        });
    }

    private Optional<CompiledExpression> expression(FieldRule rule, String text) {
        var compilation = CompiledExpression.compile(text, columns);
        if (compilation instanceof CompiledExpression.Compilation.Faulty faulty) {
            faulty.faults()
                    .forEach(fault -> faults.add(
                            new RouteFault(true, false, rule.field(), fault.message(), fault.line(), fault.column())));
            return Optional.empty();
        }
        var done = (CompiledExpression.Compilation.Done) compilation;
        done.expression().columns().forEach(name -> columns.find(name)
                .ifPresent(column -> checkSensitive(rule, column)));
        return Optional.of(done.expression());
    }

    private void checkSensitive(FieldRule rule, Column column) {
        if (column.role() == ColumnRole.SENSITIVE && rule.shapers().stream().noneMatch(Shaper::hides)) {
            block(rule.field(), column.name() + " is sensitive and cannot be sent unhashed.");
        }
    }

    private void checkTypes(FieldRule rule, Column column, Field field) {
        boolean shapedToDate = rule.shapers().stream().anyMatch(shaper -> shaper instanceof ToDate);
        boolean shapedToPhone = rule.shapers().stream().anyMatch(shaper -> shaper instanceof E164);
        FieldKind kind = field.kind();
        ColumnType type = column.type();
        boolean numberField = kind == FieldKind.INTEGER || kind == FieldKind.DECIMAL;
        boolean numberColumn = type == ColumnType.INTEGER || type == ColumnType.DECIMAL;
        if (kind == FieldKind.BOOLEAN && type != ColumnType.BOOLEAN && type != ColumnType.TEXT
                || kind == FieldKind.TIMESTAMP && type != ColumnType.TIMESTAMP && type != ColumnType.TEXT
                || numberField && !numberColumn && type != ColumnType.TEXT) {
            block(rule.field(), column.name() + " is " + word(type) + "; the field takes " + word(kind) + ".");
        } else if (kind == FieldKind.DATE && type != ColumnType.DATE && !shapedToDate) {
            block(rule.field(), column.name() + " is " + word(type) + "; add the Date shaper to set its format.");
        } else if (kind == FieldKind.PHONE && !shapedToPhone) {
            advise(rule.field(), "Without the E.164 shaper, only numbers already in that format fit.");
        } else if (numberField && type == ColumnType.TEXT) {
            advise(rule.field(), column.name() + " is text; values that are not numbers will be held.");
        } else if (kind == FieldKind.CHOICE) {
            advise(rule.field(), "Values outside the choice list will be held: " + String.join(", ", field.choices()));
        }
    }

    private void requireColumn(String field, String name) {
        if (columns.find(name).isEmpty()) {
            block(field, name.isBlank() ? "Choose a column." : "The dataset has no column " + name + ".");
        }
    }

    private void checkWritten(FieldRule rule) {
        if (rule.written() == Written.IF_NEWER) {
            checkNewer(rule);
        }
        rule.consent().ifPresent(consent -> requireColumn(rule.field(), consent.column()));
        rule.timing().ifPresent(timing -> checkTiming(rule.field(), timing));
    }

    private void checkNewer(FieldRule rule) {
        Optional<Column> column = rule.newer().flatMap(newer -> columns.find(newer.column()));
        if (column.filter(one -> one.type() == ColumnType.TIMESTAMP).isEmpty()) {
            block(rule.field(), "Choose the time column that tells whether the source's value is newer.");
        }
        if (!object.abilities().tellsFieldTimes()) {
            block(
                    rule.field(),
                    "This destination does not report when a field was last written, so it is unknown which value is"
                            + " newer.");
        }
    }

    private void checkTiming(String field, Timing timing) {
        if (!timing.onlyWithColumn().isBlank()) {
            requireColumn(field, timing.onlyWithColumn());
        }
        try {
            java.time.ZoneId.of(timing.zone());
        } catch (java.time.DateTimeException e) {
            block(field, "There is no time zone " + timing.zone() + ".");
        }
        if (timing.atMostEveryHours() < 0) {
            block(field, "The hours between two writes cannot be negative.");
        }
        timing.window()
                .filter(window -> window.from().equals(window.to()))
                .ifPresent(window -> block(field, "The time of day begins and ends at the same moment."));
        if (timing.notBefore().isPresent()
                && timing.notAfter()
                        .filter(last -> last.isBefore(timing.notBefore().get()))
                        .isPresent()) {
            block(field, "It ends before it begins.");
        }
    }

    private void checkMatch(Set<String> ruled) {
        if (spec.match().isEmpty()) {
            block("", "Choose the field by which a record is found in the destination.");
        }
        for (String name : spec.match()) {
            Optional<Field> field = object.field(name);
            if (field.isPresent() && !field.get().unique()) {
                advise(name, "Not unique in the destination, so two records may match; such rows are held.");
            }
            if (!ruled.contains(name)) {
                block(name, "Records are matched by this field, but no rule writes it.");
            }
        }
        if (!spec.match().isEmpty()
                && object.field(spec.match().get(0)).filter(Field::unique).isEmpty()) {
            block(spec.match().get(0), "The key field must be unique in the destination.");
        }
    }

    private void checkRequired(Set<String> ruled, List<CompiledRule> rules) {
        if (!spec.mode().adds()) {
            return;
        }
        object.fields().stream()
                .filter(field -> field.required() && field.mayBeWritten() && !ruled.contains(field.name()))
                .forEach(field -> {
                    block(field.name(), "Required in the destination, and no rule writes it.");
                    rules.add(CompiledRule.lacking(field, columns));
                });
        spec.rules().stream()
                .filter(rule -> rule.written() == Written.NEVER
                        && object.field(rule.field()).filter(Field::required).isPresent())
                .forEach(rule -> block(rule.field(), "Required in the destination, but its rule never writes it."));
    }

    private void checkMode() {
        var can = object.abilities();
        if (can.list() != (spec.mode() == Mode.MEMBERSHIP) && spec.mode() != Mode.REMOVE) {
            block(
                    "",
                    can.list()
                            ? object.title() + " is a list; a route to it uses the mode that keeps a list."
                            : object.title() + " is not a list; choose another mode.");
        }
        if (spec.mode().updates() && !can.updates()) {
            block("", "Records of " + object.title() + " cannot be changed in the destination.");
        }
        if ((spec.mode() == Mode.REMOVE || spec.leavers().removes()) && !can.removes()) {
            block("", "Records of " + object.title() + " cannot be removed from the destination.");
        }
    }

    private void checkLeavers() {
        if (spec.mode().actsOnLeavers() && spec.leavers() instanceof Leavers.Stay) {
            block("", "This mode handles rows that leave the dataset; choose what happens to them.");
        }
        if (!spec.mode().actsOnLeavers()
                && !(spec.leavers() instanceof Leavers.Stay)
                && (spec.mode() == Mode.REMOVE || spec.mode() == Mode.APPEND)) {
            block("", "In this mode, rows that leave the dataset are left untouched.");
        }
        if (spec.leavers() instanceof Leavers.TakeOff && !object.abilities().list()) {
            block("", object.title() + " is not a list, so records cannot be taken off it.");
        }
        if (spec.leavers() instanceof Leavers.SetFields set) {
            set.fields().forEach(one -> leaverField(one.field())
                    .map(field -> Fit.into(field, new Value.Text(one.text())))
                    .filter(shaped -> shaped instanceof Shaped.Unusable)
                    .ifPresent(shaped -> block(one.field(), "Who leaves: " + ((Shaped.Unusable) shaped).reason())));
        } else if (spec.leavers() instanceof Leavers.ClearFields clear) {
            clear.fields().forEach(name -> leaverField(name)
                    .filter(Field::required)
                    .ifPresent(field -> block(name, "When a row leaves: a required field cannot be cleared.")));
        }
    }

    private Optional<Field> leaverField(String name) {
        Optional<Field> field = object.field(name);
        if (field.filter(Field::mayBeWritten).isEmpty()) {
            block(name, "When a row leaves: the object has no such field that this login may write.");
        }
        return field;
    }

    private void checkBasis() {
        if (object.people() && spec.basis() instanceof Basis.NotStated) {
            block("", "Records of " + object.title() + " are people: state the consent or another legal basis.");
        }
        if (spec.basis() instanceof Basis.Stated stated && stated.reason().isBlank()) {
            block("", "State the legal basis in words.");
        }
        if (spec.basis() instanceof Basis.Consent consent
                && columns.find(consent.column()).isEmpty()) {
            block(
                    "",
                    consent.column().isBlank()
                            ? "Choose the column that holds the consent."
                            : "The dataset has no consent column " + consent.column() + ".");
        }
    }

    private void block(String field, String message) {
        faults.add(RouteFault.blocking(field, message));
    }

    private void advise(String field, String message) {
        faults.add(RouteFault.advice(field, message));
    }

    private static String word(Enum<?> constant) {
        return constant.name().toLowerCase(java.util.Locale.ROOT);
    }
}

package remitto.core.route;

import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import java.util.Set;
import java.util.TreeSet;
import java.util.regex.Pattern;
import java.util.stream.Collectors;
import remitto.core.dataset.ColumnType;
import remitto.core.dataset.Columns;
import remitto.core.dataset.Row;
import remitto.core.destination.ObjectDescription;
import remitto.core.fieldrule.Receives;
import remitto.core.fieldrule.Written;
import remitto.core.manifest.ShapedField;
import remitto.core.manifest.ShapedRecord;
import remitto.core.manifest.Trace;
import remitto.core.value.Value;

/**
 * A version of a route bound to the columns and fields it joins. The followed record, the single try and the
 * bulk run all go through {@link #shape} and then {@link remitto.core.manifest.Judge}. Safe to share between
 * threads.
 */
public final class CompiledRoute {
    private static final Pattern NAME_FIELD = Pattern.compile("((given|family|first|last)_)?name|title");

    private final RouteSpec spec;
    private final ObjectDescription object;
    private final Columns columns;
    private final List<CompiledRule> rules;

    CompiledRoute(RouteSpec spec, ObjectDescription object, Columns columns, List<CompiledRule> rules) {
        this.spec = spec;
        this.object = object;
        this.columns = columns;
        this.rules = List.copyOf(rules);
    }

    public RouteSpec spec() {
        return spec;
    }

    public ObjectDescription object() {
        return object;
    }

    /** Names of the columns whose change could change the outcome, sorted; the key columns are among them. */
    public Set<String> columnsUsed() {
        Set<String> used = new TreeSet<>(columns.keys());
        rules.forEach(rule -> used.addAll(rule.columns()));
        if (spec.basis() instanceof Basis.Consent consent) {
            used.add(consent.column());
        }
        return used;
    }

    /** True when a rule, or the search for a match, depends on what the destination holds now. */
    public boolean readsThere() {
        return rules.stream().anyMatch(rule -> rule.rule().written() == Written.ONLY_IF_EMPTY_THERE);
    }

    /** Runs every rule over a row. The key is the row's own; the caller holds back rows without one. */
    public ShapedRecord shape(String key, Row row, References references, Trace trace) {
        List<ShapedField> fields = new ArrayList<>(rules.size());
        for (CompiledRule rule : rules) {
            fields.add(rule.shape(row, references, trace));
        }
        Consented consented = consented(row);
        ShapedRecord shaped = new ShapedRecord(key, "", consented.leftOut(), consented.statedNo(), fields);
        return new ShapedRecord(key, label(shaped), shaped.leftOut(), shaped.statedNo(), fields);
    }

    /** True when a rule receives the id of a record of another route. */
    public boolean refers() {
        return spec.rules().stream().anyMatch(rule -> rule.receives() instanceof Receives.RecordOf);
    }

    /** The records of other routes that the rules refer to in a row. */
    public List<References.Wanted> references(Row row) {
        List<References.Wanted> wanted = new ArrayList<>();
        rules.forEach(rule -> rule.reference(row).ifPresent(wanted::add));
        return wanted;
    }

    private String label(ShapedRecord shaped) {
        return shaped.fields().stream()
                .map(field -> field.field().name())
                .filter(name -> NAME_FIELD.matcher(name).matches())
                .map(name -> shaped.value(name).display())
                .filter(text -> !text.isBlank())
                .collect(Collectors.joining(" "));
    }

    /** @param leftOut blank when the record may go */
    private record Consented(String leftOut, boolean statedNo) {}

    private Consented consented(Row row) {
        if (!(spec.basis() instanceof Basis.Consent consent)) {
            return new Consented("", false);
        }
        Optional<String> said = row.cell(consent.column()).filter(cell -> !cell.isBlank());
        if (said.isEmpty()) {
            return new Consented("Not asked for consent to " + consent.purpose(), false);
        }
        return isYes(row, consent.column())
                ? new Consented("", false)
                : new Consented("No consent to " + consent.purpose(), true);
    }

    private static boolean isYes(Row row, String column) {
        try {
            Value value = row.value(column);
            return value instanceof Value.Truth truth
                    ? truth.truth()
                    : value.display().strip().equalsIgnoreCase("yes");
        } catch (ColumnType.UnreadableCell e) {
            return false;
        }
    }
}

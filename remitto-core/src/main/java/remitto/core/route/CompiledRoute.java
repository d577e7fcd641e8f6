package remitto.core.route;

import java.util.ArrayList;
import java.util.List;
import java.util.Set;
import java.util.TreeSet;
import java.util.regex.Pattern;
import java.util.stream.Collectors;
import java.util.stream.IntStream;
import java.util.stream.Stream;
import remitto.core.dataset.Columns;
import remitto.core.dataset.Row;
import remitto.core.destination.ObjectDescription;
import remitto.core.fieldrule.DatasetLookUp;
import remitto.core.fieldrule.FieldRule;
import remitto.core.fieldrule.Receives;
import remitto.core.fieldrule.Written;
import remitto.core.shaper.Shaped;

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
    private final int[] nameFields;

    CompiledRoute(RouteSpec spec, ObjectDescription object, Columns columns, List<CompiledRule> rules) {
        this.spec = spec;
        this.object = object;
        this.columns = columns;
        this.rules = List.copyOf(rules);
        this.nameFields = IntStream.range(0, rules.size())
                .filter(at -> NAME_FIELD.matcher(rules.get(at).rule().field()).matches())
                .toArray();
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
        return rules.stream()
                .map(rule -> rule.rule().written())
                .anyMatch(written -> written == Written.ONLY_IF_EMPTY_THERE
                        || written == Written.IF_NEWER
                        || written == Written.DESTINATION_DECIDES);
    }

    /** Runs every rule over a row. The key is the row's own; the caller holds back rows without one. */
    public ShapedRecord shape(String key, Row row, LookUps lookUps, Trace trace) {
        List<ShapedField> fields = new ArrayList<>(rules.size());
        for (CompiledRule rule : rules) {
            fields.add(rule.shape(row, lookUps, trace));
        }
        Consented consented = consented(row);
        return new ShapedRecord(key, label(fields), consented.leftOut(), consented.statedNo(), fields);
    }

    /** True when a rule receives what lies beyond the row. */
    public boolean looksUp() {
        return rules.stream().anyMatch(CompiledRoute::looksUp);
    }

    /** True when a rule receives the id of a record that is looked up in the destination. */
    public boolean looksThere() {
        return rules.stream().anyMatch(rule -> rule.rule().receives() instanceof Receives.FoundThere);
    }

    /** Fields that receive what lies beyond the row. */
    public Set<String> fieldsThatLookUp() {
        return rules.stream()
                .filter(CompiledRoute::looksUp)
                .map(one -> one.rule().field())
                .collect(Collectors.toUnmodifiableSet());
    }

    private static boolean looksUp(CompiledRule rule) {
        Receives receives = rule.rule().receives();
        return !(receives instanceof Receives.FromColumn
                || receives instanceof Receives.Fixed
                || receives instanceof Receives.Computed);
    }

    /** What the rules look up beyond a row. */
    public List<LookUps.Wanted> lookUps(Row row) {
        List<LookUps.Wanted> wanted = new ArrayList<>();
        rules.forEach(rule -> wanted.addAll(rule.lookUps(row)));
        return wanted;
    }

    /** The look-ups in other datasets that the rules make. */
    public List<DatasetLookUp> datasetLookUps() {
        return rules.stream()
                .map(rule -> rule.rule().receives())
                .flatMap(receives ->
                        receives instanceof Receives.FromDataset found ? Stream.of(found.where()) : Stream.empty())
                .distinct()
                .toList();
    }

    /** Columns whose change could change what one field receives. */
    public Set<String> columnsOf(String field) {
        return rules.stream()
                .filter(rule -> rule.rule().field().equals(field))
                .flatMap(rule -> rule.columns().stream())
                .collect(Collectors.toSet());
    }

    /** Columns whose values go into what one field receives; a part of {@link #columnsOf}. */
    public Set<String> valueColumnsOf(String field) {
        return rules.stream()
                .filter(rule -> rule.rule().field().equals(field))
                .flatMap(rule -> rule.valueColumns().stream())
                .collect(Collectors.toSet());
    }

    /** Fields whose rules ask what is known of the field's past. */
    public Set<String> fieldsWithPast() {
        return rules.stream()
                .map(CompiledRule::rule)
                .filter(rule -> rule.timing().isPresent() || rule.written() == Written.IF_NEWER)
                .map(FieldRule::field)
                .collect(Collectors.toUnmodifiableSet());
    }

    private String label(List<ShapedField> fields) {
        StringBuilder label = new StringBuilder();
        for (int at : nameFields) {
            if (fields.get(at).shaped() instanceof Shaped.Usable usable
                    && !usable.value().isEmpty()) {
                label.append(label.isEmpty() ? "" : " ").append(usable.value().display());
            }
        }
        return label.toString();
    }

    /** @param leftOut blank when the record may go */
    private record Consented(String leftOut, boolean statedNo) {}

    private Consented consented(Row row) {
        if (!(spec.basis() instanceof Basis.Consent consent)) {
            return new Consented("", false);
        }
        return switch (ConsentCell.read(row, consent.column())) {
            case NOTHING -> new Consented("Not asked for consent to " + consent.purpose(), false);
            case YES -> new Consented("", false);
            case NO -> new Consented("No consent to " + consent.purpose(), true);
        };
    }
}

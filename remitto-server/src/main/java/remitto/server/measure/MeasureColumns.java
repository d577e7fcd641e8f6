package remitto.server.measure;

import java.math.BigDecimal;
import java.util.ArrayList;
import java.util.HashSet;
import java.util.List;
import java.util.Set;
import org.springframework.stereotype.Component;
import remitto.core.audience.Derivation;
import remitto.core.dataset.ColumnRole;
import remitto.core.value.Value;
import remitto.server.event.EventTables;
import remitto.server.people.EntityType;
import remitto.server.people.view.PersonColumns;

/** Measures as columns of what a dataset over people can carry. */
@Component
class MeasureColumns implements PersonColumns {
    private final Measures measures;

    private final EventTables events;

    MeasureColumns(Measures measures, EventTables events) {
        this.measures = measures;
        this.events = events;
    }

    @Override
    public List<AddedColumn> columns(EntityType entityType) {
        List<AddedColumn> columns = new ArrayList<>();
        List<EventTables.EventTable> tables = events.all();
        for (Measures.PersonMeasure measure : measures.all(entityType)) {
            String value =
                    withoutEvents(measure, "(select m.value from " + measure.table() + " m where m.person_id = p.id)");
            ColumnRole role = role(measure.derivation(), tables);
            columns.add(new AddedColumn(measure.name(), value, role, from(measure.derivation())));
            if (measure.derivation() instanceof Derivation.OverEvents over
                    && !over.steps().isEmpty()) {
                columns.add(new AddedColumn(measure.name() + "_step", step(value, over.steps()), role, Set.of()));
            }
        }
        return columns;
    }

    /** What a measure reads of events that is sensitive there makes it so. */
    private static ColumnRole role(Derivation derivation, List<EventTables.EventTable> tables) {
        return derivation instanceof Derivation.OverEvents over
                        && tables.stream()
                                .filter(table ->
                                        table.name().equals(over.measure().of().events()))
                                .anyMatch(table ->
                                        over.measure().columns().stream().anyMatch(table.sensitive()::contains))
                ? ColumnRole.SENSITIVE
                : ColumnRole.ATTRIBUTE;
    }

    /** Attributes it is worked out from; of an expression, every word that could be one. */
    private static Set<String> from(Derivation derivation) {
        if (derivation instanceof Derivation.Score score) {
            return Set.of(score.of());
        }
        return derivation instanceof Derivation.ByExpression computed
                ? new HashSet<>(List.of(computed.expression().split("[^A-Za-z0-9_]+")))
                : Set.of();
    }

    /** A person without events has no row; some measures have a value all the same. */
    static String withoutEvents(Measures.PersonMeasure measure, String value) {
        return measure.derivation() instanceof Derivation.OverEvents over
                        && over.measure().withoutEvents() instanceof Value.Decimal none
                ? "coalesce(" + value + ", " + none.display() + ")"
                : value;
    }

    /** The highest bound the value reaches; empty below the first. */
    private static String step(String value, List<BigDecimal> steps) {
        StringBuilder sql = new StringBuilder("(select max(s) from unnest(array[");
        for (int i = 0; i < steps.size(); i++) {
            sql.append(i > 0 ? ", " : "").append(steps.get(i).toPlainString());
        }
        return sql.append("]::numeric[]) s where s <= ")
                .append(value)
                .append(")")
                .toString();
    }
}

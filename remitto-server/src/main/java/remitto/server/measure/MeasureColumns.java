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
import remitto.server.people.About;
import remitto.server.people.PersonColumns;

/** Measures as columns of what a dataset over people can carry. */
@Component
class MeasureColumns implements PersonColumns {
    private final Measures measures;

    MeasureColumns(Measures measures) {
        this.measures = measures;
    }

    @Override
    public List<AddedColumn> columns(About about) {
        List<AddedColumn> columns = new ArrayList<>();
        for (Measures.PersonMeasure measure : measures.all(about)) {
            String value =
                    withoutEvents(measure, "(select m.value from " + measure.table() + " m where m.person_id = p.id)");
            columns.add(new AddedColumn(measure.name(), value, ColumnRole.ATTRIBUTE, from(measure.derivation())));
            if (measure.derivation() instanceof Derivation.OverEvents over
                    && !over.steps().isEmpty()) {
                columns.add(new AddedColumn(
                        measure.name() + "_step", step(value, over.steps()), ColumnRole.ATTRIBUTE, Set.of()));
            }
        }
        return columns;
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

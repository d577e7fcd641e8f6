package remitto.server.fieldbook;

import java.util.ArrayList;
import java.util.HashSet;
import java.util.List;
import java.util.Set;
import org.springframework.stereotype.Component;
import remitto.core.dataset.Columns;
import remitto.core.expression.CompiledExpression;
import remitto.core.fieldrule.DatasetLookUp;
import remitto.core.fieldrule.FieldRule;
import remitto.core.fieldrule.Receives;
import remitto.core.route.Basis;
import remitto.server.dataset.Datasets;
import remitto.server.route.Routes;

/** Everywhere the columns of a dataset go. */
@Component
class ColumnUse {
    private final Routes routes;
    private final Datasets datasets;

    ColumnUse(Routes routes, Datasets datasets) {
        this.routes = routes;
        this.datasets = datasets;
    }

    /**
     * A field that a column is sent to.
     *
     * @param how in words: received, decides, looked up
     */
    record ColumnGoes(
            String column, long routeId, String route, String destination, String object, String field, String how) {}

    List<ColumnGoes> of(long dataset) {
        Columns columns = new Columns(datasets.get(dataset).definition().columns());
        List<ColumnGoes> found = new ArrayList<>();
        for (Routes.Route route : routes.all()) {
            boolean own = route.datasetId() == dataset;
            for (FieldRule rule : route.spec().rules()) {
                if (own) {
                    received(rule, columns).forEach(column -> found.add(goes(column, route, rule, "received")));
                    decides(rule).forEach(column -> found.add(goes(column, route, rule, "decides")));
                }
                if (rule.receives() instanceof Receives.FromDataset looked) {
                    lookedUp(looked.where(), dataset)
                            .forEach(column -> found.add(goes(column, route, rule, "looked up")));
                }
            }
            if (own && route.spec().basis() instanceof Basis.Consent consent) {
                found.add(new ColumnGoes(
                        consent.column(),
                        route.id(),
                        route.name(),
                        route.destination(),
                        route.object(),
                        "",
                        "decides whether the record goes"));
            }
        }
        return found;
    }

    private static ColumnGoes goes(String column, Routes.Route route, FieldRule rule, String how) {
        return new ColumnGoes(column, route.id(), route.name(), route.destination(), route.object(), rule.field(), how);
    }

    private static Set<String> received(FieldRule rule, Columns columns) {
        Set<String> used = new HashSet<>();
        rule.receives().readColumn().ifPresent(used::add);
        if (rule.receives() instanceof Receives.Computed computed
                && CompiledExpression.compile(computed.expression(), columns)
                        instanceof CompiledExpression.Compilation.Done done) {
            used.addAll(done.expression().columns());
        }
        return used;
    }

    private static Set<String> decides(FieldRule rule) {
        Set<String> used = new HashSet<>();
        rule.shapers().forEach(shaper -> used.addAll(shaper.columns()));
        rule.newer().ifPresent(newer -> used.add(newer.column()));
        rule.consent().ifPresent(consent -> used.add(consent.column()));
        rule.timing()
                .map(timing -> timing.onlyWithColumn())
                .filter(column -> !column.isBlank())
                .ifPresent(used::add);
        return used;
    }

    private static Set<String> lookedUp(DatasetLookUp way, long dataset) {
        Set<String> used = new HashSet<>();
        if (way.dataset() == dataset) {
            used.add(way.by());
        }
        long at = way.dataset();
        for (DatasetLookUp.Hop hop : way.hops()) {
            if (at == dataset) {
                used.add(hop.from());
            }
            at = hop.dataset();
            if (at == dataset) {
                used.add(hop.by());
            }
        }
        if (at == dataset) {
            used.addAll(way.given());
            way.only().forEach(condition -> used.add(condition.column()));
            way.pick().ifPresent(pick -> used.add(pick.orderBy()));
        }
        return used;
    }
}

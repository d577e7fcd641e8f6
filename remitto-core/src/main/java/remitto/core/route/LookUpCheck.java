package remitto.core.route;

import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import remitto.core.dataset.Columns;
import remitto.core.fieldrule.DatasetLookUp;

/** Says what is wrong with a way through other datasets. */
final class LookUpCheck {
    private final Surroundings surroundings;
    private final List<String> faults = new ArrayList<>();

    LookUpCheck(Surroundings surroundings) {
        this.surroundings = surroundings;
    }

    List<String> faults(DatasetLookUp way) {
        if (way.hops().size() >= DatasetLookUp.MOST_STEPS) {
            faults.add("A look-up takes at most " + DatasetLookUp.MOST_STEPS + " steps.");
        }
        column(way.dataset(), way.by());
        long at = way.dataset();
        for (DatasetLookUp.Hop hop : way.hops()) {
            column(at, hop.from());
            column(hop.dataset(), hop.by());
            if (!surroundings.source(at).equals(surroundings.source(hop.dataset()))) {
                faults.add("All datasets of a look-up are read from one source.");
            }
            at = hop.dataset();
        }
        for (String given : way.given()) {
            column(at, given);
        }
        parts(way);
        for (DatasetLookUp.Condition condition : way.only()) {
            column(at, condition.column());
        }
        if (way.pick().isPresent()) {
            column(at, way.pick().get().orderBy());
            if (way.most() < 0 || way.most() > DatasetLookUp.Pick.MOST_ROWS) {
                faults.add("At most " + DatasetLookUp.Pick.MOST_ROWS + " rows are received.");
            }
        }
        return faults;
    }

    private void parts(DatasetLookUp way) {
        if (way.names().size() < way.parts().size()) {
            faults.add("Two columns of a row are called the same.");
        }
        for (String name : way.names()) {
            if (name.isBlank() || name.contains("{") || name.contains("}")) {
                faults.add("Give every column of a row a name without braces.");
            }
        }
    }

    private void column(long dataset, String name) {
        Optional<Columns> columns = surroundings.columns(dataset);
        if (columns.isEmpty()) {
            faults.add("Dataset " + dataset + " does not exist or has no version in service.");
        } else if (columns.get().find(name).isEmpty()) {
            faults.add("The dataset that is looked up in has no column " + name + ".");
        }
    }
}

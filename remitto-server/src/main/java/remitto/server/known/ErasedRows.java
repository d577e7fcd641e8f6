package remitto.server.known;

import java.util.Optional;
import org.springframework.stereotype.Component;
import remitto.core.dataset.Row;
import remitto.server.rights.mark.ErasedMarks;
import remitto.server.rights.mark.Marks;
import remitto.server.route.BoundRoute;
import remitto.server.route.Routes;
import remitto.server.route.RowAddresses;

/** Rows of people who were erased, which a source may still have. */
@Component
public class ErasedRows {
    private final ErasedMarks marks;
    private final Routes routes;

    ErasedRows(ErasedMarks marks, Routes routes) {
        this.marks = marks;
        this.routes = routes;
    }

    /** Tells such rows, by the marks of one moment. Not safe to share between threads. */
    public static final class Erased {
        private final Marks marks;
        private final long dataset;
        private final RowAddresses addresses;

        private Erased(Marks marks, long dataset, RowAddresses addresses) {
            this.marks = marks;
            this.dataset = dataset;
            this.addresses = addresses;
        }

        public boolean isNobody() {
            return marks.isEmpty();
        }

        /** Why a row is left out; empty if it is of nobody who was erased. */
        public Optional<String> reason(String key, Row row) {
            return marks.isEmpty()
                    ? Optional.empty()
                    : marks.ofRecord(dataset, key)
                            .or(() -> marks.ofAddresses(addresses.of(row)))
                            .map(erasure ->
                                    "Erased on request, erasure " + erasure + "; the row is still in its source");
        }
    }

    public Erased of(BoundRoute route) {
        return new Erased(marks.now(), routes.get(route.routeId()).datasetId(), new RowAddresses(route));
    }
}

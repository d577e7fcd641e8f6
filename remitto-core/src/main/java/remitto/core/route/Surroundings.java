package remitto.core.route;

import java.util.Optional;
import remitto.core.dataset.Columns;
import remitto.core.shaper.Stores;

/** What the rules of a route may reach for beyond its own dataset and object. */
public interface Surroundings {
    Stores stores();

    /** The columns of another dataset, in the version in service; empty when there is none. */
    Optional<Columns> columns(long dataset);

    /** The source that a dataset is read from; empty when there is no such dataset. */
    Optional<Long> source(long dataset);

    /** Nothing at all. */
    Surroundings NONE = new Surroundings() {
        @Override
        public Stores stores() {
            return Stores.NONE;
        }

        @Override
        public Optional<Columns> columns(long dataset) {
            return Optional.empty();
        }

        @Override
        public Optional<Long> source(long dataset) {
            return Optional.empty();
        }
    };
}

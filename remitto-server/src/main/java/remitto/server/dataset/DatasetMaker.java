package remitto.server.dataset;

import java.util.List;
import remitto.core.dataset.Column;

/** Makes datasets of something that is no query of its own, where what it is of asks for one. */
public interface DatasetMaker {
    /** What it makes datasets of. */
    MadeDatasets.MadeOf of();

    /**
     * Makes the dataset of one, in service; there is none yet.
     *
     * @param id of the audience or the set of events
     * @param columns that it has; its source is not asked, which may not show yet what it is made of
     */
    long make(long id, List<Column> columns, String who);
}

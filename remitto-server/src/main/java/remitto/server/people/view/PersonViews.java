package remitto.server.people.view;

import java.util.List;
import java.util.Map;
import remitto.core.dataset.ColumnRole;

/** Views that others add to what datasets can be made from beside people themselves. */
public interface PersonViews {
    /**
     * @param name in the schema {@code people}
     * @param query what the view selects
     * @param roles of its columns in a dataset, where they are no attributes
     */
    record AddedView(String name, String query, Map<String, ColumnRole> roles) {}

    List<AddedView> views();
}

package remitto.server.dataset;

import java.util.Map;
import remitto.core.dataset.ColumnRole;

/** What is known of a source's columns before anybody says so. */
public interface ColumnOrigins {
    /** Roles by column; nothing for a source that this knows nothing of. What is sensitive there stays so. */
    Map<String, ColumnRole> roles(long sourceId);
}

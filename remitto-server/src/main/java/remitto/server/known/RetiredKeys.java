package remitto.server.known;

import java.util.Collection;
import java.util.Map;

/** Knows keys that are no more since their records became part of another's. */
public interface RetiredKeys {
    /** By key, the key it became; keys that simply left are missing. */
    Map<String, String> became(long sourceId, Collection<String> keys);
}

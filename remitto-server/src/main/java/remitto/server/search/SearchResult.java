package remitto.server.search;

import java.util.List;
import remitto.server.platform.Personal;

/**
 * What a text finds besides people and things with a name.
 *
 * @param records at destinations, by their id there or by the key of the row that was sent
 * @param fields of destination objects, by their name or title
 * @param manifests by their number
 */
record SearchResult(List<RecordHit> records, List<FieldHit> fields, List<ManifestHit> manifests) {
    /**
     * A record that a route keeps at a destination.
     *
     * @param key of the row that was sent
     */
    record RecordHit(
            long destinationId,
            String destination,
            String object,
            String remoteId,
            String route,
            @Personal(Personal.Part.KEY) String key) {}

    /** A field of an object that a destination has. */
    record FieldHit(long destinationId, String destination, String object, String field, String title) {}

    /** A manifest, by the number of its run. */
    record ManifestHit(long runId, String route) {}
}

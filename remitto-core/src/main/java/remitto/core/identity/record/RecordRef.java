package remitto.core.identity.record;

import java.util.Comparator;

/**
 * Which record of which source.
 *
 * @param source name or number of the dataset, the same text for all of its records
 */
public record RecordRef(String source, String key) implements Comparable<RecordRef> {
    private static final Comparator<RecordRef> ORDER =
            Comparator.comparing(RecordRef::source).thenComparing(RecordRef::key);

    @Override
    public int compareTo(RecordRef other) {
        return ORDER.compare(this, other);
    }
}

package remitto.core.manifest;

import java.time.Instant;
import java.util.Optional;

/**
 * What is known of the past of one field of a record there.
 *
 * @param writtenAt when we last wrote it
 * @param mark fingerprint, at that write, of the column whose change lets it be written
 * @param stamp when and by whom it was last written there, as the tool tells
 */
public record FieldPast(Optional<Instant> writtenAt, Optional<Long> mark, Optional<Stamp> stamp) {
    public static final FieldPast UNKNOWN = new FieldPast(Optional.empty(), Optional.empty(), Optional.empty());

    /**
     * @param by the name the tool gives whoever wrote it
     * @param byUs that name is our own login's
     */
    public record Stamp(Instant at, String by, boolean byUs) {}
}

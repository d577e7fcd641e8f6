package remitto.server.known;

import remitto.core.dataset.Row;

/**
 * A record that must be judged, since it is new or its input changed.
 *
 * @param known true when the route knows a record of this key
 * @param inputFingerprint fingerprint of the row as read
 */
public record Candidate(
        String key, long keyHigh, long keyLow, int ordinal, boolean known, long inputFingerprint, Row row) {}

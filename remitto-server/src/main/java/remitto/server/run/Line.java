package remitto.server.run;

import java.time.Instant;
import java.util.List;
import java.util.Optional;
import remitto.core.delivery.LineState;
import remitto.core.manifest.FieldDecision;
import remitto.core.manifest.Verdict;

/**
 * A line of a manifest.
 *
 * @param sentFingerprint 0 when the line must be judged again next time, whatever its input is
 * @param thereReadAt when the values there were read
 */
record Line(
        int number,
        int ordinal,
        String key,
        String label,
        Verdict verdict,
        LineState state,
        String code,
        String reason,
        String remoteId,
        List<FieldDecision> fields,
        long inputFingerprint,
        long sentFingerprint,
        Optional<Instant> thereReadAt) {}

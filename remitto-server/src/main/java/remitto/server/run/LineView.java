package remitto.server.run;

import java.time.Instant;
import java.util.List;
import java.util.Optional;
import remitto.core.delivery.LineState;
import remitto.core.manifest.FieldOutcome;
import remitto.core.manifest.Verdict;

/** A line of a manifest as it is shown. */
record LineView(
        int line,
        String key,
        String label,
        Verdict verdict,
        LineState state,
        String code,
        String reason,
        String remoteId,
        List<FieldView> fields,
        Optional<Instant> thereReadAt,
        Optional<Instant> answeredAt,
        String answer) {

    /** @param old absent when the record is new or the value was not read; empty text when it was empty */
    record FieldView(String field, FieldOutcome outcome, Optional<String> old, Optional<String> fresh, String reason) {}
}

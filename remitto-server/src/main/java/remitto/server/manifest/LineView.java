package remitto.server.manifest;

import java.time.Instant;
import java.util.List;
import java.util.Optional;
import remitto.core.manifest.FieldOutcome;
import remitto.core.manifest.LineState;
import remitto.core.manifest.Verdict;
import remitto.server.platform.Personal;

/** A line of a manifest as it is shown. */
public record LineView(
        int line,
        @Personal(Personal.Part.KEY) String key,
        @Personal String label,
        Verdict verdict,
        LineState state,
        String code,
        @Personal(Personal.Part.IN_TEXT) String reason,
        String remoteId,
        List<FieldView> fields,
        Optional<Instant> thereReadAt,
        Optional<Instant> answeredAt,
        @Personal(Personal.Part.IN_TEXT) String answer) {

    /**
     * A field of a manifest line.
     *
     * @param old absent when the record is new or the value was not read; empty text when it was empty
     * @param otherRoute the name of another route that wrote the value there before; blank for none
     */
    public record FieldView(
            String field,
            FieldOutcome outcome,
            @Personal Optional<String> old,
            @Personal Optional<String> fresh,
            @Personal(Personal.Part.IN_TEXT) String reason,
            String otherRoute) {}
}

package remitto.server.manifest;

import java.time.Instant;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import remitto.connect.destination.Contents;
import remitto.core.cause.Cause;
import remitto.core.manifest.Decision;
import remitto.core.manifest.FieldDecision;
import remitto.core.manifest.FieldOutcome;
import remitto.core.manifest.Verdict;
import remitto.core.value.Value;

/**
 * A line of a manifest.
 *
 * @param inputFingerprint of the row it was made from, as it was; what is refused, or may have arrived, is not sent again with it
 * @param sentFingerprint 0 when what is to be sent is not all sent by it
 * @param again once it is acknowledged, its record is judged again next time, whatever its row is then
 * @param thereReadAt when the values there were read
 * @param origins what the values were made of
 */
public record Line(
        int number,
        int ordinal,
        String key,
        String label,
        Verdict verdict,
        Cause cause,
        String reason,
        String remoteId,
        List<FieldDecision> fields,
        long inputFingerprint,
        long sentFingerprint,
        boolean again,
        Optional<Instant> thereReadAt,
        Origins origins) {

    /** A line that no cells stand behind, or of which they are not needed. */
    public Line(
            int number,
            int ordinal,
            String key,
            String label,
            Verdict verdict,
            Cause cause,
            String reason,
            String remoteId,
            List<FieldDecision> fields,
            long inputFingerprint,
            long sentFingerprint,
            Optional<Instant> thereReadAt) {
        this(
                number,
                ordinal,
                key,
                label,
                verdict,
                cause,
                reason,
                remoteId,
                fields,
                inputFingerprint,
                sentFingerprint,
                false,
                thereReadAt,
                Origins.NONE);
    }

    /** True when the line is sent. */
    boolean goes() {
        return verdict == Verdict.ADDED || verdict == Verdict.CHANGED || verdict == Verdict.REMOVED;
    }

    /** By field, the values that are written with the line. */
    public Map<String, Value> written() {
        Map<String, Value> written = new HashMap<>();
        for (FieldDecision field : fields) {
            if (field.outcome() == FieldOutcome.WRITTEN) {
                written.put(field.field(), field.fresh());
            }
        }
        return written;
    }

    /** What is written with the line. */
    public Contents contents() {
        return fields instanceof KeptFields kept ? kept : Contents.of(written());
    }

    /** A line for a record that no row stands behind. */
    public static Line of(Decision decision, int ordinal, String key, String label, Instant readAt) {
        return new Line(
                0,
                ordinal,
                key,
                label,
                decision.verdict(),
                decision.cause(),
                decision.reason(),
                decision.remoteId().orElse(""),
                decision.fields(),
                0,
                0,
                Optional.of(readAt));
    }

    public Line numbered(int place) {
        return with(place, label, inputFingerprint);
    }

    public Line labelled(String name) {
        return with(number, name, inputFingerprint);
    }

    /** The same line with the input that led to what it takes back. */
    public Line after(long input) {
        return with(number, label, input);
    }

    private Line with(int place, String name, long input) {
        return new Line(
                place,
                ordinal,
                key,
                name,
                verdict,
                cause,
                reason,
                remoteId,
                fields,
                input,
                sentFingerprint,
                again,
                thereReadAt,
                origins);
    }

    /** A line for a row that is left out, and of which nothing may be kept. */
    public static Line nameless(int number, String label, Cause cause, String reason) {
        return new Line(number, 0, "", label, Verdict.LEFT_OUT, cause, reason, "", List.of(), 0, 0, Optional.empty());
    }

    /** Another line that is held, in a manifest of this one's run. */
    public static Line held(int number, int ordinal, String key, Cause cause, String reason) {
        return new Line(number, ordinal, key, "", Verdict.HELD, cause, reason, "", List.of(), 0, 0, Optional.empty());
    }
}

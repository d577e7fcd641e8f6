package remitto.server.delivery;

import java.util.ArrayList;
import java.util.List;
import remitto.core.manifest.FieldDecision;
import remitto.core.value.Value;
import remitto.server.manifest.Line;

/** Splits records into calls that stay under the bytes a destination takes. Sizes are bounded from above. */
final class BatchSize {
    private static final int PER_RECORD = 80;
    private static final int PER_FIELD = 8;
    /** Bytes of UTF-8 that one UTF-16 unit takes at most, and a control character as JSON spells it. */
    private static final int PER_CHARACTER = 6;
    /** The same, of text that is JSON already. */
    private static final int PER_CHARACTER_OF_JSON = 3;

    private BatchSize() {}

    static List<List<Line>> split(List<Line> lines, long bytesPerCall) {
        List<List<Line>> parts = new ArrayList<>();
        List<Line> part = new ArrayList<>();
        long bytes = 0;
        for (Line line : lines) {
            long size = size(line);
            if (!part.isEmpty() && bytes + size > bytesPerCall) {
                parts.add(part);
                part = new ArrayList<>();
                bytes = 0;
            }
            part.add(line);
            bytes += size;
        }
        if (!part.isEmpty()) {
            parts.add(part);
        }
        return parts;
    }

    private static long size(Line line) {
        return PER_RECORD
                + line.contents()
                        .json()
                        .map(json -> (long) PER_CHARACTER_OF_JSON * json.length())
                        .orElseGet(() -> sizeOfValues(line));
    }

    private static long sizeOfValues(Line line) {
        long size = 0;
        for (FieldDecision field : line.fields()) {
            size += field.field().length() + (long) PER_CHARACTER * characters(field.fresh()) + PER_FIELD;
        }
        return size;
    }

    private static int characters(Value value) {
        if (value instanceof Value.Decimal decimal) {
            // A sign, a point and a zero before it.
            return decimal.number().precision() + Math.abs(decimal.number().scale()) + 3;
        }
        return value.display().length();
    }
}

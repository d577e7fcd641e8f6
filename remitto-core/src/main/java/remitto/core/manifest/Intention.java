package remitto.core.manifest;

import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import remitto.core.known.Fingerprint;
import remitto.core.route.ShapedField;
import remitto.core.route.ShapedRecord;
import remitto.core.shaper.Shaped;

/** What the rules want to be there, as a fingerprint: equal ones mean that there is nothing to send. */
public final class Intention {
    private Intention() {}

    /** @param before by field, the routes that come first in its order, with their names; their numbers take part, since their values are left alone */
    public static long of(Fingerprint fingerprint, ShapedRecord record, Map<String, Map<Long, String>> before) {
        List<String> texts = new ArrayList<>();
        for (ShapedField field : record.fields()) {
            String name = field.field().name();
            texts.add(name);
            texts.add(field.rule().written().name());
            texts.add(field.emptiness().map(one -> one.choice().name()).orElse(""));
            texts.add(field.said().map(Enum::name).orElse(""));
            texts.add(Long.toString(field.mark()));
            texts.add(before.getOrDefault(name, Map.of()).keySet().toString());
            texts.add(
                    field.shaped() instanceof Shaped.Usable usable
                            ? "=" + usable.value().display()
                            : "?");
        }
        return fingerprint.of(texts);
    }
}

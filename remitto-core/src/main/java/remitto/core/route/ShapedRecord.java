package remitto.core.route;

import java.util.List;
import java.util.Optional;
import remitto.core.shaper.Shaped;
import remitto.core.value.Value;

/**
 * A row after its rules, before the destination is looked at.
 *
 * @param label a name for people; blank when the rules name none
 * @param leftOut why the record is not meant for this route; blank when it is
 * @param statedNo the person said no, which is more than not having been asked
 */
public record ShapedRecord(String key, String label, String leftOut, boolean statedNo, List<ShapedField> fields) {
    public ShapedRecord {
        fields = List.copyOf(fields);
    }

    /** The same record, refused by a no that beats everything. */
    public ShapedRecord refused(String reason) {
        return new ShapedRecord(key, label, reason, true, fields);
    }

    /** The usable value a field would receive; empty if there is none. */
    public Value value(String field) {
        return fields.stream()
                .filter(shaped -> shaped.field().name().equals(field))
                .findFirst()
                .map(ShapedField::shaped)
                .flatMap(shaped ->
                        shaped instanceof Shaped.Usable usable ? Optional.of(usable.value()) : Optional.empty())
                .orElse(Value.EMPTY);
    }
}

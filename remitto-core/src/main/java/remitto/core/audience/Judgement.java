package remitto.core.audience;

import java.util.List;
import remitto.core.value.Value;

/**
 * Why a person meets a condition or does not.
 *
 * @param holds whether the person meets it
 * @param value that was tested; empty for a condition over others and where there is none
 * @param parts judgements of the conditions in it
 */
public record Judgement(Condition condition, boolean holds, Value value, List<Judgement> parts) {
    public Judgement {
        parts = List.copyOf(parts);
    }
}

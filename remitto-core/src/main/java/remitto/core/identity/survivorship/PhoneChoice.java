package remitto.core.identity.survivorship;

import java.util.List;
import remitto.core.shaper.PhoneType;

/**
 * Which phone numbers stand for a person.
 *
 * @param type that goes before all others
 * @param only whether none is kept where the person has none of that type; otherwise any other is
 */
public record PhoneChoice(PhoneType type, boolean only) {
    /** Those among which the kept one is chosen. */
    List<Candidate> among(List<Candidate> candidates) {
        List<Candidate> wanted = candidates.stream()
                .filter(one -> PhoneType.of(one.normalised()).serves(type))
                .toList();
        return wanted.isEmpty() && !only ? candidates : wanted;
    }
}

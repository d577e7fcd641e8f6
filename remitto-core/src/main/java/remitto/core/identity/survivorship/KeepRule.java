package remitto.core.identity.survivorship;

import java.util.Optional;

/**
 * How the kept value of an attribute is chosen.
 *
 * @param how values are ranked
 * @param verifiedFirst whether a verified value goes before all that are not
 * @param sameRecordAs attribute whose kept value's record gives this one too, so that a street and a town stay together; blank
 *     for none. What that record does not say is not kept.
 * @param phone of phone numbers, which type is kept; absent for any
 */
public record KeepRule(Keep how, boolean verifiedFirst, String sameRecordAs, Optional<PhoneChoice> phone) {
    public KeepRule(Keep how, boolean verifiedFirst, String sameRecordAs) {
        this(how, verifiedFirst, sameRecordAs, Optional.empty());
    }

    public static KeepRule of(Keep how) {
        return new KeepRule(how, false, "");
    }
}

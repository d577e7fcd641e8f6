package remitto.core.fieldrule;

/**
 * Consent that one field needs on top of what the route rests on.
 *
 * @param purpose in words
 * @param column what the person said, yes or no
 */
public record FieldConsent(String purpose, String column) {
    /** What a person said. */
    public enum Said {
        YES,
        NO,
        NOTHING
    }
}

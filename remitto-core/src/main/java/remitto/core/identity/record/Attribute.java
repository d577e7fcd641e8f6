package remitto.core.identity.record;

/**
 * Something that is known of a person and can tell that two records are the same one.
 *
 * @param name by which columns are tied to it and rules speak of it
 */
public record Attribute(String name, Kind kind) {
    /** How values are normalised and compared unless a rule says otherwise. */
    public enum Kind {
        GIVEN_NAME,
        FAMILY_NAME,
        /** Given and family name in one text; normalised into the two. */
        FULL_NAME,
        EMAIL,
        PHONE,
        BIRTH_DATE,
        ADDRESS,
        TOWN,
        POSTCODE,
        COMPANY,
        /** Of a company's site or its e-mail addresses. */
        DOMAIN,
        /** A number or code given out by somebody, such as a national id. */
        IDENTIFIER,
        TEXT,
        /** A text that is only the same when it is spelled the same. */
        VERBATIM,
        /** Several values in one text, with a comma, a semicolon or a bar between them. */
        LIST,
        NUMBER,
        /** Whether somebody agreed to a purpose by a channel; yes or no. */
        CONSENT;

        /** Whether it is evidence of who somebody is unless a person says otherwise. */
        public boolean isEvidence() {
            return switch (this) {
                case FULL_NAME, TEXT, VERBATIM, LIST, NUMBER, CONSENT -> false;
                default -> true;
            };
        }
    }
}

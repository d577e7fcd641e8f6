package remitto.core.identity;

/**
 * Something that is known of a person and can tell that two records are the same one.
 *
 * @param name by which columns are tied to it and rules speak of it
 */
public record Attribute(String name, Kind kind) {
    /** How values are tidied and compared unless a rule says otherwise. */
    public enum Kind {
        GIVEN_NAME,
        FAMILY_NAME,
        /** Given and family name in one text; tidied into the two. */
        FULL_NAME,
        EMAIL,
        PHONE,
        BIRTH_DATE,
        ADDRESS,
        TOWN,
        POSTCODE,
        COMPANY,
        /** A number or code given out by somebody, such as a national id. */
        IDENTIFIER,
        TEXT
    }
}

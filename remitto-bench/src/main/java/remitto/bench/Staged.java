package remitto.bench;

import java.util.ArrayList;
import java.util.List;
import remitto.core.identity.record.Attribute;
import remitto.core.identity.record.Attribute.Kind;
import remitto.demo.crowd.Crowd;

/**
 * A made-up record with who it truly is.
 *
 * @param person a number that tells people apart
 * @param values as {@link Crowd#COLUMNS}
 */
record Staged(String source, String key, int person, String[] values) {
    /** What the columns are, in their order. */
    static final List<Attribute> ATTRIBUTES = List.of(
            new Attribute("given_name", Kind.GIVEN_NAME),
            new Attribute("family_name", Kind.FAMILY_NAME),
            new Attribute("full_name", Kind.FULL_NAME),
            new Attribute("email", Kind.EMAIL),
            new Attribute("phone", Kind.PHONE),
            new Attribute("birth_date", Kind.BIRTH_DATE),
            new Attribute("street", Kind.ADDRESS),
            new Attribute("postcode", Kind.POSTCODE),
            new Attribute("town", Kind.TOWN));

    static List<Staged> crowd(int records, long seed, int namesakes) {
        List<Staged> staged = new ArrayList<>();
        new Crowd(seed)
                .generate(
                        records,
                        namesakes,
                        (source, key, person, values) -> staged.add(new Staged(source, key, person, values)));
        return staged;
    }
}

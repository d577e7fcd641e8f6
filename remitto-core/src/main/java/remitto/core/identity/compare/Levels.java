package remitto.core.identity.compare;

import java.util.List;
import remitto.core.identity.record.Attribute;

/**
 * How far two values of an attribute agree, from the best downwards; what holds none of the comparisons differs.
 *
 * @param rare whether agreeing on a rare value counts for more than on a common one
 */
public record Levels(String attribute, List<Comparison> best, boolean rare) {
    /** Characters of an address that say something of whose it is: most of a family name, or its end with a number. */
    public static final int TAIL = 8;

    public Levels {
        best = List.copyOf(best);
    }

    /** Levels there are, the last being that they differ. */
    public int count() {
        return best.size() + 1;
    }

    /** In words, such as "family name alike". */
    public String words(int level) {
        String name = attribute.replace('_', ' ');
        return level == best.size()
                ? name + " differs"
                : name + " " + best.get(level).words();
    }

    /** What usually serves for a kind of attribute; the cuts are our choice, after Winkler (1990) for names. */
    public static Levels usual(Attribute attribute) {
        List<Comparison> best =
                switch (attribute.kind()) {
                    case GIVEN_NAME ->
                        List.of(new Comparison.Same(), new Comparison.Alike(0.9), new Comparison.Initial());
                    case FAMILY_NAME, FULL_NAME, COMPANY, ADDRESS, TOWN ->
                        List.of(new Comparison.Same(), new Comparison.Alike(0.92), new Comparison.SoundsAlike());
                    case EMAIL ->
                        List.of(
                                new Comparison.Same(),
                                new Comparison.SameLocalPart(),
                                new Comparison.Slips(1),
                                new Comparison.SameTail(TAIL));
                    case PHONE -> List.of(new Comparison.Same(), new Comparison.Slips(1));
                    case BIRTH_DATE ->
                        List.of(new Comparison.Same(), new Comparison.Slips(1), new Comparison.Begins(4));
                    case DOMAIN, VERBATIM, CONSENT -> List.of(new Comparison.Same());
                    case LIST -> List.of(new Comparison.Same(), new Comparison.SharesWord());
                    case NUMBER -> List.of(new Comparison.Same(), new Comparison.Near(1));
                    case POSTCODE, IDENTIFIER -> List.of(new Comparison.Same(), new Comparison.Slips(1));
                    case TEXT -> List.of(new Comparison.Same(), new Comparison.Alike(0.92));
                };
        return new Levels(attribute.name(), best, attribute.kind() != Attribute.Kind.BIRTH_DATE);
    }
}

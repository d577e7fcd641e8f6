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
    /** Letters of the shortest names in which a slip is told from another name. */
    private static final int SHORT_NAME = 3;

    public Levels {
        best = List.copyOf(best);
    }

    /** Levels there are, the last being that they differ. */
    public int count() {
        return best.size() + 1;
    }

    /** In words, such as "family name is similar". */
    public String words(int level) {
        String name = attribute.replace('_', ' ');
        return level == best.size()
                ? name + " differs"
                : name + " is " + best.get(level).words();
    }

    /** What usually serves for a kind of attribute; the cuts are our choice, after Winkler (1990) for names. */
    public static Levels usual(Attribute attribute) {
        List<Comparison> best =
                switch (attribute.kind()) {
                    case GIVEN_NAME ->
                        List.of(
                                new Comparison.Same(),
                                new FirstWord(),
                                new NameSlip(SHORT_NAME),
                                new Comparison.Alike(0.88),
                                new Comparison.Initial());
                    case FAMILY_NAME ->
                        List.of(
                                new Comparison.Same(),
                                new NameSlip(SHORT_NAME),
                                new Comparison.Alike(0.88),
                                new Comparison.SoundsAlike());
                    case FULL_NAME, COMPANY ->
                        List.of(new Comparison.Same(), new Comparison.Alike(0.92), new Comparison.SoundsAlike());
                    case ADDRESS -> List.of(new Comparison.Same(), new SameNumberAlike(0.85), new Comparison.Slips(2));
                    case TOWN -> List.of(new Comparison.Same(), new NameSlip(SHORT_NAME), new Comparison.Alike(0.85));
                    case EMAIL ->
                        List.of(
                                new Comparison.Same(),
                                new Comparison.SameLocalPart(),
                                new Comparison.SameTail(TAIL),
                                new Comparison.Slips(1));
                    case PHONE -> List.of(new Comparison.Same(), new Comparison.Slips(1));
                    case BIRTH_DATE ->
                        List.of(
                                new Comparison.Same(),
                                new DayAndMonthSwapped(),
                                new Comparison.Slips(1),
                                new TwoDateParts(),
                                new Comparison.Begins(4));
                    case DOMAIN, VERBATIM, CONSENT -> List.of(new Comparison.Same());
                    case LIST -> List.of(new Comparison.Same(), new Comparison.SharesWord());
                    case NUMBER -> List.of(new Comparison.Same(), new Comparison.Near(1));
                    case POSTCODE -> List.of(new Comparison.Same(), new Comparison.Slips(1));
                    case IDENTIFIER -> List.of(new Comparison.Same(), new Comparison.Slips(1), new Comparison.Slips(2));
                    case TEXT -> List.of(new Comparison.Same(), new Comparison.Alike(0.92));
                };
        return new Levels(attribute.name(), best, attribute.kind() != Attribute.Kind.BIRTH_DATE);
    }
}

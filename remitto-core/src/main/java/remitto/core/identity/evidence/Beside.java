package remitto.core.identity.evidence;

import java.util.Arrays;
import java.util.Collections;
import java.util.List;
import remitto.core.identity.compare.Levels;
import remitto.core.identity.record.Attribute.Kind;

/**
 * Attributes that are judged in the light of others' agreement, since they go together: whoever moves has another
 * address, postcode and town at once, and a postcode says which town it is. Each such attribute has three rows of weights: the
 * other was not compared, it agrees, it differs. A tree of dependences as in Friedman, Geiger and Goldszmidt (Bayesian network
 * classifiers, Machine Learning 29 (1997) 131), given here and not learnt.
 *
 * @param others by attribute, the positions of the others; none for an attribute that stands by itself
 */
public record Beside(List<List<Integer>> others) {
    /** The row that holds when the others agree. */
    static final int AGREES = 1;

    /** The row that holds when one of the others differs. */
    static final int DIFFERS = 2;

    private static final int ROWS = 3;

    public Beside {
        others = others.stream().map(List::copyOf).toList();
    }

    /** Everything by itself. */
    static Beside none(int attributes) {
        return new Beside(Collections.nCopies(attributes, List.of()));
    }

    /** @param kinds of what is compared, in the order of the levels */
    static Beside of(List<Kind> kinds) {
        return new Beside(kinds.stream()
                .map(kind -> switch (kind) {
                    case POSTCODE -> positions(kinds, Kind.ADDRESS);
                    case TOWN ->
                        kinds.contains(Kind.POSTCODE)
                                ? positions(kinds, Kind.POSTCODE)
                                : positions(kinds, Kind.ADDRESS);
                    case GIVEN_NAME -> positions(kinds, Kind.FAMILY_NAME);
                    case EMAIL -> positions(kinds, Kind.FAMILY_NAME, Kind.GIVEN_NAME);
                    default -> List.<Integer>of();
                })
                .toList());
    }

    private static List<Integer> positions(List<Kind> kinds, Kind... wanted) {
        return Arrays.stream(wanted).map(kinds::indexOf).filter(at -> at >= 0).toList();
    }

    boolean has(int attribute) {
        return !others.get(attribute).isEmpty();
    }

    int rows(int attribute) {
        return has(attribute) ? ROWS : 1;
    }

    /** The row of an attribute's weights that holds for a pair. */
    int row(int attribute, byte[] pattern, List<Levels> levels) {
        List<Integer> with = others.get(attribute);
        int row = with.isEmpty() ? 0 : AGREES;
        for (int i = 0; i < with.size(); i++) {
            int other = with.get(i);
            if (pattern[other] < 0) {
                return 0;
            }
            if (pattern[other] == levels.get(other).count() - 1) {
                row = DIFFERS;
            }
        }
        return row;
    }

    /** The place of a pair's level among all weights of an attribute; it has to have been compared. */
    int cell(int attribute, byte[] pattern, List<Levels> levels) {
        return row(attribute, pattern, levels) * levels.get(attribute).count() + pattern[attribute];
    }
}

package remitto.core.identity.compare;

import org.apache.commons.text.similarity.JaroWinklerSimilarity;

/**
 * Addresses whose words are alike and whose numbers are the same: neighbours differ in little else than the number. An address
 * without a number may have any.
 *
 * @param least similarity of the words after Jaro and Winkler, from 0 to 1
 */
public record SameNumberAlike(double least) implements Comparison {
    private static final JaroWinklerSimilarity SIMILARITY = new JaroWinklerSimilarity();

    @Override
    public boolean holds(String one, String other) {
        String first = part(one, true);
        String second = part(other, true);
        boolean same = first.isEmpty() || second.isEmpty() || first.equals(second);
        return same && SIMILARITY.apply(part(one, false), part(other, false)) >= least;
    }

    /** The words of an address that begin with a digit, or those that do not. */
    private static String part(String address, boolean numbers) {
        StringBuilder part = new StringBuilder();
        int from = 0;
        while (from < address.length()) {
            int space = address.indexOf(' ', from);
            int to = space < 0 ? address.length() : space;
            if (to > from && numbers == (address.charAt(from) >= '0' && address.charAt(from) <= '9')) {
                part.append(part.isEmpty() ? "" : " ").append(address, from, to);
            }
            from = to + 1;
        }
        return part.toString();
    }

    @Override
    public String words() {
        return "similar, with the same number";
    }
}

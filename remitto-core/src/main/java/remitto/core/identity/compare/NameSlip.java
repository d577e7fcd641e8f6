package remitto.core.identity.compare;

/**
 * Names typed with one slip; short ones too, as long as a letter is a smaller part of them than of an abbreviation.
 *
 * @param letters that both have at least
 */
public record NameSlip(int letters) implements Comparison {
    @Override
    public boolean holds(String one, String other) {
        return one.length() >= letters && other.length() >= letters && SlipDistance.atMost(one, other, 1);
    }

    @Override
    public String words() {
        return "one typo apart";
    }
}

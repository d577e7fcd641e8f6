package remitto.core.route;

import java.math.BigDecimal;

/**
 * Sends the first few records of a manifest, looks at the refusals, then the rest.
 *
 * @param first how many records the first wave holds
 * @param byItself the rest follows without a word when refusals stay within the limit
 * @param refusedPercent refused records of the first wave, in percent of it, above which it waits for a person
 */
public record Waves(int first, boolean byItself, BigDecimal refusedPercent) {
    public Waves {
        if (first < 1) {
            throw new IllegalArgumentException("A first wave holds at least one record, not " + first);
        }
    }

    /** Whether the rest may follow without a word. */
    public boolean mayGoOn(long sent, long refused) {
        return byItself
                && BigDecimal.valueOf(refused)
                                .multiply(BigDecimal.valueOf(100))
                                .compareTo(refusedPercent.multiply(BigDecimal.valueOf(sent)))
                        <= 0;
    }
}

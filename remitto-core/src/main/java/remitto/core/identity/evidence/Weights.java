package remitto.core.identity.evidence;

import java.util.ArrayList;
import java.util.List;
import remitto.core.identity.RecordTable;
import remitto.core.identity.compare.Levels;

/**
 * The weights behind a judgement, in bits: the logarithm to base 2 of how much more often records of one person agree so than
 * others do (Fellegi and Sunter 1969). They add up, beginning with what any two records have for and against them. A pair is
 * weighed against strangers and against two of one household, and the less of the two counts.
 *
 * @param levels how each attribute was compared
 * @param personal by attribute, whether it is a person's own rather than a household's
 * @param strangers what counts against two being strangers
 * @param mates what counts against two being of one household
 */
public record Weights(List<Levels> levels, List<Boolean> personal, Odds strangers, Odds mates) {
    private static final double BIT = Math.log(2);

    public Weights {
        levels = List.copyOf(levels);
        personal = List.copyOf(personal);
    }

    /**
     * Odds of one person against another kind of pair.
     *
     * @param start the logarithm of the odds before anything is compared
     * @param m by attribute and level, how often one person's records agree so
     * @param u the same of the other kind of pair
     */
    public record Odds(double start, double[][] m, double[][] u) {
        /** Of one attribute's level. */
        public double bits(int attribute, int level) {
            return log2(m[attribute][level] / u[attribute][level]);
        }
    }

    /**
     * What agreeing on a value counts for beside the average of its attribute: more when few records have it (after Newcombe
     * 1959; as term-frequency adjustment common since Winkler 1989).
     *
     * @param records that have the value, of {@code all} that there are
     */
    public double rarity(int attribute, int records, int all) {
        return log2(strangers.u()[attribute][0] / Math.min(1.0, records / (double) all));
    }

    /** One line of the ledger of a judgement. */
    public record LedgerEntry(String words, double bits) {}

    /**
     * Plus and minus, line by line; the sum is the weight. Attributes that were not compared have no line.
     *
     * @param against the odds that decided, {@link #strangers} or {@link #mates}
     */
    public List<LedgerEntry> ledger(RecordTable table, int one, byte[] pattern, Odds against) {
        List<LedgerEntry> ledger = new ArrayList<>();
        ledger.add(new LedgerEntry(
                against == mates ? "start (any two of a household)" : "start (any two)", against.start()));
        for (int i = 0; i < pattern.length; i++) {
            if (pattern[i] >= 0) {
                double bits = against.bits(i, pattern[i]);
                if (pattern[i] == 0 && countsRarity(i, against)) {
                    int position = table.position(levels.get(i).attribute());
                    bits += rarity(i, table.dictionary(position).count(table.code(position, one)), table.size());
                }
                ledger.add(new LedgerEntry(levels.get(i).words(pattern[i]), bits));
            }
        }
        return ledger;
    }

    boolean countsRarity(int attribute, Odds against) {
        return levels.get(attribute).rare() && (against != mates || personal.get(attribute));
    }

    static double log2(double value) {
        return Math.log(value) / BIT;
    }
}

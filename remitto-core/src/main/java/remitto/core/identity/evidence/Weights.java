package remitto.core.identity.evidence;

import java.util.ArrayList;
import java.util.List;
import remitto.core.identity.compare.Levels;
import remitto.core.identity.record.RecordTable;

/**
 * The weights behind a judgement, in bits: the logarithm to base 2 of how much more often records of one person agree so than
 * others do (Fellegi and Sunter 1969). They add up, beginning with what any two records have for and against them. A pair is
 * weighed against strangers and against two of one household, and the less of the two counts.
 *
 * @param records there were when they were estimated
 * @param levels how each attribute was compared
 * @param personal by attribute, whether it is a person's own rather than a household's
 * @param strangers what counts against two being strangers
 * @param mates what counts against two being of one household
 */
public record Weights(int records, List<Levels> levels, List<Boolean> personal, Odds strangers, Odds mates) {
    private static final int EXACT = 16;
    private static final double BIT = Math.log(2);
    /** Steps that there are, whatever the count. */
    static final int STEPS = step(Integer.MAX_VALUE) + 1;

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
     * What a level counts for since somebody said so, whatever was estimated.
     *
     * @param level from 0, the best
     * @param bits against strangers; against two of one household it moves by as much
     */
    public record FixedWeight(String attribute, int level, double bits) {}

    /** With some levels set by hand; what is said of levels that are not there is passed over. */
    public Weights with(List<FixedWeight> fixed) {
        double[][] one = copy(strangers.m());
        double[][] other = copy(mates.m());
        for (FixedWeight each : fixed) {
            for (int i = 0; i < levels.size(); i++) {
                if (levels.get(i).attribute().equals(each.attribute())
                        && each.level() >= 0
                        && each.level() < levels.get(i).count()) {
                    double moved = Math.pow(2, each.bits() - strangers.bits(i, each.level()));
                    one[i][each.level()] *= moved;
                    other[i][each.level()] *= moved;
                }
            }
        }
        return new Weights(
                records,
                levels,
                personal,
                new Odds(strangers.start(), one, strangers.u()),
                new Odds(mates.start(), other, mates.u()));
    }

    private static double[][] copy(double[][] of) {
        return java.util.Arrays.stream(of).map(double[]::clone).toArray(double[][]::new);
    }

    /**
     * What agreeing on a value counts for beside the average of its attribute: more when few records have it (after Newcombe
     * 1959; as term-frequency adjustment common since Winkler 1989). Counted in steps, so that a record more or less
     * seldom moves a judgement.
     *
     * @param count records that have the value now
     */
    public double rarity(int attribute, int count) {
        return rarityOf(attribute, step(count));
    }

    double rarityOf(int attribute, int step) {
        double middle = step <= EXACT ? Math.max(1, step) : (EXACT + 1) * Math.pow(2, (step - EXACT - 0.5) / 2);
        return log2(strangers.u()[attribute][0] / Math.min(1.0, middle / records));
    }

    /** The step that a count is counted as: few exactly, more by halves of a power of two. */
    public static int step(int count) {
        return count <= EXACT ? count : EXACT + 1 + (int) Math.floor(2 * log2((count + 0.0) / (EXACT + 1)));
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
                isHousehold(against) ? "start (any two of a household)" : "start (any two)", against.start()));
        for (int i = 0; i < pattern.length; i++) {
            if (pattern[i] >= 0) {
                double bits = against.bits(i, pattern[i]);
                if (pattern[i] == 0 && countsRarity(i, against)) {
                    int position = table.position(levels.get(i).attribute());
                    bits += rarity(i, table.dictionary(position).count(table.code(position, one)));
                }
                ledger.add(new LedgerEntry(levels.get(i).words(pattern[i]), bits));
            }
        }
        return ledger;
    }

    private boolean isHousehold(Odds against) {
        return against == mates && mates.start() != strangers.start();
    }

    boolean countsRarity(int attribute, Odds against) {
        return levels.get(attribute).rare() && (against != mates || personal.get(attribute));
    }

    static double log2(double value) {
        return Math.log(value) / BIT;
    }
}

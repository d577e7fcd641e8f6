package remitto.core.identity.evidence;

import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
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
 * @param mates what counts against two being of one household; the same as strangers where there are no households
 * @param basis what they rest on; none for those that were estimated before it was kept, in which each attribute stands by itself
 * @param cuts where pairs are joined and asked about by them; none when that was stated
 */
public record Weights(
        int records,
        List<Levels> levels,
        List<Boolean> personal,
        Odds strangers,
        Odds mates,
        Optional<Basis> basis,
        Optional<Cuts> cuts) {
    /** A town's share of its postcode's strangers, above which being rare says nothing more; our choice. */
    private static final double FOREGONE = 0.2;

    private static final int EXACT = 16;
    private static final double BIT = Math.log(2);
    /** Steps that there are, whatever the count. */
    static final int STEPS = step(Integer.MAX_VALUE) + 1;

    public Weights {
        levels = List.copyOf(levels);
        personal = List.copyOf(personal);
    }

    public Weights(int records, List<Levels> levels, List<Boolean> personal, Odds strangers, Odds mates) {
        this(records, levels, personal, strangers, mates, Optional.empty(), Optional.empty());
    }

    /**
     * In bits.
     *
     * @param join from which pairs are joined
     * @param ask from which a person is asked
     */
    public record Cuts(double join, double ask) {}

    public Weights with(Cuts found) {
        return new Weights(records, levels, personal, strangers, mates, basis, Optional.of(found));
    }

    /**
     * What weights rest on.
     *
     * @param beside which attributes are judged in the light of another
     * @param average by attribute, the share of pairs of records that have the same value
     * @param seen by attribute, pairs of one person that it was learnt from
     */
    public record Basis(Beside beside, double[] average, double[] seen) {
        /** Whether so few pairs say anything of an attribute that what is usual counts for more. */
        public boolean hasFew(int attribute) {
            return seen[attribute] < Estimator.USUAL_PAIRS;
        }
    }

    /**
     * What a level weighs where others agree or not.
     *
     * @param others names of the attributes in whose light it is judged
     * @param agree whether all of them do
     * @param bits against strangers
     */
    public record InLightOf(List<String> others, boolean agree, double bits) {}

    /** None for an attribute that is judged by itself. */
    public List<InLightOf> inLightOf(int attribute, int level) {
        if (!beside().has(attribute)) {
            return List.of();
        }
        List<String> others = beside().others().get(attribute).stream()
                .map(other -> levels.get(other).attribute())
                .toList();
        int count = levels.get(attribute).count();
        return List.of(
                new InLightOf(others, true, strangers.bits(attribute, Beside.AGREES * count + level)),
                new InLightOf(others, false, strangers.bits(attribute, Beside.DIFFERS * count + level)));
    }

    Beside beside() {
        return basis.map(Basis::beside).orElseGet(() -> Beside.none(levels.size()));
    }

    /** Whether two of one household are a third kind of pair. */
    public boolean hasHouseholds() {
        return mates.start() != strangers.start();
    }

    /**
     * Odds of one person against another kind of pair.
     *
     * @param start the logarithm of the odds before anything is compared
     * @param m by attribute and level, how often one person's records agree so; where an attribute is judged in the light of
     *     another, a row of levels for each of: the other was not compared, it agrees, it differs
     * @param u the same of the other kind of pair
     */
    public record Odds(double start, double[][] m, double[][] u) {
        /** Of one attribute's level, by itself, or of a level further on in another row. */
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

    /** With some levels set manually; what is said of levels that are not there is passed over. */
    public Weights with(List<FixedWeight> fixed) {
        double[][] one = copy(strangers.m());
        double[][] other = copy(mates.m());
        for (FixedWeight each : fixed) {
            for (int i = 0; i < levels.size(); i++) {
                if (levels.get(i).attribute().equals(each.attribute())
                        && each.level() >= 0
                        && each.level() < levels.get(i).count()) {
                    double moved = Math.pow(2, each.bits() - strangers.bits(i, each.level()));
                    for (int cell = each.level();
                            cell < one[i].length;
                            cell += levels.get(i).count()) {
                        one[i][cell] *= moved;
                        other[i][cell] *= moved;
                    }
                }
            }
        }
        return new Weights(
                records,
                levels,
                personal,
                new Odds(strangers.start(), one, strangers.u()),
                new Odds(mates.start(), other, mates.u()),
                basis,
                cuts);
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
        double average =
                basis.map(known -> known.average()[attribute]).orElse(strangers.u()[attribute][0]);
        return log2(average / Math.min(1.0, middle / records));
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
                isHousehold(against) ? "any two records of a household" : "any two records", against.start()));
        for (int i = 0; i < pattern.length; i++) {
            if (pattern[i] >= 0) {
                int row = beside().row(i, pattern, levels);
                double bits = against.bits(i, row * levels.get(i).count() + pattern[i]);
                if (pattern[i] == 0 && countsRarity(i, row) && (against != mates || personal.get(i))) {
                    int position = table.position(levels.get(i).attribute());
                    bits += rarity(i, table.dictionary(position).count(table.code(position, one)));
                }
                ledger.add(new LedgerEntry(levels.get(i).words(pattern[i]), bits));
            }
        }
        return ledger;
    }

    private boolean isHousehold(Odds against) {
        return against == mates && hasHouseholds();
    }

    /** Whether it counts how rare a value is that two records have; a town that goes with the postcode is no more for being rare. */
    boolean countsRarity(int attribute, int row) {
        int first = row * levels.get(attribute).count();
        return levels.get(attribute).rare()
                && (row != Beside.AGREES || strangers.u()[attribute][first] < FOREGONE);
    }

    static double log2(double value) {
        return Math.log(value) / BIT;
    }
}

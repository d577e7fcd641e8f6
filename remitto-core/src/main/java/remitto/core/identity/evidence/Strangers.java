package remitto.core.identity.evidence;

import java.util.Arrays;
import java.util.List;
import java.util.Set;
import java.util.SplittableRandom;
import remitto.core.identity.compare.Comparer;
import remitto.core.identity.compare.Levels;
import remitto.core.identity.normalise.Nicknames;
import remitto.core.identity.record.Attribute.Kind;
import remitto.core.identity.record.RecordTable;

/** What two strangers agree in, counted on pairs drawn at random. Used by one thread. */
final class Strangers {
    private static final long SEED = 1969;
    private static final int RANDOM_PAIRS = 400_000;
    private static final int BESIDE_PAIRS = 40_000;
    /** How often each pair is drawn where there are few. */
    private static final long OFTEN = 4;
    /** Pairs that what holds for any strangers is worth, among those who agree in something; our choice. */
    private static final double ANY = 20;

    /** Pairs that are this likely to be strangers are counted, less the matches that are to be expected among them. */
    private static final double CERTAIN = 0.99;

    private final RecordTable table;
    private final List<Levels> levels;
    private final Beside beside;
    private final List<Kind> kinds;
    private final Nicknames nicknames;

    Strangers(RecordTable table, List<Levels> levels, Beside beside, List<Kind> kinds, Nicknames nicknames) {
        this.table = table;
        this.levels = levels;
        this.beside = beside;
        this.kinds = kinds;
        this.nicknames = nicknames;
    }

    /** By attribute and cell; one row is like another until {@link #beside} has been asked. */
    double[][] atRandom() {
        Patterns patterns = new Patterns(levels);
        Comparer comparer = new Comparer(table, levels, nicknames);
        byte[] pattern = new byte[levels.size()];
        SplittableRandom random = new SplittableRandom(SEED);
        long all = (long) table.size() * (table.size() - 1) / 2;
        for (int i = 0; i < Math.min(RANDOM_PAIRS, OFTEN * all); i++) {
            int one = random.nextInt(table.size());
            int other = random.nextInt(table.size());
            if (one != other) {
                comparer.compare(one, other, pattern);
                patterns.add(pattern, 1);
            }
        }
        double[][] u = new double[levels.size()][];
        for (int i = 0; i < u.length; i++) {
            double[] shares = patterns.shares(i);
            shares[0] = Estimator.same(table.dictionary(position(i)));
            u[i] = new double[beside.rows(i) * shares.length];
            for (int cell = 0; cell < u[i].length; cell++) {
                u[i][cell] = shares[cell % shares.length];
            }
        }
        return u;
    }

    /** Says of what goes with others, and is shared, nothing at all where these agree: what one person's records agree in, strangers do as well. */
    void saysNothing(Set<Integer> shared, double[][] usual, double[][] u) {
        for (int i = 0; i < u.length; i++) {
            if (counts(i) && shared.contains(i)) {
                int count = levels.get(i).count();
                int from = usual[i].length > count ? Beside.AGREES * count : 0;
                double all = Arrays.stream(usual[i], from, from + count).sum();
                for (int level = 0; level < count; level++) {
                    u[i][Beside.AGREES * count + level] = usual[i][from + level] / all;
                }
            }
        }
    }

    private boolean counts(int attribute) {
        return beside.has(attribute)
                && beside.others().get(attribute).stream().noneMatch(other -> kinds.get(other) == Kind.ADDRESS);
    }

    private int position(int attribute) {
        return table.position(levels.get(attribute).attribute());
    }

    /**
     * Counts again what strangers who agree in one attribute agree in another that goes with it, such as given names of one
     * family name's country. Those who agree in an address are taken to be of one house, and no strangers.
     *
     * @param known weights by which those who are one person or household are told
     * @param u changed in place
     */
    void beside(Weights known, double[][] u) {
        for (int i = 0; i < u.length; i++) {
            if (counts(i)) {
                agreeing(i, known, u);
            }
        }
    }

    private void agreeing(int attribute, Weights known, double[][] u) {
        int count = levels.get(attribute).count();
        double[] counts = new double[count];
        double[] matches = new double[1];
        Scorer scorer = new Scorer(table, known, nicknames);
        Sharing sharing = Sharing.of(
                table,
                beside.others().get(attribute).stream().map(this::position).toList());
        SplittableRandom random = new SplittableRandom(SEED);
        for (int i = 0; i < Math.min(BESIDE_PAIRS, OFTEN * sharing.pairs()); i++) {
            sharing.draw(random, (one, other) -> {
                double strangers = scorer.strangers(one, other, attribute);
                int level = scorer.level(attribute);
                if (strangers >= CERTAIN && level >= 0) {
                    counts[level]++;
                    matches[0] += 1 - strangers;
                }
            });
        }
        double[] m = known.strangers().m()[attribute];
        double met = ANY + Arrays.stream(counts).sum();
        for (int level = 0; level < count; level++) {
            double least = (level < count - 1 ? met : ANY) * u[attribute][level];
            counts[level] = Math.max(least, counts[level] - matches[0] * m[Beside.AGREES * count + level]);
        }
        double all = Arrays.stream(counts).sum();
        for (int level = 0; level < count; level++) {
            u[attribute][Beside.AGREES * count + level] = Math.max(1e-9, counts[level] / all);
        }
    }
}

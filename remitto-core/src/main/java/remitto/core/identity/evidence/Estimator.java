package remitto.core.identity.evidence;

import java.util.ArrayList;
import java.util.Arrays;
import java.util.HashSet;
import java.util.List;
import java.util.Set;
import java.util.SplittableRandom;
import remitto.core.identity.compare.Comparer;
import remitto.core.identity.compare.Levels;
import remitto.core.identity.record.Attribute;
import remitto.core.identity.record.Dictionary;
import remitto.core.identity.record.RecordTable;
import remitto.core.identity.tidy.Nicknames;

/**
 * Estimates weights from the records alone, without labels. How often pairs that are no matches agree is counted on pairs drawn
 * at random; how often matches do is estimated block by block, each block's key saying nothing about its own attributes.
 */
public final class Estimator {
    private static final long SEED = 1969;
    private static final int RANDOM_PAIRS = 400_000;
    private static final int BLOCK_PAIRS = 400_000;
    /** Pairs of a household born on one day; common practice, no source. */
    private static final double TWINS = 0.01;
    /** What people of one household have in common. */
    private static final Set<Attribute.Kind> SHARED = Set.of(
            Attribute.Kind.FAMILY_NAME,
            Attribute.Kind.EMAIL,
            Attribute.Kind.PHONE,
            Attribute.Kind.ADDRESS,
            Attribute.Kind.POSTCODE,
            Attribute.Kind.TOWN,
            Attribute.Kind.DOMAIN);

    private final RecordTable table;
    private final List<Levels> levels;
    private final Nicknames nicknames;
    private final Set<Integer> shared = new HashSet<>();

    public Estimator(RecordTable table, List<Levels> levels, Nicknames nicknames) {
        this.table = table;
        this.levels = List.copyOf(levels);
        this.nicknames = nicknames;
        for (int i = 0; i < levels.size(); i++) {
            if (SHARED.contains(kind(i))) {
                shared.add(i);
            }
        }
    }

    /** @param blocks of all keys; where no block says anything of an attribute, what is commonly met is believed */
    public Weights estimate(List<Blocks> blocks) {
        double[][] u = unmatched();
        boolean households = table.attributes().stream().anyMatch(one -> one.kind() == Attribute.Kind.GIVEN_NAME);
        Estimate begin = new Estimate(0.2, households ? 0.1 : 0, begin(0.85), atFirst(u));
        Sums one = new Sums();
        Sums mates = new Sums();
        for (Blocks block : blocks) {
            if (block.pairs() > 0) {
                Set<Integer> blocked = blocked(block.key());
                Estimate found = begin.improvedOn(sample(block), u, shared, blocked);
                one.add(found.matches() * block.pairs(), found.m(), blocked);
                mates.add(found.mates() * block.pairs(), found.h(), blocked);
            }
        }
        double[][] m = one.shares(begin.m());
        double[][] h = mates.shares(begin.h());
        double pairs = table.size() * (table.size() - 1.0) / 2;
        double share = Math.min(0.5, one.most / Math.max(1, pairs));
        double start = Weights.log2(share / (1 - share));
        double beside = Weights.log2(one.most / Math.max(mates.most, one.most / 2));
        Weights.Odds strangers = new Weights.Odds(start, m, u);
        Weights.Odds household = households ? new Weights.Odds(beside, m, h) : strangers;
        return new Weights(table.size(), levels, personal(households), strangers, household);
    }

    /** What blocks say, each as much as the pairs it found. */
    private final class Sums {
        private final double[][] sums =
                levels.stream().map(one -> new double[one.count()]).toArray(double[][]::new);
        private final double[] seen = new double[levels.size()];
        private double most = 1;

        void add(double found, double[][] shares, Set<Integer> blocked) {
            most = Math.max(most, found);
            for (int i = 0; i < sums.length; i++) {
                if (!blocked.contains(i)) {
                    for (int level = 0; level < sums[i].length; level++) {
                        sums[i][level] += found * shares[i][level];
                    }
                    seen[i] += found;
                }
            }
        }

        double[][] shares(double[][] otherwise) {
            double[][] shares = new double[sums.length][];
            for (int i = 0; i < shares.length; i++) {
                shares[i] = seen[i] <= 0 ? otherwise[i] : divided(sums[i], seen[i]);
            }
            return shares;
        }
    }

    /** Where there are no households nothing is shared by one. */
    private List<Boolean> personal(boolean households) {
        List<Boolean> personal = new ArrayList<>();
        for (int i = 0; i < levels.size(); i++) {
            personal.add(!households || !shared.contains(i));
        }
        return personal;
    }

    /** Of two of one household: what they share is often the same, what is their own seldom; birthdays of twins are. */
    private double[][] atFirst(double[][] u) {
        double[][] h = begin(0.6);
        for (int i = 0; i < h.length; i++) {
            if (!shared.contains(i)) {
                h[i] = u[i].clone();
                if (kind(i) == Attribute.Kind.BIRTH_DATE && h[i][0] < TWINS) {
                    h[i][0] = TWINS;
                }
            }
        }
        return h;
    }

    private Attribute.Kind kind(int at) {
        return table.attributes()
                .get(table.position(levels.get(at).attribute()))
                .kind();
    }

    private static double[] divided(double[] sums, double by) {
        return Arrays.stream(sums).map(one -> Math.max(1e-5, one / by)).toArray();
    }

    private double[][] begin(double same) {
        double[][] begin = new double[levels.size()][];
        for (int i = 0; i < begin.length; i++) {
            int count = levels.get(i).count();
            begin[i] = new double[count];
            Arrays.fill(begin[i], (1 - same) / (count - 1));
            begin[i][0] = same;
        }
        return begin;
    }

    private double[][] unmatched() {
        Patterns patterns = new Patterns(levels);
        Comparer comparer = new Comparer(table, levels, nicknames);
        byte[] pattern = new byte[levels.size()];
        SplittableRandom random = new SplittableRandom(SEED);
        for (int i = 0; i < RANDOM_PAIRS && table.size() > 1; i++) {
            int one = random.nextInt(table.size());
            int other = random.nextInt(table.size());
            if (one != other) {
                comparer.compare(one, other, pattern);
                patterns.add(pattern, 1);
            }
        }
        double[][] u = new double[levels.size()][];
        for (int i = 0; i < u.length; i++) {
            u[i] = patterns.shares(i);
            u[i][0] = same(table.dictionary(table.position(levels.get(i).attribute())));
        }
        return u;
    }

    /** The chance that two records that have a value have the same, counted and not sampled since it may be tiny. */
    private static double same(Dictionary dictionary) {
        double pairs = 0;
        double all = 0;
        for (int code = 1; code < dictionary.size(); code++) {
            double count = dictionary.count(code);
            pairs += count * (count - 1);
            all += count;
        }
        return Math.max(1, pairs) / Math.max(2, all * (all - 1));
    }

    private Patterns sample(Blocks block) {
        Patterns patterns = new Patterns(levels);
        Comparer comparer = new Comparer(table, levels, nicknames);
        byte[] pattern = new byte[levels.size()];
        long step = Math.max(1, block.pairs() / BLOCK_PAIRS);
        long[] met = new long[1];
        for (int piece = 0; piece < block.pieces(); piece++) {
            block.pairs(piece, (one, other) -> {
                if (met[0]++ % step == 0) {
                    comparer.compare(one, other, pattern);
                    patterns.add(pattern, 1);
                }
            });
        }
        return patterns;
    }

    private Set<Integer> blocked(BlockKey key) {
        Set<Integer> blocked = new HashSet<>();
        List<String> names = new ArrayList<>();
        key.parts().forEach(part -> names.add(part.attribute()));
        for (int i = 0; i < levels.size(); i++) {
            if (names.contains(levels.get(i).attribute())) {
                blocked.add(i);
            }
        }
        return blocked;
    }
}

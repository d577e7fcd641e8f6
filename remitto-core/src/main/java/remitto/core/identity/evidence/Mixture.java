package remitto.core.identity.evidence;

import java.util.ArrayList;
import java.util.Arrays;
import java.util.List;
import java.util.Set;
import remitto.core.identity.compare.Levels;

/**
 * Estimates by expectation and maximisation (Dempster, Laird and Rubin, JRSS B 39 (1977) 1; for linkage, Winkler 1988) what pairs
 * of one person, and pairs of two of one household, agree in, all keys together: each key has shares of its own, and says nothing
 * of what it was made from, but what people agree in is the same whichever key found them. A pair that several keys find counts
 * once. What strangers agree in is known and held fast.
 *
 * <p>A household's pairs are learnt only where a place or a contact is shared, and only by what households share; where nothing
 * such is compared, there is no third kind. Every estimate begins with some pairs of what is commonly met, so that none is made
 * from nothing.
 */
final class Mixture {
    private static final int MOST_ROUNDS = 150;
    private static final double SETTLED = 1e-4;
    private static final double LEAST = 1e-6;
    /** Anything is said wrongly of somebody in one record or another; our choice. */
    private static final double LEAST_DIFFERS = 0.003;
    /**
     * A given name or a birth date is usually right; our choice. Otherwise, where nobody has two records, two people who live together
     * would be taken for one person whose values all differ.
     */
    private static final double MOST_DIFFERS = 0.25;
    /** Pairs of all keys that what a key's own agree in begins with; our choice. */
    private static final double KEY_PAIRS = 100;
    /** The same as a share of its matches. */
    private static final double KEY_SHARE = 0.5;
    /** Pairs that all rows together are worth in each of them; our choice. */
    private static final double ROW_PAIRS = 20;

    private final List<Levels> levels;
    private final Beside beside;
    private final List<Stratum> strata = new ArrayList<>();
    private final double[][] u;
    private final double[][] usual;
    private final double[][] usualOfHousehold;
    private final Set<Integer> shared;
    /** By attribute, whether it stays the same all life, so that one person's records seldom differ in it. */
    private final boolean[] steady;
    /** By attribute, whether a household's rows are one, since nothing is known of what is usual in the others. */
    private final boolean[] tied;

    /**
     * The pairs that one key finds, or those of it whose block was split as often.
     *
     * @param key its number
     * @param blocked attributes by which they were found
     * @param agreed those of them that all pairs have the same
     * @param place whether they share a place or a contact, as households do
     */
    record Found(int key, List<Patterns.Met> patterns, Set<Integer> blocked, Set<Integer> agreed, boolean place) {
        Found withoutPlace() {
            return new Found(key, patterns, blocked, agreed, false);
        }
    }

    /**
     * @param m by attribute and cell, how often one person's records agree so
     * @param h the same of two of one household
     * @param matches pairs that are one person, each counted once
     * @param mates pairs that are two of one household
     * @param strangers by what was found, pairs that are neither
     * @param seen by attribute, pairs of one person that it was learnt from
     */
    record Learnt(double[][] m, double[][] h, double matches, double mates, double[] strangers, double[] seen) {}

    private static final class Stratum {
        final int[][] cells;
        final double[] times;
        final double[] share;
        final boolean[] blocked;
        /** Attributes that all pairs agree in, which therefore speak for what goes with them. */
        final int[] agreed;

        final boolean place;
        double match = 0.2;
        double mate;
        /** What is believed of matches here; begins as elsewhere. */
        double[][] m = {};

        Stratum(Found found, List<Levels> levels, Beside beside) {
            int size = found.patterns().size();
            cells = new int[size][levels.size()];
            times = new double[size];
            share = new double[size];
            for (int i = 0; i < size; i++) {
                Patterns.Met met = found.patterns().get(i);
                times[i] = met.times();
                share[i] = met.share();
                for (int a = 0; a < levels.size(); a++) {
                    cells[i][a] = met.pattern()[a] < 0 ? -1 : beside.cell(a, met.pattern(), levels);
                }
            }
            blocked = new boolean[levels.size()];
            found.blocked().forEach(a -> blocked[a] = true);
            agreed = found.agreed().stream()
                    .filter(beside::has)
                    .mapToInt(Integer::intValue)
                    .toArray();
            place = found.place();
        }
    }

    /**
     * @param u by attribute and cell, how often strangers agree so
     * @param usual what one person's records usually agree in, as so many pairs of them; of further rows where they are known
     * @param usualOfHousehold the same of two of one household; of what is not shared, how often they do
     * @param shared attributes that households share
     * @param steady attributes that stay the same all life
     */
    Mixture(
            List<Levels> levels,
            Beside beside,
            List<Found> found,
            double[][] u,
            double[][] usual,
            double[][] usualOfHousehold,
            Set<Integer> shared,
            Set<Integer> steady) {
        this.steady = new boolean[levels.size()];
        steady.forEach(i -> this.steady[i] = true);
        this.levels = levels;
        this.beside = beside;
        this.u = u;
        this.usual = usual;
        this.usualOfHousehold = usualOfHousehold;
        this.shared = shared;
        this.tied = new boolean[levels.size()];
        for (int i = 0; i < tied.length; i++) {
            tied[i] =
                    beside.has(i) && usualOfHousehold[i].length == levels.get(i).count();
        }
        boolean households = found.stream().anyMatch(Found::place);
        for (Found one : found) {
            Stratum stratum = new Stratum(one, levels, beside);
            stratum.mate = !households ? 0 : one.place() ? 0.2 : 0.01;
            strata.add(stratum);
        }
    }

    Learnt learn() {
        double[][] m = matches(zeros());
        double[][] h = ofHousehold(zeros());
        for (int round = 0; ; round++) {
            double[][] freshM = zeros();
            double[][] freshH = zeros();
            double[][] known = m;
            double moved = 0;
            double matches = 0;
            double mates = 0;
            double[] strangers = new double[strata.size()];
            for (int s = 0; s < strata.size(); s++) {
                Stratum one = strata.get(s);
                double[][] own = zeros();
                double[] counts = expect(one, one.m.length == 0 ? m : one.m, h, own, freshH, freshM);
                one.m = ofKey(own, known, KEY_PAIRS + KEY_SHARE * counts[0]);
                matches += counts[3];
                mates += counts[4];
                strangers[s] = counts[2] - counts[0] - counts[1];
                double match = share(counts[0], counts[2]);
                double mate = one.mate == 0 ? 0 : share(counts[1], counts[2]);
                moved = Math.max(moved, Math.abs(match - one.match) + Math.abs(mate - one.mate));
                one.match = match;
                one.mate = mate;
            }
            double[] seen = Arrays.stream(freshM)
                    .mapToDouble(row -> Arrays.stream(row).sum())
                    .toArray();
            m = matches(freshM);
            h = ofHousehold(freshH);
            if (moved < SETTLED || round >= MOST_ROUNDS) {
                return new Learnt(m, h, matches, mates, strangers, seen);
            }
        }
    }

    /** Matches, mates and all pairs of a key; then matches and mates, each counted once. */
    private double[] expect(
            Stratum one, double[][] m, double[][] h, double[][] own, double[][] freshH, double[][] freshM) {
        double[] counts = new double[5];
        double[][][] given = {given(one, m), given(one, h), given(one, u)};
        for (int p = 0; p < one.times.length; p++) {
            int[] cells = one.cells[p];
            double match = one.match;
            double mate = one.mate;
            double stranger = Math.max(LEAST, 1 - match - mate);
            for (int a = 0; a < cells.length; a++) {
                if (cells[a] >= 0 && !one.blocked[a]) {
                    match *= m[a][cells[a]];
                    mate *= h[a][cells[a]];
                    stranger *= u[a][cells[a]];
                }
            }
            for (int i = 0; i < one.agreed.length; i++) {
                int row = Math.max(0, cells[one.agreed[i]])
                        / levels.get(one.agreed[i]).count();
                match *= given[0][i][row];
                mate *= given[1][i][row];
                stranger *= given[2][i][row];
            }
            double all = match + mate + stranger;
            match /= all;
            mate /= all;
            counts[0] += match * one.times[p];
            counts[1] += mate * one.times[p];
            counts[2] += one.times[p];
            counts[3] += match * one.share[p];
            counts[4] += mate * one.share[p];
            for (int a = 0; a < cells.length; a++) {
                if (cells[a] >= 0) {
                    freshM[a][cells[a]] += match * one.share[p];
                    own[a][cells[a]] += match * one.times[p];
                    if (one.place && !one.blocked[a] && shared.contains(a)) {
                        freshH[a][tied[a] ? cells[a] % levels.get(a).count() : cells[a]] += mate * one.share[p];
                    }
                }
            }
        }
        return counts;
    }

    /**
     * By attribute that the pairs of a key agree in, and row, how much likelier it makes it that the others agree or differ: two
     * strangers with one address of a mailbox often have one name.
     */
    private double[][] given(Stratum one, double[][] shares) {
        double[][] given = new double[one.agreed.length][];
        for (int i = 0; i < given.length; i++) {
            int attribute = one.agreed[i];
            int count = levels.get(attribute).count();
            double agree = 1;
            for (int other : beside.others().get(attribute)) {
                int last = levels.get(other).count() - 1;
                boolean within = beside.others()
                        .get(attribute)
                        .containsAll(beside.others().get(other));
                int row = beside.has(other) && within ? Beside.AGREES * (last + 1) : 0;
                agree *= 1 - shares[other][row + last];
            }
            double whenAgrees = shares[attribute][Beside.AGREES * count];
            double whenDiffers = shares[attribute][Beside.DIFFERS * count];
            double any = agree * whenAgrees + (1 - agree) * whenDiffers;
            given[i] = new double[] {1, whenAgrees / any, whenDiffers / any};
        }
        return given;
    }

    private double[][] zeros() {
        double[][] zeros = new double[levels.size()][];
        for (int i = 0; i < zeros.length; i++) {
            zeros[i] = new double[beside.rows(i) * levels.get(i).count()];
        }
        return zeros;
    }

    /** Brings a share of records that differ down to what is believed of anybody, the other levels up by as much. */
    private void bound(int attribute, double[] shares) {
        int count = levels.get(attribute).count();
        for (int from = 0; steady[attribute] && from < shares.length; from += count) {
            int last = from + count - 1;
            if (shares[last] > MOST_DIFFERS) {
                double rest = Math.max(LEAST, 1 - shares[last]);
                for (int level = from; level < last; level++) {
                    shares[level] *= (1 - MOST_DIFFERS) / rest;
                }
                shares[last] = MOST_DIFFERS;
            }
        }
    }

    private double[][] matches(double[][] counts) {
        double[][] m = shares(counts, usual);
        for (int i = 0; i < m.length; i++) {
            bound(i, m[i]);
        }
        return m;
    }

    private double[][] shares(double[][] counts, double[][] before) {
        double[][] shares = new double[counts.length][];
        for (int i = 0; i < counts.length; i++) {
            int count = levels.get(i).count();
            double[] any = new double[count];
            for (int cell = 0; cell < counts[i].length; cell++) {
                any[cell % count] += counts[i][cell] + (cell < count ? before[i][cell] : 0);
            }
            double all = Arrays.stream(any).sum();
            shares[i] = new double[counts[i].length];
            for (int from = 0; from < shares[i].length; from += count) {
                row(counts[i], before[i], any, all, from, shares[i]);
            }
        }
        return shares;
    }

    /** A row begins with what is usual in it where that is known, else with what the rows come to together. */
    private static void row(double[] counts, double[] before, double[] any, double all, int from, double[] into) {
        boolean known = from > 0 && from < before.length;
        double met = 0;
        for (int level = 0; level < any.length; level++) {
            into[from + level] = counts[from + level] + (known ? before[from + level] : ROW_PAIRS * any[level] / all);
            met += into[from + level];
        }
        for (int level = 0; level < any.length; level++) {
            double least = level == any.length - 1 ? LEAST_DIFFERS : LEAST;
            into[from + level] = Math.max(least, into[from + level] / met);
        }
    }

    /** What a key's own pairs agree in, beginning with what those of all keys do: an error in one field makes others rarer. */
    private double[][] ofKey(double[][] counts, double[][] known, double pairs) {
        double[][] shares = new double[counts.length][];
        for (int i = 0; i < counts.length; i++) {
            int count = levels.get(i).count();
            shares[i] = new double[counts[i].length];
            for (int from = 0; from < shares[i].length; from += count) {
                double all = 0;
                for (int level = from; level < from + count; level++) {
                    shares[i][level] = counts[i][level] + pairs * known[i][level];
                    all += shares[i][level];
                }
                for (int level = from; level < from + count; level++) {
                    shares[i][level] = Math.max(LEAST, shares[i][level] / all);
                }
            }
            bound(i, shares[i]);
        }
        return shares;
    }

    /** A household's pairs agree in what goes with names as often whether these agree or not. */
    private double[][] ofHousehold(double[][] counts) {
        double[][] h = shares(counts, usualOfHousehold);
        for (int i = 0; i < h.length; i++) {
            if (!shared.contains(i)) {
                h[i] = usualOfHousehold[i];
            } else if (tied[i]) {
                int count = levels.get(i).count();
                for (int cell = count; cell < h[i].length; cell++) {
                    h[i][cell] = h[i][cell % count];
                }
            }
        }
        return h;
    }

    private static double share(double sum, double all) {
        return all == 0 ? 0 : Math.min(1 - LEAST, Math.max(LEAST, sum / all));
    }
}

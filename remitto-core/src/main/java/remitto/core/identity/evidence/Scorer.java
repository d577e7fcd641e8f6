package remitto.core.identity.evidence;

import java.util.List;
import remitto.core.identity.compare.Comparer;
import remitto.core.identity.compare.Levels;
import remitto.core.identity.normalise.Nicknames;
import remitto.core.identity.record.RecordTable;

/** Weighs pairs of records. Used by one thread. */
public final class Scorer {
    private final RecordTable table;
    private final Weights weights;
    private final Comparer comparer;
    private final Beside beside;
    private final byte[] pattern;
    private final double[][] rarity;
    private final int[] positions;
    private final double[][] strangerBits;
    private final double[][] mateBits;
    private final int[] counts;
    /** By attribute, those in whose light it is judged. */
    private final int[][] others;
    /** By attribute and row, whether it counts how rare a value is, and whether against a household too. */
    private final boolean[][] rare;

    private final boolean[] personal;
    private double stranger;
    private double mate;

    public Scorer(RecordTable table, Weights weights, Nicknames nicknames) {
        this.table = table;
        this.weights = weights;
        this.beside = weights.beside();
        this.comparer = new Comparer(table, weights.levels(), nicknames);
        int attributes = weights.levels().size();
        this.pattern = new byte[attributes];
        this.positions = weights.levels().stream()
                .mapToInt(one -> table.position(one.attribute()))
                .toArray();
        this.strangerBits = bits(weights.strangers());
        this.mateBits = bits(weights.mates());
        this.counts = weights.levels().stream().mapToInt(Levels::count).toArray();
        this.others = beside.others().stream()
                .map(some -> some.stream().mapToInt(Integer::intValue).toArray())
                .toArray(int[][]::new);
        this.rare = new boolean[attributes][];
        this.personal = new boolean[attributes];
        this.rarity = new double[attributes][];
        for (int i = 0; i < attributes; i++) {
            rarity[i] = rarity(i);
            personal[i] = weights.personal().get(i);
            rare[i] = new boolean[beside.rows(i)];
            for (int row = 0; row < rare[i].length; row++) {
                rare[i][row] = weights.countsRarity(i, row);
            }
        }
    }

    private double[][] bits(Weights.Odds odds) {
        double[][] bits = new double[pattern.length][];
        for (int i = 0; i < bits.length; i++) {
            bits[i] = new double[odds.m()[i].length];
            for (int cell = 0; cell < bits[i].length; cell++) {
                bits[i][cell] = odds.bits(i, cell);
            }
        }
        return bits;
    }

    private double[] rarity(int attribute) {
        double[] known = new double[Weights.STEPS];
        for (int step = 0; step < known.length; step++) {
            known[step] = weights.rarityOf(attribute, step);
        }
        return known;
    }

    /** The weight of two records being one person, in bits. */
    public double weigh(int one, int other) {
        compare(one, other);
        return Math.min(stranger, mate);
    }

    /** The chance that two records are neither one person nor of one household, whatever one attribute says. */
    double strangers(int one, int other, int without) {
        comparer.compare(one, other, pattern);
        byte level = pattern[without];
        pattern[without] = Comparer.MISSING;
        weighPattern(one);
        pattern[without] = level;
        double match = Math.pow(2, stranger);
        double household = weights.hasHouseholds() ? Math.pow(2, stranger - mate) : 0;
        return 1 / (1 + match + household);
    }

    /** The level in which the pair that was weighed last agrees, {@link Comparer#MISSING} for none. */
    int level(int attribute) {
        return pattern[attribute];
    }

    private void compare(int one, int other) {
        comparer.compare(one, other, pattern);
        weighPattern(one);
    }

    private void weighPattern(int one) {
        stranger = weights.strangers().start();
        mate = weights.mates().start();
        for (int i = 0; i < pattern.length; i++) {
            int level = pattern[i];
            if (level >= 0) {
                int row = row(i);
                int cell = row * counts[i] + level;
                stranger += strangerBits[i][cell];
                mate += mateBits[i][cell];
                if (level == 0 && rare[i][row]) {
                    double bits = rare(i, one);
                    stranger += bits;
                    mate += personal[i] ? bits : 0;
                }
            }
        }
    }

    /** As {@link Beside#row} says, for every pair. */
    private int row(int attribute) {
        int[] with = others[attribute];
        int row = with.length == 0 ? 0 : Beside.AGREES;
        for (int other : with) {
            if (pattern[other] < 0) {
                return 0;
            }
            if (pattern[other] == counts[other] - 1) {
                row = Beside.DIFFERS;
            }
        }
        return row;
    }

    private double rare(int attribute, int record) {
        int position = positions[attribute];
        return rarity[attribute][Weights.step(table.dictionary(position).count(table.code(position, record)))];
    }

    /** The judgement of a pair line by line, against what speaks most against it. */
    public List<Weights.LedgerEntry> ledger(int one, int other) {
        comparer.compare(one, other, pattern);
        List<Weights.LedgerEntry> strangers = weights.ledger(table, one, pattern, weights.strangers());
        List<Weights.LedgerEntry> mates = weights.ledger(table, one, pattern, weights.mates());
        return sum(mates) < sum(strangers) ? mates : strangers;
    }

    private static double sum(List<Weights.LedgerEntry> ledger) {
        return ledger.stream().mapToDouble(Weights.LedgerEntry::bits).sum();
    }
}

package remitto.core.identity.evidence;

import java.util.List;
import remitto.core.identity.compare.Comparer;
import remitto.core.identity.record.RecordTable;
import remitto.core.identity.tidy.Nicknames;

/** Weighs pairs of records. Used by one thread. */
public final class Scorer {
    private final RecordTable table;
    private final Weights weights;
    private final Comparer comparer;
    private final byte[] pattern;
    private final double[][] rarity;
    private final int[] positions;
    private final double[][] strangerBits;
    private final double[][] mateBits;

    public Scorer(RecordTable table, Weights weights, Nicknames nicknames) {
        this.table = table;
        this.weights = weights;
        this.comparer = new Comparer(table, weights.levels(), nicknames);
        int attributes = weights.levels().size();
        this.pattern = new byte[attributes];
        this.positions = weights.levels().stream()
                .mapToInt(one -> table.position(one.attribute()))
                .toArray();
        this.strangerBits = bits(weights.strangers());
        this.mateBits = bits(weights.mates());
        this.rarity = new double[attributes][];
        for (int i = 0; i < attributes; i++) {
            rarity[i] = rarity(i);
        }
    }

    private double[][] bits(Weights.Odds odds) {
        double[][] bits = new double[pattern.length][];
        for (int i = 0; i < bits.length; i++) {
            bits[i] = new double[weights.levels().get(i).count()];
            for (int level = 0; level < bits[i].length; level++) {
                bits[i][level] = odds.bits(i, level);
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
        comparer.compare(one, other, pattern);
        double stranger = weights.strangers().start();
        double mate = weights.mates().start();
        for (int i = 0; i < pattern.length; i++) {
            int level = pattern[i];
            if (level >= 0) {
                stranger += strangerBits[i][level];
                mate += mateBits[i][level];
                if (level == 0 && weights.levels().get(i).rare()) {
                    double rare = rare(i, one);
                    stranger += rare;
                    mate += weights.personal().get(i) ? rare : 0;
                }
            }
        }
        return Math.min(stranger, mate);
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

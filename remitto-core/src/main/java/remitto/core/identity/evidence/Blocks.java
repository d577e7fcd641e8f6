package remitto.core.identity.evidence;

import java.util.ArrayList;
import java.util.Arrays;
import java.util.List;
import remitto.core.identity.record.Dictionary;
import remitto.core.identity.record.RecordTable;

/**
 * The records that agree in a key, together. A block that is too large is split by further attributes; records that lack
 * those, or agree in all of them, are not compared by this key, and that is counted. Safe to share between threads.
 */
public final class Blocks {
    private final BlockKey key;
    private final int[] block;
    private final byte[] splits;
    private final List<String> further;
    private final long[] sorted;
    private final long pairs;
    private final long leftOut;

    private Blocks(
            BlockKey key, int[] block, byte[] splits, List<String> further, long[] sorted, long pairs, long leftOut) {
        this.key = key;
        this.block = block;
        this.splits = splits;
        this.further = List.copyOf(further);
        this.sorted = sorted;
        this.pairs = pairs;
        this.leftOut = leftOut;
    }

    /**
     * @param most records of a block
     * @param further attributes that split a block that is larger, in their order
     */
    public static Blocks of(RecordTable table, BlockKey key, int most, List<String> further) {
        int[] block = new int[table.size()];
        Arrays.fill(block, 1);
        int[] either = new int[table.size()];
        Arrays.fill(either, 1);
        for (BlockKey.Part part : key.parts()) {
            int[] cuts = cuts(table, part);
            int position = table.position(part.attribute());
            for (int record = 0; record < block.length; record++) {
                int cut = cuts[table.code(position, record)];
                if (part.cut() == BlockKey.Cut.EITHER_ORDER) {
                    either[record] = added(either[record], cut);
                } else {
                    block[record] = mixed(block[record], cut);
                }
            }
        }
        if (key.parts().stream().anyMatch(part -> part.cut() == BlockKey.Cut.EITHER_ORDER)) {
            for (int record = 0; record < block.length; record++) {
                block[record] = mixed(block[record], either[record]);
            }
        }
        byte[] splits = new byte[table.size()];
        long all = pairs(sorted(block));
        for (int round = 0; ; round++) {
            long[] sorted = sorted(block);
            List<int[]> large = large(sorted, most);
            if (large.isEmpty()) {
                long pairs = pairs(sorted);
                return new Blocks(key, block, splits, further, sorted, pairs, all - pairs);
            }
            boolean more = round < further.size();
            int position = more ? table.position(further.get(round)) : 0;
            int[] cuts = more ? cuts(table, BlockKey.whole(further.get(round))) : new int[0];
            for (int[] run : large) {
                for (int i = run[0]; i < run[1]; i++) {
                    int record = (int) sorted[i];
                    block[record] = more ? mixed(block[record], cuts[table.code(position, record)]) : 0;
                    splits[record]++;
                }
            }
        }
    }

    /** By code of a value, the number of what is cut out of it; 0 for nothing. */
    private static int[] cuts(RecordTable table, BlockKey.Part part) {
        Dictionary dictionary = table.dictionary(table.position(part.attribute()));
        int[] cuts = new int[dictionary.size()];
        for (int code = 1; code < cuts.length; code++) {
            String cut = part.cut().of(dictionary.value(code));
            cuts[code] = cut.isEmpty() ? 0 : spread(cut);
        }
        return cuts;
    }

    private static int spread(String cut) {
        int hash = 17;
        for (int i = 0; i < cut.length(); i++) {
            hash = hash * 0x01000193 ^ cut.charAt(i);
        }
        return hash == 0 ? 1 : hash;
    }

    private static int mixed(int block, int part) {
        if (block == 0 || part == 0) {
            return 0;
        }
        long mixed = (block * 0x9E3779B97F4A7C15L ^ part) * 0xBF58476D1CE4E5B9L;
        int hash = (int) (mixed >>> 31);
        return hash == 0 ? 1 : hash;
    }

    /** The same in whichever order. */
    private static int added(int either, int part) {
        if (either == 0 || part == 0) {
            return 0;
        }
        int sum = either + mixed(1, part);
        return sum == 0 ? 1 : sum;
    }

    private static long[] sorted(int[] block) {
        int blocked = 0;
        for (int one : block) {
            blocked += one == 0 ? 0 : 1;
        }
        long[] sorted = new long[blocked];
        int next = 0;
        for (int record = 0; record < block.length; record++) {
            if (block[record] != 0) {
                sorted[next++] = ((long) block[record] << 32) | record;
            }
        }
        Arrays.parallelSort(sorted);
        return sorted;
    }

    private static List<int[]> large(long[] sorted, int most) {
        List<int[]> large = new ArrayList<>();
        each(sorted, 0, sorted.length, (from, to) -> {
            if (to - from > most) {
                large.add(new int[] {from, to});
            }
        });
        return large;
    }

    private static long pairs(long[] sorted) {
        long[] pairs = new long[1];
        each(sorted, 0, sorted.length, (from, to) -> pairs[0] += (long) (to - from) * (to - from - 1) / 2);
        return pairs[0];
    }

    private interface Run {
        void take(int from, int to);
    }

    private static void each(long[] sorted, int begin, int end, Run sink) {
        int from = begin;
        while (from < end) {
            int to = from + 1;
            while (to < sorted.length && sorted[to] >> 32 == sorted[from] >> 32) {
                to++;
            }
            sink.take(from, to);
            from = to;
        }
    }

    /** Takes a pair of records, the lower number first. */
    public interface Pairs {
        void take(int one, int other);
    }

    /** Pieces that can be gone through beside each other. */
    public int pieces() {
        return Math.max(1, sorted.length / 20_000);
    }

    /** The pairs of a piece, from 0. */
    public void pairs(int piece, Pairs sink) {
        int begin = begin(piece);
        int end = begin(piece + 1);
        each(sorted, begin, end, (from, to) -> {
            for (int i = from; i < to; i++) {
                for (int j = i + 1; j < to; j++) {
                    sink.take((int) sorted[i], (int) sorted[j]);
                }
            }
        });
    }

    /** Where a piece begins: never in the middle of a block. */
    private int begin(int piece) {
        int at = (int) ((long) sorted.length * piece / pieces());
        while (at > 0 && at < sorted.length && sorted[at] >> 32 == sorted[at - 1] >> 32) {
            at++;
        }
        return Math.min(at, sorted.length);
    }

    /** True when the two are compared by this key. */
    public boolean together(int one, int other) {
        return block[one] != 0 && block[one] == block[other];
    }

    /** The number of a record's block, by what its records agree in; 0 when it is in none. Does not depend on other records' order. */
    public int block(int record) {
        return block[record];
    }

    /** How often a record's block was split, by the first so many of {@link #further}. */
    int splits(int record) {
        return splits[record];
    }

    /** Attributes that split a block that is too large, in their order. */
    List<String> further() {
        return further;
    }

    public BlockKey key() {
        return key;
    }

    /** Pairs that are compared by this key, some of them perhaps by others too. */
    public long pairs() {
        return pairs;
    }

    /** Pairs that agree in the key and are not compared, since their block was too large. */
    public long leftOut() {
        return leftOut;
    }
}

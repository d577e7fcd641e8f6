package remitto.core.identity.evidence;

import java.util.Arrays;
import java.util.List;
import java.util.SplittableRandom;
import remitto.core.identity.record.RecordTable;

/** Pairs of records that have the same values of some attributes, each as likely to be drawn as another. */
final class Sharing {
    /** Records by their values, those of the same beside each other. */
    private final int[] records;

    private final int[] begins;
    /** By run of records, pairs of it or one before it. */
    private final long[] pairs;

    private Sharing(int[] records, int[] begins, long[] pairs) {
        this.records = records;
        this.begins = begins;
        this.pairs = pairs;
    }

    static Sharing of(RecordTable table, List<Integer> attributes) {
        long[] sorted = new long[table.size()];
        int size = 0;
        for (int record = 0; record < table.size(); record++) {
            int values = values(table, attributes, record);
            if (values != 0) {
                sorted[size++] = ((long) values << 32) | record;
            }
        }
        Arrays.sort(sorted, 0, size);
        int[] records = new int[size];
        int[] begins = new int[size + 1];
        long[] pairs = new long[size];
        int runs = 0;
        long sum = 0;
        for (int from = 0; from < size; runs++) {
            int to = from;
            while (to < size && sorted[to] >> 32 == sorted[from] >> 32) {
                records[to] = (int) sorted[to];
                to++;
            }
            sum += (long) (to - from) * (to - from - 1) / 2;
            begins[runs] = from;
            pairs[runs] = sum;
            from = to;
        }
        begins[runs] = size;
        return new Sharing(records, Arrays.copyOf(begins, runs + 1), Arrays.copyOf(pairs, runs));
    }

    /** A number that the values of a record are told by; 0 when one is missing. */
    private static int values(RecordTable table, List<Integer> attributes, int record) {
        int values = 1;
        for (int attribute : attributes) {
            int code = table.code(attribute, record);
            if (code == 0) {
                return 0;
            }
            values = values * 0x01000193 + code;
        }
        return values == 0 ? 1 : values;
    }

    long pairs() {
        return pairs.length == 0 ? 0 : pairs[pairs.length - 1];
    }

    void draw(SplittableRandom random, Blocks.Pairs sink) {
        long wanted = random.nextLong(pairs()) + 1;
        int found = Arrays.binarySearch(pairs, wanted);
        int run = found >= 0 ? found : -found - 1;
        while (run > 0 && pairs[run - 1] >= wanted) {
            run--;
        }
        int count = begins[run + 1] - begins[run];
        int one = random.nextInt(count);
        int other = random.nextInt(count - 1);
        sink.take(records[begins[run] + one], records[begins[run] + (other >= one ? other + 1 : other)]);
    }
}

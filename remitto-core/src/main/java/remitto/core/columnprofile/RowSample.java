package remitto.core.columnprofile;

import java.util.ArrayList;
import java.util.List;
import java.util.SplittableRandom;
import org.jspecify.annotations.Nullable;

/**
 * A random sample of rows, of which all are equally likely to be in it: reservoir sampling by Algorithm L, which passes over rows
 * without drawing a number for each (Kim-Hung Li, "Reservoir-Sampling Algorithms of Time Complexity O(n(1+log(N/n)))", ACM
 * Transactions on Mathematical Software 20(4), 1994). The same rows in the same order give the same sample.
 */
final class RowSample {
    private final int size;
    private final List<@Nullable String[]> rows = new ArrayList<>();
    private final SplittableRandom random = new SplittableRandom(20_260_101);
    private long seen;
    private long next;
    private double weight = 1;

    RowSample(int size) {
        this.size = size;
    }

    void see(@Nullable String[] cells) {
        if (rows.size() < size) {
            rows.add(LongTexts.bounded(cells));
            if (rows.size() == size) {
                next = seen;
                advance();
            }
        } else if (seen == next) {
            rows.set(random.nextInt(size), LongTexts.bounded(cells));
            advance();
        }
        seen++;
    }

    private void advance() {
        weight *= Math.exp(Math.log(unit()) / size);
        next += (long) Math.floor(Math.log(unit()) / Math.log1p(-weight)) + 1;
    }

    /** Between 0 and 1, neither of them. */
    private double unit() {
        double drawn = random.nextDouble();
        return drawn == 0 ? Double.MIN_VALUE : drawn;
    }

    List<@Nullable String[]> rows() {
        return rows;
    }

    /** How many rows one of the sample stands for. */
    double scale() {
        return rows.isEmpty() ? 1 : (double) seen / rows.size();
    }
}

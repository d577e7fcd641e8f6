package remitto.core.columnprofile;

import java.util.ArrayList;
import java.util.Arrays;
import java.util.List;
import remitto.core.dataset.ColumnType;

/**
 * Ranges of equal width over a sample. What lies beyond the first and the last hundredth is counted in the outermost ranges, so that a
 * single far value does not make all others one bar.
 */
final class Histogram {
    private static final int BINS = 12;
    private static final double TAIL = 0.01;

    private Histogram() {}

    /**
     * @param places of the sample, in any order
     * @param scale rows that one of the sample stands for
     * @param least of all rows, and {@code greatest}
     */
    static List<HistogramBin> of(ColumnType type, double[] places, double scale, double least, double greatest) {
        if (places.length == 0) {
            return List.of();
        }
        double[] sorted = places.clone();
        Arrays.sort(sorted);
        double from = sorted[(int) (sorted.length * TAIL)];
        double to = sorted[(int) Math.min(sorted.length - 1.0, Math.ceil(sorted.length * (1 - TAIL)))];
        int bins = bins(type, to - from);
        long[] counts = new long[bins];
        for (double place : sorted) {
            int at = bins == 1 ? 0 : (int) Math.floor((place - from) / (to - from) * bins);
            counts[Math.max(0, Math.min(bins - 1, at))]++;
        }
        List<HistogramBin> histogram = new ArrayList<>();
        for (int i = 0; i < bins; i++) {
            double begins = i == 0 ? least : from + (to - from) * i / bins;
            double ends = i == bins - 1 ? greatest : from + (to - from) * (i + 1) / bins;
            histogram.add(
                    new HistogramBin(Scale.text(type, begins), Scale.text(type, ends), Math.round(counts[i] * scale)));
        }
        return histogram;
    }

    /** Of what is counted in wholes, no more ranges than there are wholes between. */
    private static int bins(ColumnType type, double width) {
        if (width <= 0) {
            return 1;
        }
        boolean wholes = type == ColumnType.INTEGER || type == ColumnType.DATE;
        return wholes ? (int) Math.min(BINS, Math.max(1, width)) : BINS;
    }
}

package remitto.core.columnprofile;

import java.util.ArrayList;
import java.util.List;
import org.jspecify.annotations.Nullable;
import remitto.core.dataset.Column;

/**
 * Sees every row of a dataset that is read from end to end, and tells afterwards what its columns held. Its memory does not grow with the
 * rows. Not safe to share between threads.
 */
public final class Profiler {
    private static final int SAMPLED = 5_000;
    private static final int SAMPLED_CELLS = 500_000;

    private final List<ColumnTally> tallies = new ArrayList<>();
    private final RowSample sample;
    private long rows;

    /** @param columns in the order in which cells come */
    public Profiler(List<Column> columns) {
        sample = new RowSample(Math.max(1, Math.min(SAMPLED, SAMPLED_CELLS / Math.max(1, columns.size()))));
        for (int at = 0; at < columns.size(); at++) {
            tallies.add(new ColumnTally(columns.get(at), at, columns.size()));
        }
    }

    /** @param cells of one row, which are not kept */
    public void see(@Nullable String[] cells) {
        rows++;
        for (ColumnTally tally : tallies) {
            tally.see(cells);
        }
        sample.see(cells);
    }

    public ReadProfile profile() {
        return new ReadProfile(
                rows, tallies.stream().map(tally -> tally.profile(sample)).toList());
    }
}

package remitto.server.run;

import java.util.List;
import org.roaringbitmap.RoaringBitmap;
import remitto.core.run.RunCounts;

/**
 * A manifest that was written down.
 *
 * @param missing bound records that the dataset no longer holds
 * @param adopted records found there and bound
 * @param leftOut records left out without a line, since nothing of theirs changed
 * @param unexpected expectations of the dataset that it does not meet and that stop routes, a sentence each
 */
public record Prepared(
        RunCounts counts,
        long knownBefore,
        long missing,
        long adopted,
        RoaringBitmap unchanged,
        RoaringBitmap leftOut,
        List<String> unexpected) {
    public Prepared {
        unexpected = List.copyOf(unexpected);
    }

    /** The same with what the dataset does not meet. */
    public Prepared unexpected(List<String> sentences) {
        return new Prepared(counts, knownBefore, missing, adopted, unchanged, leftOut, sentences);
    }
}

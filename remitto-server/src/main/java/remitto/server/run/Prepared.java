package remitto.server.run;

import org.roaringbitmap.RoaringBitmap;
import remitto.core.run.RunCounts;

/**
 * A manifest that was written down.
 *
 * @param missing bound records that the dataset no longer holds
 * @param adopted records found there and bound
 * @param leftOut records left out without a line, since nothing of theirs changed
 */
public record Prepared(
        RunCounts counts,
        long knownBefore,
        long missing,
        long adopted,
        RoaringBitmap unchanged,
        RoaringBitmap leftOut) {}

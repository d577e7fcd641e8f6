package remitto.core.run;

/**
 * Counts of a run. {@code read} and {@code leaving} together always equal the sum of the verdicts.
 *
 * @param leaving records that left the dataset and have a line of their own
 */
public record RunCounts(
        long read, long leaving, long added, long changed, long removed, long unchanged, long held, long leftOut) {
    public RunCounts {
        if (read + leaving != added + changed + removed + unchanged + held + leftOut) {
            throw new IllegalArgumentException("read " + read + " + leaving " + leaving + " is not added " + added
                    + " + changed " + changed + " + removed " + removed + " + unchanged " + unchanged + " + held "
                    + held + " + left out " + leftOut);
        }
    }

    /** Lines that go. */
    public long moving() {
        return added + changed + removed;
    }
}

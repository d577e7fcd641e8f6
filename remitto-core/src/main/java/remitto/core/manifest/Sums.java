package remitto.core.manifest;

/** Counts of a run. {@code read} always equals the sum of the others but {@code removed}. */
public record Sums(long read, long added, long changed, long removed, long unchanged, long held, long leftOut) {
    public Sums {
        if (read != added + changed + unchanged + held + leftOut) {
            throw new IllegalArgumentException("read " + read + " is not added " + added + " + changed " + changed
                    + " + unchanged " + unchanged + " + held " + held + " + left out " + leftOut);
        }
    }
}

package remitto.connect.source;

import org.jspecify.annotations.Nullable;

/** Takes rows one at a time; the array is reused for the next row. */
@FunctionalInterface
public interface RowSink {
    /** @return false to stop reading */
    boolean row(@Nullable String[] cells);
}

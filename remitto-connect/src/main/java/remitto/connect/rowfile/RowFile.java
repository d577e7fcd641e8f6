package remitto.connect.rowfile;

import java.io.IOException;
import java.util.List;
import org.jspecify.annotations.Nullable;

/** The records of a file, one after the other. Not safe to share between threads. */
public interface RowFile extends AutoCloseable {
    /**
     * A record of a file.
     *
     * @param line at which it begins, from 1
     * @param cells of the wanted columns in their order; {@code null} without a value. The array is used again for the next record
     * @param problem why it is malformed; blank if it is not
     * @param text of a malformed one as it stands in the file, perhaps cut
     */
    record FileRecord(long line, @Nullable String[] cells, String problem, String text) {}

    /** @return {@code null} at the end */
    @Nullable
    FileRecord next() throws IOException;

    /** The record that {@code next} gave last, as it stands in the file or close to it, to be held; perhaps cut. */
    String text();

    /** Lets go of what is kept beside the bytes of the file, which whoever opened them closes. */
    @Override
    default void close() {
        // nothing is
    }

    /** Names of columns that were not wanted, seen so far; at most 100. */
    List<String> others();
}

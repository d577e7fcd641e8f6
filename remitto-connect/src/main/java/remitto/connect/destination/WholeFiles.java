package remitto.connect.destination;

import java.time.Instant;
import java.util.List;
import java.util.Map;
import remitto.core.file.FileLayout;
import remitto.core.manifest.Verdict;
import remitto.core.value.Value;

/** A destination that takes all that a run sends in one file. */
public interface WholeFiles {
    FileLayout layout(String object);

    /** @param number of the file within its run, from 1 */
    record FileRequest(String object, String route, long runId, Instant began, int number) {}

    /**
     * A row.
     *
     * @param verdict what becomes of it
     * @param values by column; what is missing is empty
     */
    record FileRow(Verdict verdict, Map<String, Value> values) {}

    /** Hands rows over, one after the other. */
    @FunctionalInterface
    interface Rows {
        void each(java.util.function.Consumer<FileRow> sink);
    }

    /**
     * A file as it lies there.
     *
     * @param path from the destination's own folder
     * @param sha256 of its bytes, in hexadecimal
     */
    record DeliveredFile(String path, long rows, long bytes, String sha256) {}

    /** Why a row cannot be spelled in the file's encoding; empty if it can. */
    List<String> unspellable(String object, FileRow row);

    /**
     * Writes the file under another name and gives it its own at the end, so that nobody takes half of it. One of the same name
     * is replaced.
     *
     * @throws DestinationProblem if it cannot be put there; then it is not there, or as it was before
     */
    DeliveredFile deliver(FileRequest request, Rows rows);
}

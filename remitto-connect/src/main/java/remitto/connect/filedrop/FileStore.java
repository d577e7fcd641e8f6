package remitto.connect.filedrop;

import java.io.IOException;
import java.io.InputStream;
import java.util.List;
import remitto.core.fileset.ListedFile;

/**
 * A place that files are read from. Paths are from the place's own folder, with slashes. Whatever fails, fails with a {@link
 * remitto.connect.source.SourceProblem}.
 */
public interface FileStore {
    /** The folder beside a file that files go to after they were read. */
    String ARCHIVE = "read";

    /** A sentence about where it is and what may be done there. */
    String check();

    /**
     * Every file below its folder, in no order. Links to other folders are not followed.
     *
     * @throws remitto.connect.source.SourceProblem if there are more than a file set can be made of
     */
    List<ListedFile> list();

    /** Reads bytes of a file. */
    @FunctionalInterface
    interface Use<T> {
        T of(InputStream bytes) throws IOException;
    }

    /**
     * Opens a file from its beginning, and closes it after it was used.
     *
     * @throws remitto.connect.source.SourceProblem if it is not there, or not readable; what {@code use} throws goes on as it is
     */
    <T> T read(String path, Use<T> use) throws IOException;

    /** Puts a file into the folder of files that were read. One of that name that is there already is replaced. */
    void archive(String path);

    void delete(String path);

    /** Whether a file that is listed is never written to any more, so that nobody needs to wait for its end. */
    default boolean isWhole() {
        return false;
    }

    /** Where a file goes to when it is archived. */
    static String archived(String path) {
        int slash = path.lastIndexOf('/');
        return path.substring(0, slash + 1) + ARCHIVE + "/" + path.substring(slash + 1);
    }
}

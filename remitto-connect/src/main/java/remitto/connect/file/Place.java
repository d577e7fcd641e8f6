package remitto.connect.file;

import java.io.IOException;
import java.io.OutputStream;

/** Where files are put. Paths are from the place's own folder, with slashes. */
interface Place {
    /** Writes bytes of a file. */
    interface Content {
        void to(OutputStream out) throws IOException;
    }

    /**
     * A sentence about where that is.
     *
     * @throws remitto.connect.destination.DestinationProblem if it cannot be reached or written to
     */
    String check();

    /** Puts a file there whole: whoever looks sees none, the one before, or all of it. Folders are made. */
    void put(String path, Content content);
}

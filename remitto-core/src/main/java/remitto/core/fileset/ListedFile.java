package remitto.core.fileset;

import java.time.Instant;
import java.util.Comparator;

/**
 * A file as its place lists it.
 *
 * @param path below the source's folder, with slashes
 * @param size in bytes
 * @param tag what the place itself says about the content, such as an entity tag; blank where it says nothing
 */
public record ListedFile(String path, long size, Instant modifiedAt, String tag) {
    /** From the oldest to the newest; equally old ones by name. */
    public static final Comparator<ListedFile> BY_AGE =
            Comparator.comparing(ListedFile::modifiedAt).thenComparing(ListedFile::path);

    /** Whether the place says nothing of a change. */
    public boolean looksLike(ListedFile other) {
        return path.equals(other.path)
                && size == other.size
                && modifiedAt.equals(other.modifiedAt)
                && tag.equals(other.tag);
    }
}

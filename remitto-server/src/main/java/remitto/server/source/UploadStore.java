package remitto.server.source;

import java.io.IOException;
import java.io.UncheckedIOException;
import java.nio.ByteBuffer;
import java.nio.channels.FileChannel;
import java.nio.file.Files;
import java.nio.file.Path;
import java.nio.file.StandardCopyOption;
import java.nio.file.StandardOpenOption;
import java.nio.file.attribute.PosixFilePermissions;
import java.util.List;
import remitto.connect.filedrop.FileStore;
import remitto.connect.filedrop.FolderStore;
import remitto.core.fileset.ListedFile;
import remitto.server.platform.Problem;

/** Files that were uploaded to a source. One that is not there whole yet has another name, and is not listed. */
final class UploadStore implements FileStore {
    /** Bytes of a file. */
    static final long LARGEST = 8L << 30;

    private static final String PART = ".part";

    private final Path folder;

    UploadStore(Path uploads, long source) {
        this.folder = uploads.resolve(Long.toString(source)).toAbsolutePath().normalize();
        try {
            Files.createDirectories(
                    folder, PosixFilePermissions.asFileAttribute(PosixFilePermissions.fromString("rwx------")));
        } catch (IOException e) {
            throw new UncheckedIOException("The folder of uploads cannot be made", e);
        }
    }

    private FolderStore store() {
        return new FolderStore(folder, "");
    }

    @Override
    public String check() {
        store().check();
        return "Files uploaded here";
    }

    @Override
    public List<ListedFile> list() {
        return store().list().stream().filter(one -> !one.path().endsWith(PART)).toList();
    }

    @Override
    public <T> T read(String path, Use<T> use) throws IOException {
        return store().read(path, use);
    }

    @Override
    public void archive(String path) {
        store().archive(path);
    }

    @Override
    public void delete(String path) {
        store().delete(path);
    }

    @Override
    public boolean isWhole() {
        return true;
    }

    private static String checked(String name) {
        if (name.isBlank()
                || name.length() > 200
                || name.startsWith(".")
                || name.endsWith(PART)
                || name.chars().anyMatch(c -> c == '/' || c == '\\' || c < ' ')) {
            throw Problem.invalid("\"" + name + "\" is no name of a file that can be uploaded.");
        }
        return name;
    }

    /** How many bytes of an upload have arrived; 0 before it begins. */
    long arrived(String name) {
        Path part = folder.resolve(checked(name) + PART);
        try {
            return Files.exists(part) ? Files.size(part) : 0;
        } catch (IOException e) {
            throw new UncheckedIOException(e);
        }
    }

    /**
     * Writes a part of a file, which is on disk before this returns.
     *
     * @param from where in the file the part begins: where what has arrived ends, or 0 to begin anew
     * @return how many bytes have arrived
     */
    long write(String name, long from, byte[] some) throws IOException {
        Path part = folder.resolve(checked(name) + PART);
        long arrived = arrived(name);
        if (from != 0 && from != arrived) {
            throw Problem.conflict(arrived + " bytes of " + name + " have arrived. Go on from there, or begin anew.");
        }
        if (from + some.length > LARGEST) {
            throw Problem.invalid("A file that is uploaded has at most 8 GB.");
        }
        try (FileChannel channel = FileChannel.open(part, StandardOpenOption.CREATE, StandardOpenOption.WRITE)) {
            channel.truncate(from);
            channel.position(from);
            ByteBuffer buffer = ByteBuffer.wrap(some);
            while (buffer.hasRemaining()) {
                channel.write(buffer);
            }
            channel.force(true);
        }
        return from + some.length;
    }

    /** Makes an upload the file of that name; one that is there already is replaced. */
    void finish(String name, long size) {
        Path part = folder.resolve(checked(name) + PART);
        if (!Files.exists(part) || arrived(name) != size) {
            throw Problem.conflict(arrived(name) + " of " + size + " bytes of " + name + " have arrived.");
        }
        try {
            Files.move(part, folder.resolve(name), StandardCopyOption.ATOMIC_MOVE, StandardCopyOption.REPLACE_EXISTING);
        } catch (IOException e) {
            throw new UncheckedIOException(e);
        }
    }
}

package remitto.connect.filedrop;

import java.io.IOException;
import java.io.InputStream;
import java.nio.file.AccessDeniedException;
import java.nio.file.FileVisitResult;
import java.nio.file.Files;
import java.nio.file.LinkOption;
import java.nio.file.NoSuchFileException;
import java.nio.file.Path;
import java.nio.file.SimpleFileVisitor;
import java.nio.file.StandardCopyOption;
import java.nio.file.attribute.BasicFileAttributes;
import java.time.temporal.ChronoUnit;
import java.util.ArrayList;
import java.util.List;
import remitto.connect.source.SourceProblem;
import remitto.connect.source.SourceProblem.Kind;
import remitto.core.fileset.ListedFile;

/** A folder of this machine, below the one that the server may read from. Links within it are neither listed nor followed. */
public final class FolderStore implements FileStore {
    /** More files than this are no drop, but an archive. */
    static final int MOST_FILES = 50_000;

    private final Path folder;

    /**
     * @param inbox that the server may read from
     * @param address of a folder below it
     * @throws SourceProblem if the address leads out of the inbox
     */
    public FolderStore(Path inbox, String address) {
        Path root = inbox.toAbsolutePath().normalize();
        this.folder = root.resolve(address.strip()).normalize();
        if (!folder.startsWith(root)) {
            throw new SourceProblem(
                    Kind.ADDRESS_REFUSED,
                    "\"" + address + "\" is outside of the folder that Remitto may read from, which is " + root + ".");
        }
    }

    @Override
    public String check() {
        if (!Files.isDirectory(folder)) {
            throw new SourceProblem(
                    Kind.UNREACHABLE, "There is no folder " + folder + " on the machine that Remitto runs on.");
        }
        if (!Files.isReadable(folder)) {
            throw new SourceProblem(Kind.NOT_PERMITTED, "Remitto may not read the folder " + folder + ".");
        }
        return folder + " on this machine"
                + (Files.isWritable(folder) ? "" : "; files there cannot be archived or deleted after reading");
    }

    @Override
    public List<ListedFile> list() {
        check();
        List<ListedFile> files = new ArrayList<>();
        try {
            Files.walkFileTree(folder, new SimpleFileVisitor<>() {
                @Override
                public FileVisitResult visitFile(Path file, BasicFileAttributes attributes) {
                    if (attributes.isRegularFile()) {
                        files.add(listed(file, attributes));
                    }
                    if (files.size() > MOST_FILES) {
                        throw new SourceProblem(
                                Kind.ROWS_TOO_LARGE,
                                "There are more than 50,000 files below " + folder
                                        + ". Archive or delete files after reading, or choose a folder further down.");
                    }
                    return FileVisitResult.CONTINUE;
                }

                @Override
                public FileVisitResult visitFileFailed(Path file, IOException why) {
                    // One that went away, or that is nobody's business, is not among them.
                    return FileVisitResult.CONTINUE;
                }
            });
        } catch (IOException e) {
            throw problem("listed", e);
        }
        return files;
    }

    private ListedFile listed(Path file, BasicFileAttributes attributes) {
        return new ListedFile(
                folder.relativize(file).toString().replace('\\', '/'),
                attributes.size(),
                attributes.lastModifiedTime().toInstant().truncatedTo(ChronoUnit.MICROS),
                "");
    }

    @Override
    public <T> T read(String path, Use<T> use) throws IOException {
        Path file = file(path);
        InputStream bytes;
        try {
            bytes = Files.newInputStream(file, LinkOption.NOFOLLOW_LINKS);
        } catch (IOException e) {
            throw problem("read", e);
        }
        try (bytes) {
            return use.of(bytes);
        }
    }

    @Override
    public void archive(String path) {
        Path file = file(path);
        Path to = file(FileStore.archived(path));
        try {
            Files.createDirectories(to.getParent());
            Files.move(file, to, StandardCopyOption.REPLACE_EXISTING);
        } catch (IOException e) {
            throw problem("archived", e);
        }
    }

    @Override
    public void delete(String path) {
        try {
            Files.deleteIfExists(file(path));
        } catch (IOException e) {
            throw problem("deleted", e);
        }
    }

    /** Below the folder as it really lies, so that no link on the way leads out of it. */
    private Path file(String path) {
        Path file = folder.resolve(path).normalize();
        if (!file.startsWith(folder) || file.equals(folder)) {
            throw new SourceProblem(Kind.ADDRESS_REFUSED, "\"" + path + "\" is outside of the source's folder.");
        }
        try {
            Path above = file.getParent();
            while (above != null && !Files.exists(above, LinkOption.NOFOLLOW_LINKS)) {
                above = above.getParent();
            }
            if (above == null || !above.toRealPath().startsWith(folder.toRealPath())) {
                throw new SourceProblem(Kind.ADDRESS_REFUSED, "\"" + path + "\" leads out of the source's folder.");
            }
        } catch (IOException e) {
            throw problem("read", e);
        }
        return file;
    }

    private static SourceProblem problem(String what, IOException e) {
        if (e instanceof NoSuchFileException gone) {
            return new SourceProblem(Kind.NOT_OFFERED, gone.getFile() + " is gone.");
        }
        return e instanceof AccessDeniedException denied
                ? new SourceProblem(
                        Kind.NOT_PERMITTED,
                        denied.getFile() + " cannot be " + what + ": Remitto's user may not do that.")
                : new SourceProblem(Kind.UNREACHABLE, "The folder cannot be " + what + ": " + e.getMessage());
    }
}

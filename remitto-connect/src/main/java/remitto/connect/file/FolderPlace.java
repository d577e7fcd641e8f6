package remitto.connect.file;

import java.io.IOException;
import java.io.OutputStream;
import java.nio.channels.Channels;
import java.nio.file.Files;
import java.nio.file.Path;
import java.nio.file.StandardCopyOption;
import java.nio.file.StandardOpenOption;
import java.nio.file.attribute.FileAttribute;
import java.nio.file.attribute.PosixFilePermissions;
import java.util.Set;
import remitto.connect.destination.DestinationProblem;
import remitto.connect.destination.DestinationProblem.Kind;

/** A folder of this machine, below the one that the server may write to. What is put there is the server's user's alone, from its first byte. */
final class FolderPlace implements Place {
    private static final FileAttribute<?> OWN_FILE =
            PosixFilePermissions.asFileAttribute(PosixFilePermissions.fromString("rw-------"));
    private static final FileAttribute<?> OWN_FOLDER =
            PosixFilePermissions.asFileAttribute(PosixFilePermissions.fromString("rwx------"));

    private final Path folder;

    /**
     * @param outbox that the server may write to
     * @param address of a folder below it
     */
    FolderPlace(Path outbox, String address) {
        Path root = outbox.toAbsolutePath().normalize();
        this.folder = root.resolve(address.strip()).normalize();
        if (!folder.startsWith(root)) {
            throw new DestinationProblem(
                    Kind.REFUSED, "\"" + address + "\" is outside of the folder that Remitto may write to.");
        }
    }

    @Override
    public String check() {
        try {
            Files.createDirectories(folder, OWN_FOLDER);
            if (!Files.isWritable(folder)) {
                throw new DestinationProblem(Kind.REFUSED, folder + " cannot be written to.");
            }
            return "Files go to " + folder + " on this machine";
        } catch (IOException e) {
            throw problem(e);
        }
    }

    @Override
    public void put(String path, Content content) {
        Path file = folder.resolve(path).normalize();
        Path part = file.resolveSibling(file.getFileName() + ".part");
        try {
            Files.createDirectories(file.getParent(), OWN_FOLDER);
            Files.deleteIfExists(part);
            try (OutputStream out = Channels.newOutputStream(Files.newByteChannel(
                    part, Set.of(StandardOpenOption.CREATE_NEW, StandardOpenOption.WRITE), OWN_FILE))) {
                content.to(out);
            }
            try (var channel = java.nio.channels.FileChannel.open(part, StandardOpenOption.WRITE)) {
                channel.force(true);
            }
            Files.move(part, file, StandardCopyOption.ATOMIC_MOVE, StandardCopyOption.REPLACE_EXISTING);
        } catch (IOException e) {
            throw problem(e);
        }
    }

    private static DestinationProblem problem(IOException e) {
        return new DestinationProblem(Kind.UNREACHABLE, "The folder cannot be written to: " + e);
    }
}

package remitto.connect.file;

import java.io.IOException;
import java.io.OutputStream;
import java.nio.file.Files;
import java.nio.file.Path;
import java.nio.file.StandardCopyOption;
import java.nio.file.StandardOpenOption;
import remitto.connect.destination.DestinationProblem;
import remitto.connect.destination.DestinationProblem.Kind;

/** A folder of this machine, below the one that the server may write to. */
final class FolderPlace implements Place {
    private final Path folder;

    /** @param outbox that the server may write to, @param address of a folder below it */
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
            Files.createDirectories(folder);
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
            Files.createDirectories(file.getParent());
            try (OutputStream out = Files.newOutputStream(
                    part, StandardOpenOption.CREATE, StandardOpenOption.TRUNCATE_EXISTING, StandardOpenOption.WRITE)) {
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

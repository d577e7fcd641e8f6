package remitto.bench.crash;

import java.io.IOException;
import java.nio.ByteBuffer;
import java.nio.channels.FileChannel;
import java.nio.file.Files;
import java.nio.file.Path;
import java.nio.file.StandardOpenOption;

/** A file system of its own, in memory, that can be filled to the last byte. Needs the right to mount one. */
final class SmallDisk implements AutoCloseable {
    private static final int CHUNK = 1 << 20;

    private final Path folder;

    private SmallDisk(Path folder) {
        this.folder = folder;
    }

    /** @throws IllegalStateException if this user may not mount one */
    static SmallDisk at(Path folder, int megabytes) throws IOException, InterruptedException {
        Files.createDirectories(folder);
        int code = new ProcessBuilder(
                        "mount", "-t", "tmpfs", "-o", "size=" + megabytes + "m,mode=755", "tmpfs", folder.toString())
                .inheritIO()
                .start()
                .waitFor();
        if (code != 0) {
            throw new IllegalStateException(
                    "a small file system could not be mounted; run as root, or with --no-small-disk");
        }
        return new SmallDisk(folder);
    }

    /** Leaves no room. */
    void fill() throws IOException {
        try (FileChannel out = FileChannel.open(
                filler(), StandardOpenOption.CREATE, StandardOpenOption.WRITE, StandardOpenOption.APPEND)) {
            for (int size = CHUNK; size > 0; size /= 2) {
                fill(out, size);
            }
        }
    }

    private static void fill(FileChannel out, int size) {
        try {
            while (true) {
                out.write(ByteBuffer.allocate(size));
            }
        } catch (IOException full) {
            // There is room for none of this size any more, which is what was wanted.
        }
    }

    void free() throws IOException {
        Files.deleteIfExists(filler());
    }

    private Path filler() {
        return folder.resolve("filler");
    }

    @Override
    public void close() throws IOException {
        try {
            new ProcessBuilder("umount", "-l", folder.toString())
                    .inheritIO()
                    .start()
                    .waitFor();
        } catch (InterruptedException e) {
            Thread.currentThread().interrupt();
        }
    }
}

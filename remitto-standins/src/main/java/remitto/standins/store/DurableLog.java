package remitto.standins.store;

import java.io.IOException;
import java.io.RandomAccessFile;
import java.io.UncheckedIOException;
import java.nio.ByteBuffer;
import java.nio.channels.FileChannel;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.nio.file.StandardCopyOption;
import java.nio.file.StandardOpenOption;
import java.util.function.Consumer;
import tools.jackson.databind.JsonNode;
import tools.jackson.databind.ObjectMapper;

/**
 * Lines of JSON, each forced to disk before it counts, and replayed at the start. A line cut off by a crash is dropped.
 * Not safe to share between threads.
 */
public final class DurableLog implements AutoCloseable {
    private final ObjectMapper json;
    private final Path file;
    private final FileChannel channel;

    /** @param replay receives every line there is, in order */
    public DurableLog(Path file, ObjectMapper json, Consumer<JsonNode> replay) {
        this.json = json;
        this.file = file;
        try {
            Files.createDirectories(file.toAbsolutePath().getParent());
            long good = Files.exists(file) ? replay(file, replay) : 0;
            channel = FileChannel.open(file, StandardOpenOption.CREATE, StandardOpenOption.WRITE);
            channel.truncate(good);
            channel.position(good);
        } catch (IOException e) {
            throw new UncheckedIOException(e);
        }
    }

    public void append(JsonNode line) {
        note(line);
        try {
            channel.force(false);
        } catch (IOException e) {
            throw new UncheckedIOException(e);
        }
    }

    /** Outlives this process, but perhaps not the machine, and is faster for that. */
    public void note(JsonNode line) {
        byte[] bytes = (json.writeValueAsString(line) + "\n").getBytes(StandardCharsets.UTF_8);
        try {
            ByteBuffer buffer = ByteBuffer.wrap(bytes);
            while (buffer.hasRemaining()) {
                channel.write(buffer);
            }
        } catch (IOException e) {
            throw new UncheckedIOException(e);
        }
    }

    public void clear() {
        try {
            channel.truncate(0);
            channel.position(0);
            channel.force(true);
        } catch (IOException e) {
            throw new UncheckedIOException(e);
        }
    }

    /** Remembers every line there is now, in a file beside. */
    public void keep() {
        try {
            Files.copy(file, kept(), StandardCopyOption.REPLACE_EXISTING);
        } catch (IOException e) {
            throw new UncheckedIOException(e);
        }
    }

    /**
     * Is as it was when it was kept.
     *
     * @param replay receives every line of then, in order; without any when nothing was kept
     */
    public void back(Consumer<JsonNode> replay) {
        clear();
        try {
            if (Files.exists(kept())) {
                long good = replay(kept(), replay);
                try (FileChannel from = FileChannel.open(kept(), StandardOpenOption.READ)) {
                    channel.transferFrom(from, 0, good);
                }
                channel.position(good);
                channel.force(true);
            }
        } catch (IOException e) {
            throw new UncheckedIOException(e);
        }
    }

    private Path kept() {
        return file.resolveSibling(file.getFileName() + ".kept");
    }

    @Override
    public void close() {
        try {
            channel.close();
        } catch (IOException e) {
            throw new UncheckedIOException(e);
        }
    }

    private long replay(Path file, Consumer<JsonNode> replay) throws IOException {
        try (RandomAccessFile in = new RandomAccessFile(file.toFile(), "r")) {
            byte[] all = new byte[Math.toIntExact(in.length())];
            in.readFully(all);
            int start = 0;
            for (int i = 0; i < all.length; i++) {
                if (all[i] == '\n') {
                    replay.accept(json.readTree(new String(all, start, i - start, StandardCharsets.UTF_8)));
                    start = i + 1;
                }
            }
            return start;
        }
    }
}

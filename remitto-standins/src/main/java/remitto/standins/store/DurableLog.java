package remitto.standins.store;

import java.io.IOException;
import java.io.RandomAccessFile;
import java.io.UncheckedIOException;
import java.nio.ByteBuffer;
import java.nio.channels.FileChannel;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
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
    private final FileChannel channel;

    /** @param replay receives every line there is, in order */
    public DurableLog(Path file, ObjectMapper json, Consumer<JsonNode> replay) {
        this.json = json;
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

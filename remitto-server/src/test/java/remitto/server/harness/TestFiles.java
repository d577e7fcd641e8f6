package remitto.server.harness;

import java.io.IOException;
import java.io.UncheckedIOException;
import java.nio.charset.Charset;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.nio.file.attribute.FileTime;
import java.time.Instant;
import java.util.Arrays;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import org.springframework.core.env.Environment;
import tools.jackson.databind.JsonNode;

/** A folder that a server reads files from, and file sets over it. */
public final class TestFiles {
    private final TestServer server;
    private final TestUser editor;
    private final String folder;
    private final Path path;
    private final long source;
    private Instant written = Instant.parse("2020-01-01T00:00:00Z");

    /** Makes the folder, and connects it as a source of that name. */
    public TestFiles(TestServer server, TestUser editor, String folder) {
        this.server = server;
        this.editor = editor;
        this.folder = folder;
        this.path = Path.of(server.bean(Environment.class).getRequiredProperty("remitto.inbox"), folder);
        try {
            Files.createDirectories(path);
        } catch (IOException e) {
            throw new UncheckedIOException(e);
        }
        this.source = editor.post(
                        "/api/sources", Map.of("name", folder, "address", Map.of("kind", "folder", "folder", folder)))
                .ok()
                .get("id")
                .asLong();
    }

    public long source() {
        return source;
    }

    public Path path(String name) {
        return path.resolve(name);
    }

    /** Writes a file, a minute newer than the one before. */
    public void put(String name, String text) {
        put(name, text.getBytes(StandardCharsets.UTF_8));
    }

    public void put(String name, String text, String encoding) {
        put(name, text.getBytes(Charset.forName(encoding)));
    }

    public void put(String name, byte[] bytes) {
        written = written.plusSeconds(60);
        put(name, bytes, written);
    }

    public void put(String name, byte[] bytes, Instant modified) {
        try {
            Files.createDirectories(path.resolve(name).getParent());
            Files.write(path.resolve(name), bytes);
            Files.setLastModifiedTime(path.resolve(name), FileTime.from(modified));
        } catch (IOException e) {
            throw new UncheckedIOException(e);
        }
    }

    public void remove(String name) {
        try {
            Files.delete(path.resolve(name));
        } catch (IOException e) {
            throw new UncheckedIOException(e);
        }
    }

    /** @param columns each as {@code name TYPE}, or {@code name TYPE spelling} */
    public static Map<String, Object> definition(String pattern, Map<String, Object> several, String... columns) {
        Map<String, Object> definition = new HashMap<>();
        definition.put("pattern", pattern);
        definition.put(
                "format",
                Map.of(
                        "kind",
                        "delimited",
                        "delimiter",
                        ",",
                        "quote",
                        "\"",
                        "encoding",
                        "UTF-8",
                        "skippedLines",
                        0,
                        "header",
                        true));
        definition.put("columns", Arrays.stream(columns).map(TestFiles::column).toList());
        definition.put("zone", "UTC");
        definition.put("several", several);
        definition.put("afterReading", "LEAVE");
        definition.put("keepDays", 0);
        return definition;
    }

    private static Map<String, Object> column(String text) {
        List<String> parts = List.of(text.split(" ", 3));
        return Map.of(
                "name", parts.get(0),
                "from", parts.get(0),
                "type", parts.get(1),
                "spelling", parts.size() > 2 ? parts.get(2) : "");
    }

    public static final Map<String, Object> EACH_ADDS = Map.of("kind", "each-adds");
    public static final Map<String, Object> NEWEST_IS_WHOLE = Map.of("kind", "newest-is-whole");

    public Map<String, Object> draft(String table, Map<String, Object> definition, int basedOn) {
        return Map.of(
                "name", folder + " " + table,
                "sourceId", source,
                "table", table,
                "definition", definition,
                "basedOn", basedOn);
    }

    public long add(String table, Map<String, Object> definition) {
        return editor.post("/api/file-sets", draft(table, definition, 0))
                .ok()
                .get("id")
                .asLong();
    }

    /** Reads what is new, and gives what that came to. */
    public JsonNode read(long set) {
        JsonNode job = ended(set);
        if (!job.get("state").asString().equals("DONE")) {
            throw new AssertionError(job.toString());
        }
        return job.get("result");
    }

    /** The job of reading what is new, once it has ended. */
    public JsonNode ended(long set) {
        JsonNode job =
                editor.post("/api/file-sets/" + set + "/readings", Map.of()).ok();
        return Awaited.value(
                "the files to be read",
                () -> editor.get("/api/file-sets/readings/" + job.get("id").asLong())
                        .ok(),
                one -> !one.get("state").asString().equals("UNDER_WAY"));
    }

    /** What the login of datasets sees. */
    public String text(String sql) {
        return server.cluster().text(server.database(), sql);
    }

    /** Every file of a set as {@code path state rows held problem}, by path. */
    public List<String> log(long set) {
        return editor.get("/api/file-sets/" + set + "/files")
                .ok()
                .valueStream()
                .map(one -> (one.get("path").asString() + " " + one.get("state").asString() + " "
                                + one.get("rows").asLong() + " "
                                + one.get("held").asLong() + " "
                                + one.get("problem").asString())
                        .strip())
                .sorted()
                .toList();
    }
}

package remitto.connect.rowfile;

import java.io.IOException;
import java.io.Reader;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Map;
import java.util.Set;
import org.jspecify.annotations.Nullable;
import tools.jackson.databind.JsonNode;

/**
 * Objects of JSON (RFC 8259) as rows. An object within is columns of its own, with a full stop between the names; an array is kept as
 * JSON.
 */
abstract class JsonFile implements RowFile {
    private static final int KEPT = 100_000;

    final Reader in;
    private final Map<String, Integer> wanted = new HashMap<>();
    private final @Nullable String[] cells;
    private final Set<String> others = new LinkedHashSet<>();
    private String text = "";

    JsonFile(Reader in, List<String> wanted) {
        this.in = in;
        for (String name : wanted) {
            this.wanted.putIfAbsent(name, this.wanted.size());
        }
        this.cells = new String[wanted.size()];
    }

    FileRecord malformed(long line, String problem, String shown) {
        text = cut(shown);
        return new FileRecord(line, cells, problem, text);
    }

    FileRecord record(long line, JsonNode object) {
        java.util.Arrays.fill(cells, null);
        Map<String, String> values = JsonRecord.flat(object);
        values.forEach((name, value) -> {
            Integer at = wanted.get(name);
            if (at != null) {
                cells[at] = value;
            } else if (others.size() < 100) {
                others.add(name);
            }
        });
        text = cut(object.toString());
        return new FileRecord(line, cells, "", "");
    }

    static String cut(String shown) {
        return shown.length() > KEPT ? shown.substring(0, KEPT) : shown;
    }

    @Override
    public String text() {
        return text;
    }

    @Override
    public List<String> others() {
        return new ArrayList<>(others);
    }

    @Override
    public abstract @Nullable FileRecord next() throws IOException;
}

package remitto.connect.rowfile;

import java.io.BufferedReader;
import java.io.IOException;
import java.io.Reader;
import java.util.List;
import org.jspecify.annotations.Nullable;
import remitto.core.fileset.DelimitedText;
import tools.jackson.core.JacksonException;
import tools.jackson.databind.JsonNode;

/** One object on every line. Blank lines are no rows. */
final class JsonLinesFile extends JsonFile {
    private final BufferedReader lines;
    private long line;
    private boolean tooLong;

    JsonLinesFile(Reader in, List<String> wanted) {
        super(in, wanted);
        this.lines = new BufferedReader(in, 1 << 16);
    }

    @Override
    public @Nullable FileRecord next() throws IOException {
        while (true) {
            String one = line();
            if (one == null) {
                return null;
            }
            if (one.isBlank()) {
                continue;
            }
            if (tooLong) {
                return malformed(line, "The row is longer than 4,000,000 characters.", one);
            }
            try {
                JsonNode object = JsonRecord.one(one);
                return object.isObject() ? record(line, object) : malformed(line, "The row is no JSON object.", one);
            } catch (JacksonException e) {
                return malformed(line, JsonRecord.words(e), one);
            }
        }
    }

    /** Of an endless one the beginning alone is kept. */
    private @Nullable String line() throws IOException {
        StringBuilder one = new StringBuilder();
        tooLong = false;
        int c = lines.read();
        if (c < 0) {
            return null;
        }
        line++;
        while (c >= 0 && c != '\n') {
            if (one.length() < DelimitedText.LONGEST_RECORD) {
                one.append((char) c);
            } else {
                tooLong = true;
            }
            c = lines.read();
        }
        return one.toString();
    }
}

package remitto.connect.rowfile;

import java.io.IOException;
import java.io.Reader;
import java.util.List;
import org.jspecify.annotations.Nullable;
import tools.jackson.core.JacksonException;
import tools.jackson.core.JsonParser;
import tools.jackson.core.JsonToken;
import tools.jackson.databind.JsonNode;

/** One array of objects. What comes after a place that is no JSON cannot be told apart from it, so that the whole file is refused. */
final class JsonArrayFile extends JsonFile {
    private final JsonParser parser;

    JsonArrayFile(Reader in, List<String> wanted) {
        super(in, wanted);
        this.parser = JsonRecord.JSON.createParser(in);
        try {
            JsonToken first = parser.nextToken();
            if (first != null && first != JsonToken.START_ARRAY) {
                throw new FileFault("The file is no JSON array: it begins with " + first + ".");
            }
        } catch (JacksonException e) {
            throw fault(e);
        }
    }

    @Override
    public @Nullable FileRecord next() throws IOException {
        try {
            JsonToken token = parser.nextToken();
            if (token == null) {
                return null;
            }
            if (token == JsonToken.END_ARRAY) {
                if (parser.nextToken() != null) {
                    throw new FileFault("Something follows the JSON array in line "
                            + parser.currentTokenLocation().getLineNr() + ".");
                }
                return null;
            }
            long line = parser.currentTokenLocation().getLineNr();
            JsonNode one = JsonRecord.JSON.readTree(parser);
            return one.isObject() ? record(line, one) : malformed(line, "The row is no JSON object.", one.toString());
        } catch (JacksonException e) {
            throw fault(e);
        }
    }

    private static FileFault fault(JacksonException e) {
        String place = e.getLocation() == null
                ? ""
                : " in line " + e.getLocation().getLineNr() + ", column "
                        + e.getLocation().getColumnNr();
        return new FileFault("The file is not JSON" + place + ": "
                + String.valueOf(e.getOriginalMessage()).replaceAll("\\s+", " ") + ". Nothing of it was kept.");
    }
}

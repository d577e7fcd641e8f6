package remitto.server.house;

import static org.assertj.core.api.Assertions.assertThat;

import java.io.ByteArrayOutputStream;
import java.io.IOException;
import java.io.InputStream;
import java.nio.charset.StandardCharsets;
import java.util.List;
import java.util.regex.Pattern;
import java.util.zip.GZIPOutputStream;
import org.junit.jupiter.api.Test;

/** What a browser has to fetch before it shows anything. */
class FirstScriptTest {
    private static final int MOST_KILOBYTES = 350;
    private static final Pattern SCRIPT = Pattern.compile("(?:src|href)=\"\\./(assets/[^\"]+\\.js)\"");

    @Test
    void itIsSmall() throws IOException {
        String page = new String(read("index.html"), StandardCharsets.UTF_8);
        List<String> scripts =
                SCRIPT.matcher(page).results().map(found -> found.group(1)).toList();
        assertThat(scripts).isNotEmpty();
        int bytes = 0;
        for (String script : scripts) {
            bytes += compressed(read(script));
        }
        assertThat(bytes / 1_000).as("kilobytes of " + scripts).isBetween(50, MOST_KILOBYTES);
    }

    private static byte[] read(String name) throws IOException {
        try (InputStream in = FirstScriptTest.class.getResourceAsStream("/static/" + name)) {
            assertThat(in).as(name).isNotNull();
            return in.readAllBytes();
        }
    }

    private static int compressed(byte[] bytes) throws IOException {
        ByteArrayOutputStream out = new ByteArrayOutputStream();
        try (GZIPOutputStream gzip = new GZIPOutputStream(out)) {
            gzip.write(bytes);
        }
        return out.size();
    }
}

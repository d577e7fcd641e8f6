package remitto.standins.store;

import static org.assertj.core.api.Assertions.assertThat;

import java.nio.file.Files;
import java.nio.file.Path;
import java.nio.file.StandardOpenOption;
import java.util.ArrayList;
import java.util.List;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import tools.jackson.databind.ObjectMapper;
import tools.jackson.databind.json.JsonMapper;

class DurableLogTest {
    private static final ObjectMapper JSON = JsonMapper.builder().build();

    @TempDir
    private Path folder;

    private List<String> replayed(Path file) {
        List<String> lines = new ArrayList<>();
        new DurableLog(file, JSON, line -> lines.add(line.get("n").asString())).close();
        return lines;
    }

    @Test
    void aLineThatWasCutOffIsDroppedAndTheNextOneTakesItsPlace() throws Exception {
        Path file = folder.resolve("log.jsonl");
        try (DurableLog log = new DurableLog(file, JSON, line -> {})) {
            log.append(JSON.createObjectNode().put("n", "one"));
            log.append(JSON.createObjectNode().put("n", "two"));
        }
        Files.writeString(file, "{\"n\":\"thr", StandardOpenOption.APPEND);
        assertThat(replayed(file)).containsExactly("one", "two");
        try (DurableLog log = new DurableLog(file, JSON, line -> {})) {
            log.append(JSON.createObjectNode().put("n", "three"));
        }
        assertThat(replayed(file)).containsExactly("one", "two", "three");
        try (DurableLog log = new DurableLog(file, JSON, line -> {})) {
            log.clear();
        }
        assertThat(replayed(file)).isEmpty();
    }

    @Test
    void whatWasKeptComesBackWithoutWhatCameSince() {
        Path file = folder.resolve("log.jsonl");
        List<String> back = new ArrayList<>();
        try (DurableLog log = new DurableLog(file, JSON, line -> {})) {
            log.append(JSON.createObjectNode().put("n", "one"));
            log.keep();
            log.append(JSON.createObjectNode().put("n", "two"));
            log.back(line -> back.add(line.get("n").asString()));
            log.append(JSON.createObjectNode().put("n", "three"));
        }
        assertThat(back).containsExactly("one");
        assertThat(replayed(file)).containsExactly("one", "three");
    }

    @Test
    void whereNothingWasKeptNothingComesBack() {
        Path file = folder.resolve("log.jsonl");
        try (DurableLog log = new DurableLog(file, JSON, line -> {})) {
            log.append(JSON.createObjectNode().put("n", "one"));
            log.back(line -> {
                throw new AssertionError("nothing was kept");
            });
        }
        assertThat(replayed(file)).isEmpty();
    }
}

package remitto.standins.lamplight;

import static org.assertj.core.api.Assertions.assertThat;

import java.nio.file.Path;
import java.time.Instant;
import java.util.List;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import tools.jackson.databind.json.JsonMapper;

class LampStoreTest {
    private static final Instant NOW = Instant.parse("2026-11-24T09:00:00Z");
    private static final String ONE = "a".repeat(64);
    private static final String TWO = "b".repeat(64);

    @TempDir
    private Path folder;

    private LampStore open() {
        return new LampStore(
                folder.resolve("lamp.jsonl"),
                List.of("commuters"),
                JsonMapper.builder().build());
    }

    @Test
    void theSameKeyTakesEffectOnceEvenAfterARestart() {
        try (LampStore store = open()) {
            LampStore.Job job = store.submit("commuters", "add", List.of(ONE, TWO), "7-1", NOW, false);
            assertThat(store.submit("commuters", "add", List.of(ONE, TWO), "7-1", NOW, false))
                    .isEqualTo(job);
            assertThat(store.jobs()).hasSize(1);
        }
        try (LampStore store = open()) {
            assertThat(store.members("commuters")).containsExactly(ONE, TWO);
            store.submit("commuters", "add", List.of(ONE, TWO), "7-1", NOW, false);
            assertThat(store.jobs()).hasSize(1);
            store.submit("commuters", "remove", List.of(ONE), "8-1", NOW, false);
            assertThat(store.members("commuters")).containsExactly(TWO);
        }
    }

    @Test
    void whatIsNoHashIsRefusedAndStopsNoOther() {
        try (LampStore store = open()) {
            LampStore.Job job = store.submit(
                    "commuters", "add", List.of("somebody@kai.example", ONE, ONE.toUpperCase()), "", NOW, false);
            assertThat(job.refusals()).containsOnlyKeys(0, 2);
            assertThat(store.size("commuters")).isEqualTo(1);
            assertThat(store.has("strangers")).isFalse();
        }
    }
}

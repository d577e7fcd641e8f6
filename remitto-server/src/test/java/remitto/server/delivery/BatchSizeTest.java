package remitto.server.delivery;

import static org.assertj.core.api.Assertions.assertThat;

import java.nio.charset.StandardCharsets;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import org.junit.jupiter.api.Test;
import remitto.core.cause.Cause;
import remitto.core.manifest.FieldDecision;
import remitto.core.manifest.FieldOutcome;
import remitto.core.manifest.Verdict;
import remitto.core.value.Value;
import remitto.server.manifest.Line;
import remitto.server.manifest.LineFields;
import remitto.server.platform.JsonForTests;
import tools.jackson.databind.json.JsonMapper;

class BatchSizeTest {
    private static final JsonMapper JSON = JsonMapper.builder().build();

    private static Line line(int number, String text) {
        return new Line(
                number,
                number,
                "K" + number,
                "",
                Verdict.ADDED,
                Cause.NONE,
                "",
                "",
                List.of(new FieldDecision("note", FieldOutcome.WRITTEN, Value.MISSING, Value.text(text), "")),
                0,
                0,
                Optional.empty());
    }

    @Test
    void everyPartStaysUnderTheBytesWhateverTheTextNeeds() {
        List<Line> lines = new ArrayList<>();
        for (int i = 0; i < 60; i++) {
            lines.add(line(
                    i,
                    List.of("plain", "Γιώργος Παπαδόπουλος", "😀😀😀", "\u0001\u0002\"\\", "")
                            .get(i % 5)));
        }
        List<List<Line>> parts = BatchSize.split(lines, 2_000);
        assertThat(parts.stream().flatMap(List::stream).toList()).isEqualTo(lines);
        assertThat(parts).hasSizeGreaterThan(2).allSatisfy(part -> {
            int bytes = part.stream()
                    .mapToInt(one -> JSON.writeValueAsString(
                                    one.fields().get(0).fresh().display())
                            .getBytes(StandardCharsets.UTF_8)
                            .length)
                    .sum();
            assertThat(bytes).isLessThan(2_000);
        });
    }

    @Test
    void whatIsKeptAsJsonIsBoundedAsWell() {
        LineFields fields = new LineFields(JsonForTests.json());
        List<Line> lines = new ArrayList<>();
        for (int i = 0; i < 40; i++) {
            String text = fields.write(Map.of(
                    "note", Value.text(List.of("Ærøskøbing 😀\u0001", "x", "").get(i % 3))));
            lines.add(new Line(
                    i,
                    i,
                    "K" + i,
                    "",
                    Verdict.ADDED,
                    Cause.NONE,
                    "",
                    "",
                    fields.kept(text, Map.of()),
                    0,
                    0,
                    Optional.empty()));
        }
        List<List<Line>> parts = BatchSize.split(lines, 1_500);
        assertThat(parts.stream().flatMap(List::stream).toList()).isEqualTo(lines);
        assertThat(parts).hasSizeGreaterThan(2).allSatisfy(part -> {
            int bytes = part.stream()
                    .mapToInt(one -> one.contents().json().orElseThrow().getBytes(StandardCharsets.UTF_8).length)
                    .sum();
            assertThat(bytes).isLessThan(1_500);
        });
    }

    @Test
    void aRecordLargerThanACallGoesAlone() {
        List<List<Line>> parts = BatchSize.split(List.of(line(1, "a"), line(2, "x".repeat(500)), line(3, "b")), 300);
        assertThat(parts).hasSize(3);
        assertThat(BatchSize.split(List.of(), 300)).isEmpty();
    }

    @Test
    void callNumbersOfTwoOwnersNeverMeet() {
        CallNumbers first = new CallNumbers(1);
        CallNumbers second = new CallNumbers(2);
        assertThat(first.next()).isEqualTo(1_000_001);
        assertThat(first.next()).isEqualTo(1_000_002);
        assertThat(second.next()).isEqualTo(2_000_001);
    }
}

package remitto.core.delivery;

import static org.assertj.core.api.Assertions.assertThat;

import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;
import org.junit.jupiter.params.provider.EnumSource;
import remitto.core.manifest.FieldDecision;
import remitto.core.manifest.FieldOutcome;
import remitto.core.manifest.Verdict;
import remitto.core.value.Value;

/** What a record that is read says of the line that was to write it. */
class LandingTest {
    private static final String TOOK = "took";
    private static final String DID_NOT = "did not";
    private static final String GONE = "The record is no longer in the destination";
    private static final String OTHERS = "Read back after an unknown outcome: the destination now holds other values";

    private static Value text(String text) {
        return text.isEmpty() ? Value.EMPTY : new Value.Text(text);
    }

    private static FieldDecision written(String field, String old, String fresh) {
        return new FieldDecision(field, FieldOutcome.WRITTEN, text(old), text(fresh), "");
    }

    private static List<FieldDecision> line() {
        return new ArrayList<>(List.of(
                written("port", "BRE", "TAR"),
                written("name", "", "Runa"),
                // What a line does not write says nothing of whether it was written.
                new FieldDecision("seat", FieldOutcome.SAME, text("12"), text("12"), ""),
                new FieldDecision("class", FieldOutcome.KEPT, text("2"), text("1"), "the rule keeps theirs")));
    }

    private static String told(Landing landing) {
        if (landing instanceof Landing.MovedOn moved) {
            return moved.why();
        }
        return landing instanceof Landing.Took ? TOOK : DID_NOT;
    }

    private static Optional<Map<String, Value>> there(String fields) {
        return switch (fields) {
            case "none" -> Optional.empty();
            case "fresh" -> Optional.of(Map.of("port", text("TAR"), "name", text("Runa"), "seat", text("99")));
            case "old" -> Optional.of(Map.of("port", text("BRE"), "name", Value.EMPTY));
            case "old, unsaid" -> Optional.of(Map.of("port", text("BRE")));
            case "half" -> Optional.of(Map.of("port", text("TAR"), "name", Value.EMPTY));
            case "others" -> Optional.of(Map.of("port", text("KVA"), "name", text("Runa")));
            default -> throw new IllegalArgumentException(fields);
        };
    }

    @ParameterizedTest
    @CsvSource(
            delimiter = '|',
            value = {
                "ADDED | none | did not",
                "ADDED | fresh | took",
                "ADDED | old | " + OTHERS,
                "ADDED | half | " + OTHERS,
                "ADDED | others | " + OTHERS,
                "CHANGED | none | " + GONE,
                "CHANGED | fresh | took",
                "CHANGED | old | did not",
                "CHANGED | old, unsaid | did not",
                // A tool that writes a record in parts was met in the middle of it.
                "CHANGED | half | " + OTHERS,
                "CHANGED | others | " + OTHERS,
                "REMOVED | none | took",
                "REMOVED | old | did not",
                "REMOVED | others | did not",
            })
    void afterAWriteThatGotNoAnswer(Verdict verdict, String fields, String means) {
        assertThat(told(Landing.ofWrite(verdict, line(), there(fields)))).isEqualTo(means);
    }

    @ParameterizedTest
    @CsvSource(
            delimiter = '|',
            value = {
                "CHANGED | none | " + GONE,
                "CHANGED | old | may go",
                "CHANGED | old, unsaid | may go",
                "CHANGED | fresh | Moved on: port in the destination is now \"TAR\", not \"BRE\"",
                "CHANGED | others | Moved on: port in the destination is now \"KVA\", not \"BRE\"",
                "REMOVED | none | " + GONE,
                "REMOVED | others | may go",
            })
    void beforeAWriteThatReliesOnWhatWasRead(Verdict verdict, String fields, String means) {
        assertThat(Landing.ofGround(verdict, line(), there(fields))
                        .map(Landing.MovedOn::why)
                        .orElse("may go"))
                .isEqualTo(means);
    }

    /** A value that is cleared is as good as none. */
    @Test
    void clearingIsSeenToo() {
        List<FieldDecision> cleared = List.of(written("port", "BRE", ""));
        assertThat(Landing.ofWrite(Verdict.CHANGED, cleared, Optional.of(Map.of())))
                .isInstanceOf(Landing.Took.class);
        assertThat(Landing.ofWrite(Verdict.CHANGED, cleared, Optional.of(Map.of("port", text("BRE")))))
                .isEqualTo(new Landing.DidNot());
    }

    /** The words are kept with the line's outcome. */
    @ParameterizedTest
    @EnumSource(
            value = Verdict.class,
            names = {"ADDED", "CHANGED"})
    void howItWasFoundOutIsTold(Verdict verdict) {
        assertThat(Landing.ofWrite(verdict, line(), there("fresh")))
                .isEqualTo(new Landing.Took("found written when read back"));
        assertThat(Landing.ofWrite(Verdict.REMOVED, line(), there("none")))
                .isEqualTo(new Landing.Took("missing when read back"));
    }
}

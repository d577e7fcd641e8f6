package remitto.server.run;

import static org.assertj.core.api.Assertions.assertThat;

import java.math.BigDecimal;
import java.time.LocalDate;
import java.util.List;
import java.util.OptionalInt;
import org.junit.jupiter.api.Test;
import remitto.core.destination.Field;
import remitto.core.destination.FieldKind;
import remitto.core.destination.ObjectDescription;
import remitto.core.manifest.FieldDecision;
import remitto.core.manifest.FieldOutcome;
import remitto.core.value.Value;
import remitto.server.platform.JsonForTests;

class LineFieldsTest {
    private static final ObjectDescription OBJECT = ObjectDescription.of(
            "contact",
            "Contact",
            false,
            List.of(
                    field("name", FieldKind.TEXT),
                    field("score", FieldKind.DECIMAL),
                    field("since", FieldKind.DATE),
                    field("agreed", FieldKind.BOOLEAN)));
    private final LineFields fields = new LineFields(JsonForTests.json());

    private static Field field(String name, FieldKind kind) {
        return new Field(name, name, kind, false, false, false, true, false, OptionalInt.empty(), List.of());
    }

    @Test
    void valuesComeBackAsTheyWent() {
        List<FieldDecision> decisions = List.of(
                new FieldDecision("name", FieldOutcome.WRITTEN, Value.EMPTY, Value.text("Åse \"Øy\"\t\\ Lysne\n"), ""),
                new FieldDecision(
                        "score", FieldOutcome.WRITTEN, Value.number(10), Value.number(new BigDecimal("0.10")), "why"),
                new FieldDecision(
                        "since", FieldOutcome.KEPT, Value.MISSING, new Value.Day(LocalDate.of(2026, 11, 24)), ""),
                new FieldDecision("agreed", FieldOutcome.HELD, new Value.Truth(false), Value.MISSING, "no"));
        assertThat(fields.read(fields.write(decisions), LineFields.byName(OBJECT)))
                .isEqualTo(decisions);
    }

    @Test
    void missingAndEmptyAreShownApart() {
        var shown = fields.view(fields.write(List.of(
                new FieldDecision("name", FieldOutcome.WRITTEN, Value.EMPTY, Value.text("x"), ""),
                new FieldDecision("score", FieldOutcome.WRITTEN, Value.MISSING, Value.number(3), ""))));
        assertThat(shown.get(0).old()).contains("");
        assertThat(shown.get(1).old()).isEmpty();
        assertThat(shown.get(1).fresh()).contains("3");
    }
}

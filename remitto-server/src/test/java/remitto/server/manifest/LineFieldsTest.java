package remitto.server.manifest;

import static org.assertj.core.api.Assertions.assertThat;

import java.math.BigDecimal;
import java.time.LocalDate;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
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

    @Test
    void whatIsKeptIsWhatWouldBeWrittenAgain() {
        Map<String, Value> values = new LinkedHashMap<>();
        values.put("name", Value.text("Åse \"Øy\"\t\\ Lysne\n😀"));
        values.put("score", Value.number(new BigDecimal("-0.10")));
        values.put("since", new Value.Day(LocalDate.of(2026, 11, 24)));
        values.put("agreed", new Value.Truth(false));
        values.put("cleared", Value.EMPTY);
        values.put("unknown there", new Value.Items(List.of(Value.text("a"), Value.text("b"))));
        String text = fields.write(values);

        KeptFields kept = fields.kept(text, LineFields.byName(OBJECT));
        assertThat(kept.json()).contains(text);
        assertThat(kept.value("agreed")).contains(new Value.Truth(false));
        assertThat(kept.value("cleared")).contains(Value.EMPTY);
        assertThat(kept.value("nothing")).isEmpty();
        assertThat(kept.values()).isEqualTo(values);
        assertThat(kept.value("score")).contains(Value.number(new BigDecimal("-0.10")));
        assertThat(kept.value("nothing")).isEmpty();
        assertThat(fields.write(kept.values())).isEqualTo(text);
    }

    @Test
    void keptFieldsAreWrittenDecisions() {
        KeptFields kept =
                fields.kept("{ \"name\" : \"Ingrid\", \"since\" : \"2026-11-24\" }", LineFields.byName(OBJECT));
        assertThat(kept)
                .containsExactly(
                        new FieldDecision("name", FieldOutcome.WRITTEN, Value.MISSING, Value.text("Ingrid"), ""),
                        new FieldDecision(
                                "since",
                                FieldOutcome.WRITTEN,
                                Value.MISSING,
                                new Value.Day(LocalDate.of(2026, 11, 24)),
                                ""));
        assertThat(fields.kept("{}", Map.of())).isEmpty();
    }
}

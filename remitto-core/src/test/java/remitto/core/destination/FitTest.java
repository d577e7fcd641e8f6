package remitto.core.destination;

import static org.assertj.core.api.Assertions.assertThat;

import java.math.BigDecimal;
import java.util.List;
import java.util.Optional;
import java.util.OptionalInt;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;
import remitto.core.shaper.Shaped;
import remitto.core.value.JsonForm;
import remitto.core.value.Value;

class FitTest {
    private static Field field(FieldKind kind) {
        return new Field("f", "F", kind, false, false, false, true, false, OptionalInt.of(16), List.of("NO", "SE"));
    }

    /** The short way of a bulk run leads to the same place as the long one. */
    @ParameterizedTest
    @CsvSource({
        "Tarva",
        "'  '",
        "''",
        "sixteen letters.",
        "eighteen letters..",
        "𝒮𝒾𝓍𝓉𝑒𝑒𝓃𝓁𝑒𝓉𝓉𝑒𝓇𝓈𝒶𝒷𝒸",
        "42"
    })
    void aUsableValueFitsAsTheValueItselfDoes(String text) {
        for (FieldKind kind : List.of(FieldKind.TEXT, FieldKind.INTEGER, FieldKind.CHOICE)) {
            Value value = Value.text(text);
            assertThat(Fit.into(field(kind), new Shaped.Usable(value))).isEqualTo(Fit.into(field(kind), value));
        }
    }

    @ParameterizedTest
    @CsvSource({
        "TEXT, sixteen letters., true",
        "TEXT, seventeen letters, true",
        "TEXT, eighteen letters.., false",
        "INTEGER, 42, true",
        "INTEGER, 42.0, true",
        "INTEGER, 42.5, false",
        "DECIMAL, 42.5, true",
        "DECIMAL, forty, false",
        "BOOLEAN, true, true",
        "BOOLEAN, yes, false",
        "DATE, 2026-02-28, true",
        "DATE, 2026-02-29, false",
        "TIMESTAMP, 2026-02-28T10:00:00+01:00, true",
        "TIMESTAMP, 2026-02-28T10:00:00, false",
        "CHOICE, NO, true",
        "CHOICE, no, false",
        "PHONE, +4791244870, true",
        "PHONE, 91244870, false",
        "PHONE, +47912448701234567, false",
        "EMAIL, a@b.example, true",
        "EMAIL, a b@b.example, false"
    })
    void whatFits(FieldKind kind, String text, boolean fits) {
        boolean short16 = text.codePointCount(0, text.length()) <= 16;
        Shaped shaped = Fit.into(field(kind), Value.text(text));
        assertThat(shaped instanceof Shaped.Usable).isEqualTo(kind == FieldKind.TEXT ? short16 : fits);
    }

    @Test
    void lengthCountsCharactersNotCodeUnits() {
        assertThat(Fit.into(field(FieldKind.TEXT), Value.text("⛴".repeat(8) + "🚢".repeat(8))))
                .isInstanceOf(Shaped.Usable.class);
    }

    @Test
    void numbersAreComparedByValueAndWrittenPlainly() {
        assertThat(Value.number(new BigDecimal("10.00"))).isEqualTo(Value.number(10));
        assertThat(JsonForm.write(Value.number(new BigDecimal("100"))).map(Object::toString))
                .contains("100");
        assertThat(Fit.read(field(FieldKind.DECIMAL), Optional.of(new BigDecimal("1E+2"))))
                .isEqualTo(Value.number(100));
    }

    @Test
    void whatTheToolReturnsIsReadAsTheFieldsType() {
        assertThat(Fit.read(field(FieldKind.DATE), Optional.of("2026-02-28"))).isInstanceOf(Value.Day.class);
        assertThat(Fit.read(field(FieldKind.DATE), Optional.empty())).isEqualTo(Value.EMPTY);
        assertThat(Fit.read(field(FieldKind.DATE), Optional.of("soon"))).isEqualTo(Value.text("soon"));
    }
}

package remitto.core.dataset;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import java.time.Instant;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;
import remitto.core.TestRows;
import remitto.core.value.Value;

class ColumnTypeTest {
    /** Output forms of PostgreSQL's documentation, section 8.5, with DateStyle ISO. */
    @ParameterizedTest
    @CsvSource({
        "2026-11-24 09:30:00+00, 2026-11-24T09:30:00Z",
        "2026-11-24 09:30:00.123456+01, 2026-11-24T08:30:00.123456Z",
        "2026-11-24 09:30:00-03:30, 2026-11-24T13:00:00Z",
        "2026-11-24 09:30:00, 2026-11-24T09:30:00Z"
    })
    void momentsAsTheServerSpellsThem(String cell, Instant expected) {
        assertThat(ColumnType.TIMESTAMP.read(cell)).isEqualTo(new Value.Moment(expected));
    }

    @Test
    void anUnreadableCellNamesItself() {
        assertThatThrownBy(() -> ColumnType.INTEGER.read("many"))
                .isInstanceOf(ColumnType.UnreadableCell.class)
                .hasMessage("\"many\" is not integer");
    }

    @Test
    void missingEmptyAndBlankAreThreeThings() {
        var row = TestRows.row(
                TestRows.columns("id:TEXT:KEY", "a:TEXT", "b:TEXT"), java.util.Map.of("id", "1", "b", "  "));
        assertThat(row.value("nowhere")).isEqualTo(Value.MISSING);
        assertThat(row.value("a")).isEqualTo(Value.EMPTY);
        assertThat(row.value("b")).isEqualTo(Value.text("  "));
        assertThat(row.value("b").isEmpty()).isTrue();
    }

    @Test
    void aKeyOfSeveralColumnsNeedsThemAll() {
        Columns columns = TestRows.columns("a:TEXT:KEY", "b:TEXT:KEY");
        assertThat(TestRows.row(columns, java.util.Map.of("a", "1", "b", "2")).key())
                .contains("1\t2");
        assertThat(TestRows.row(columns, java.util.Map.of("a", "1")).key()).isEmpty();
        assertThat(TestRows.row(columns, java.util.Map.of("a", "1", "b", " ")).key())
                .isEmpty();
    }
}

package remitto.core.landed;

import static org.assertj.core.api.Assertions.assertThat;

import java.time.ZoneId;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;
import remitto.core.dataset.ColumnType;

class CellReadingTest {
    private static String read(ColumnType type, String spelling, String text, String zone) {
        LandedColumn column = new LandedColumn("berth", "Berth", type, spelling);
        assertThat(CellReading.fault(column)).isEmpty();
        CellReading.Cell cell = CellReading.of(column, ZoneId.of(zone)).read(text);
        return cell instanceof CellReading.Cell.Fits fits
                ? fits.text().orElse("NONE")
                : "HELD " + ((CellReading.Cell.DoesNotFit) cell).problem();
    }

    @ParameterizedTest
    @CsvSource(
            delimiter = '|',
            value = {
                "TEXT      |            | ' Å '               | ' Å '",
                "TEXT      |            | ''                  | ''",
                "INTEGER   |            | ' 42 '              | 42",
                "INTEGER   |            | -0                  | 0",
                "INTEGER   |            | 1e3                 | 1000",
                "INTEGER   |            | 12.0                | 12",
                "INTEGER   |            | 12.5                | HELD berth: \"12.5\" is not a whole number",
                "INTEGER   |            | 9223372036854775807 | 9223372036854775807",
                "INTEGER   |            | 9223372036854775808 | HELD berth: \"9223372036854775808\" is too large for a whole number of 64 bits",
                "INTEGER   | comma      | 1.234.567           | 1234567",
                "INTEGER   |            | '  '                | NONE",
                "DECIMAL   |            | 12.50               | 12.50",
                "DECIMAL   |            | 007.50              | 7.5",
                "DECIMAL   |            | 1E-3                | 0.001",
                "DECIMAL   |            | '12,50'             | HELD berth: \"12,50\" is not a number",
                "DECIMAL   |            | NaN                 | HELD berth: \"NaN\" is not a number",
                "DECIMAL   |            | 0x1F                | HELD berth: \"0x1F\" is not a number",
                "DECIMAL   | comma      | '1.234,5'           | 1234.5",
                "DECIMAL   | comma      | '12.50'             | HELD berth: \"12.50\" is not a number with a decimal comma",
                "BOOLEAN   |            | Yes                 | t",
                "BOOLEAN   |            | 0                   | f",
                "BOOLEAN   |            | ja                  | HELD berth: \"ja\" is none of the values for yes (true, t, yes, y, 1) and no (false, f, no, n, 0)",
                "BOOLEAN   | ja/nei     | JA                  | t",
                "DATE      |            | 2024-02-29          | 2024-02-29",
                "DATE      |            | 2023-02-29          | HELD berth: \"2023-02-29\" is not a date (year-month-day)",
                "DATE      | dd.MM.uuuu | 24.12.2026          | 2026-12-24",
                "DATE      | dd.MM.uuuu | 31.11.2026          | HELD berth: \"31.11.2026\" is not a date spelled dd.MM.uuuu",
                "TIMESTAMP |            | 2026-06-01T12:00:00Z | 2026-06-01T12:00:00Z",
                "TIMESTAMP |            | 2026-06-01 12:00     | 2026-06-01T10:00:00Z",
                "INTEGER   |            | -007                | -7",
                "INTEGER   |            | 999999999999999999  | 999999999999999999",
                "BOOLEAN   |            | TRUE                | t",
                "DATE      |            | 0000-01-01          | HELD berth: \"0000-01-01\" is not within the years 1 to 9999",
                "DATE      |            | 2026-1-1            | HELD berth: \"2026-1-1\" is not a date (year-month-day)",
                "TIMESTAMP |            | 2026-06-01 12:00:00Z | 2026-06-01T12:00:00Z",
                "TIMESTAMP |            | 2026-06-01T12:00:00.25Z | 2026-06-01T12:00:00.250Z",
                "TIMESTAMP |            | 2026-06-01T14:00:00+02:00 | 2026-06-01T12:00:00Z",
                "TIMESTAMP |            | 2026-06-01T25:00:00Z | HELD berth: \"2026-06-01T25:00:00Z\" is not a date and time (ISO 8601)",
                "TIMESTAMP | dd.MM.uuuu HH:mm | 01.12.2026 08:30 | 2026-12-01T07:30:00Z",
                "TIMESTAMP |            | 2026-03-29 02:30    | HELD berth: \"2026-03-29 02:30\" does not exist in Europe/Oslo, since the clocks change then"
            })
    void aCellIsReadInItsSpelling(ColumnType type, String spelling, String text, String expected) {
        assertThat(read(type, spelling == null ? "" : spelling, text, "Europe/Oslo"))
                .isEqualTo(expected);
    }

    @ParameterizedTest
    @CsvSource(
            delimiter = '|',
            value = {
                "TEXT    | comma      | text, which has one spelling",
                "DECIMAL | point      | a decimal point, or a decimal comma",
                "BOOLEAN | ja         | the word for yes, a slash and the word for no",
                "DATE    | dd.bb.uuuu | no pattern of a date"
            })
    void aSpellingThatSaysNothingIsRefused(ColumnType type, String spelling, String words) {
        assertThat(CellReading.fault(new LandedColumn("berth", "Berth", type, spelling))
                        .orElseThrow())
                .contains(words);
    }
}
